import type { MailAnswered, MailboxMail } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useMailboxMail } from '../../api/queries.ts';
import { perform } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { ErrorNote, Inline, Loading, Muted } from '../../ui/layout.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { Trouble } from '../../ui/text.tsx';
import { instantWords } from '../../words/format.ts';
import { LinkedText } from './LinkedText.tsx';
import { quote } from './quote.ts';

const Title = styled.h2`
  font-size: 17px;
  overflow-wrap: anywhere;
`;
const Page = styled.iframe`
  width: 100%;
  height: 460px;
  border: 1px solid var(--line);
  border-radius: 7px;
`;
const Headers = styled.dl`
  font-size: 12px;
  color: var(--ink-2);
  overflow-wrap: anywhere;
  dt {
    font-weight: 600;
  }
  dd {
    margin: 0 0 4px;
  }
`;

/** One mail as its reader sees it, with a way to answer. */
export function MailSheet({ mailId, onClose }: { readonly mailId: string; readonly onClose: () => void }) {
  const { data, error } = useMailboxMail(mailId);
  return (
    <Sheet label="Mail" line="Mail" onClose={onClose}>
      {data === undefined ? error === undefined ? <Loading rows={8} /> : <ErrorNote error={error} /> : <Body mail={data} />}
    </Sheet>
  );
}

const FORMS = [
  { id: 'text', name: 'Text' },
  { id: 'html', name: 'Page' },
] as const;

function Body({ mail }: { readonly mail: MailboxMail }) {
  const me = useWho();
  const [form, setForm] = useState<'text' | 'html'>('text');
  return (
    <>
      <Title>{mail.subject}</Title>
      <Muted>
        {mail.from} to {mail.to}, {instantWords(mail.at, me)}
      </Muted>
      <SheetPart>
        {mail.html === null ? null : <Segmented label="Shown as" parts={FORMS} value={form} onChange={setForm} />}
        {form === 'html' && mail.html !== null ? (
          // Nothing in a mail runs; its links open in place of the app.
          <Page
            title={`“${mail.subject}” as a page`}
            sandbox="allow-top-navigation-by-user-activation"
            srcDoc={mail.html.replace('<head>', '<head><base target="_top">')}
          />
        ) : (
          <LinkedText text={mail.text} />
        )}
      </SheetPart>
      {mail.replyTo === null ? <Muted>Replies to this mail are not read.</Muted> : <Answer mail={mail} />}
      <SheetPart>
        <details>
          <summary>Headers</summary>
          <Headers>
            {mail.headers.map(({ name, value }) => (
              <div key={name}>
                <dt>{name}</dt>
                <dd>{value}</dd>
              </div>
            ))}
          </Headers>
        </details>
      </SheetPart>
    </>
  );
}

/** An answer above or between the quoted lines, as in any mail program. */
function Answer({ mail }: { readonly mail: MailboxMail }) {
  const me = useWho();
  const [text, setText] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string>();
  if (text === null)
    return (
      <Inline>
        <Button onPress={() => setText(quote(mail, me))}>Answer…</Button>
      </Inline>
    );
  const send = async (): Promise<void> => {
    setTrouble(undefined);
    const { isDone } = await perform({
      send: () => call<MailAnswered>('POST', `/mail/boxes/${mail.id}/answer`, { text }),
      said: ({ state, said }) => (state === 'dropped' ? said : 'Your reply was received.'),
      onTrouble: setTrouble,
    });
    if (isDone) setText(null);
  };
  return (
    <SheetPart>
      <Field label="Answer, above the quoted lines or between them" isLong rows={12} autoFocus value={text} onChange={setText} />
      <Inline>
        <Button kind="primary" onPress={() => void send()}>
          Send answer
        </Button>
        <Button onPress={() => setText(null)}>Cancel</Button>
        <Trouble words={trouble} />
      </Inline>
    </SheetPart>
  );
}
