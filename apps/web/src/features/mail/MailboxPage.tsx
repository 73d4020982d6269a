import type { Mailbox } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useMailbox } from '../../api/queries.ts';
import { useShown } from '../../session/use-shown.ts';
import { useWho } from '../../session/session.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel, Push, WithSheet } from '../../ui/layout.tsx';
import { count, instantWords } from '../../words/format.ts';
import { MailSheet } from './MailSheet.tsx';
import { MailTabs } from './MailTabs.tsx';

const Row = styled.li<{ $isOpen: boolean }>`
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 12px;
  padding: 8px 14px;
  border-top: 1px solid var(--line-2);
  background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'transparent')};
  &:first-child {
    border-top: 0;
  }
  a {
    font-weight: 600;
    text-decoration: none;
    overflow-wrap: anywhere;
    &::after {
      content: '';
      position: absolute;
      inset: 0;
    }
  }
  > p {
    grid-column: 1 / -1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    color: var(--ink-2);
    font-size: 12.5px;
  }
`;

/** What the app has mailed to whom, while mail goes to the bundled mailboxes; read and answered as its reader would. */
export function MailboxPage() {
  const [search, show] = useShown();
  const { data, error } = useMailbox(search.get('address'));
  const open = search.get('mail');
  return (
    <Page>
      <PageHead>
        <h1>Mail</h1>
        <MailTabs shown="/mail" />
        <Push />
        {data === undefined || data.boxes.length < 2 ? null : (
          <Choose
            label="Mailbox of"
            isTight
            choices={data.boxes.map(({ address, name, mails }) => ({ id: address, name: `${name}, ${count(mails, 'mail')}` }))}
            value={data.address}
            onChange={(address) => show({ address, mail: null })}
          />
        )}
      </PageHead>
      <PageHead as="div">
        <Muted>Until a mail server is set up, all mail from the app arrives here only. Replies work: write one as its reader would.</Muted>
      </PageHead>
      <WithSheet $isOpen={open !== null}>
        <Panel aria-label={`Mailbox of ${data?.address ?? ''}`}>
          {data === undefined ? error === undefined ? <Loading rows={6} /> : <ErrorNote error={error} /> : <Mails box={data} open={open} />}
        </Panel>
        {open === null ? null : <MailSheet key={open} mailId={open} onClose={() => show({ mail: null })} />}
      </WithSheet>
    </Page>
  );
}

function Mails({ box: { address, mails }, open }: { readonly box: Mailbox; readonly open: string | null }) {
  const me = useWho();
  if (mails.length === 0) return <Empty title="No mail yet.">Handoffs, reminders and mail from rules arrive here.</Empty>;
  return (
    <ul>
      {mails.map(({ id, subject, at, begins }) => (
        <Row key={id} $isOpen={id === open}>
          <Link href={`/mail?address=${encodeURIComponent(address)}&mail=${id}`}>{subject}</Link>
          <Muted as="time">{instantWords(at, me)}</Muted>
          <p>{begins}</p>
        </Row>
      ))}
    </ul>
  );
}
