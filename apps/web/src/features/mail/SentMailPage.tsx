import type { MailState, SentMail } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useSentMail } from '../../api/queries.ts';
import { perform } from '../../session/perform.ts';
import { useShown } from '../../session/use-shown.ts';
import { useWho } from '../../session/session.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Empty, ErrorNote, Inline, Loading, Muted, Page, PageHead, Panel, Push } from '../../ui/layout.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { Toned } from '../../ui/text.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, instantWords } from '../../words/format.ts';
import { LinkedText } from './LinkedText.tsx';
import { MailTabs } from './MailTabs.tsx';
import { Reply } from './Reply.tsx';

const Row = styled.li`
  display: grid;
  grid-template-columns: 4px 150px minmax(0, 1fr) auto;
  align-items: start;
  gap: 2px 10px;
  padding: 9px 14px;
  border-top: 1px solid var(--line-2);
  &:first-child {
    border-top: 0;
  }
  > :first-child {
    align-self: stretch;
  }
  > :nth-child(2) {
    overflow-wrap: anywhere;
  }
  ${phone} {
    grid-template-columns: 4px minmax(0, 1fr);
    > :nth-child(n + 3) {
      grid-column: 2;
    }
  }
`;
const Whole = styled.details`
  > summary {
    cursor: pointer;
    font-weight: 600;
    overflow-wrap: anywhere;
  }
`;

const PARTS = [
  { id: 'engagements', name: 'About engagements' },
  { id: 'all', name: 'All' },
  { id: 'answered', name: 'Answered' },
  { id: 'undeliverable', name: 'Not delivered' },
] as const;
type Part = (typeof PARTS)[number]['id'];

const STATE_WORDS: Readonly<Record<MailState, string>> = { waiting: 'being sent', sent: 'sent', undeliverable: 'not delivered' };

/** Everything the app has mailed, what was answered, and what could not be delivered. */
export function SentMailPage() {
  const [search, show] = useShown();
  const part = PARTS.find(({ id }) => id === search.get('only'))?.id ?? 'engagements';
  const after = search.get('after');
  const query = [...(part === 'all' ? [] : [`only=${part}`]), ...(after === null ? [] : [`after=${after}`])].join('&');
  const { data, error } = useSentMail(query);
  const undeliverable = data?.undeliverable ?? 0;
  return (
    <Page>
      <PageHead>
        <h1>Mail</h1>
        <MailTabs shown="/mail/sent" />
        <Push />
        <Segmented<Part>
          label="Show"
          parts={PARTS.map(({ id, name }) => ({
            id,
            name: id === 'undeliverable' && undeliverable > 0 ? `${name} (${undeliverable})` : name,
          }))}
          value={part}
          onChange={(only) => show({ only: only === 'engagements' ? null : only, after: null })}
        />
      </PageHead>
      <Panel aria-label="Sent mail">
        {data === undefined ? (
          error === undefined ? (
            <Loading rows={8} />
          ) : (
            <ErrorNote error={error} />
          )
        ) : data.mails.length === 0 ? (
          <Empty title={part === 'undeliverable' ? 'Everything was delivered.' : 'No mail here yet.'}>
            Mail to the crew and to clients is listed here, with replies.
          </Empty>
        ) : (
          <ul>
            {data.mails.map((mail) => (
              <MailRow key={mail.id} mail={mail} />
            ))}
          </ul>
        )}
      </Panel>
      <Inline>
        {after === null ? null : <ButtonLink href="/mail/sent">Newest</ButtonLink>}
        {data === undefined || data.next === null ? null : <Button onPress={() => show({ after: data.next })}>Older mail</Button>}
      </Inline>
    </Page>
  );
}

const retry = (mail: SentMail): void =>
  void perform({ send: () => call('POST', `/mail/${mail.id}/retry`), said: `“${mail.subject}” is sent again.` });

function MailRow({ mail }: { readonly mail: SentMail }) {
  const me = useWho();
  const { state, trouble, engagement, replies } = mail;
  return (
    <Row>
      {engagement === null ? <span /> : <HueMark $hue={engagement.hue} />}
      <span>
        {mail.to.name}
        <br />
        <Muted>{instantWords(mail.at, me)}</Muted>
      </span>
      <div>
        <Whole>
          <summary>{mail.subject}</summary>
          <LinkedText text={mail.text} />
        </Whole>
        {engagement === null ? null : (
          <Muted>
            <Link href={`/engagements/${engagement.id}`}>{engagement.name}</Link>
          </Muted>
        )}
        {trouble === null ? null : <Toned $tone="bad">{trouble}</Toned>}
        {replies.map((reply) => (
          <Reply key={reply.id} reply={reply} />
        ))}
      </div>
      <Inline $gap={8}>
        <Toned $tone={state === 'undeliverable' ? 'bad' : 'quiet'}>
          {STATE_WORDS[state]}
          {state === 'waiting' && mail.tries > 0 ? `, tried ${count(mail.tries, 'time')}` : ''}
        </Toned>
        {state === 'undeliverable' ? <Button onPress={() => retry(mail)}>Send again</Button> : null}
      </Inline>
    </Row>
  );
}
