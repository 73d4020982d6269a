import { MAIL_SECURITY, SaveMailServer, type MailSecurity, type MailServerView, type MailTried } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useMailServer } from '../../api/queries.ts';
import { perform, performOrThrow } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { useInputForm, type InputForm } from '../../ui/form/use-input-form.ts';
import { ErrorNote, Inline, Loading, Muted, Page, PageHead, Panel, PanelBody, PanelHead } from '../../ui/layout.tsx';
import { Toned, Trouble } from '../../ui/text.tsx';
import { instantWords } from '../../words/format.ts';
import { MailTabs } from './MailTabs.tsx';

const Form = styled.form`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 4px 14px;
  > .whole {
    grid-column: 1 / -1;
  }
`;
const Facts = styled.dl`
  dt {
    margin-top: 8px;
    font-weight: 600;
  }
  dd {
    margin: 0;
    overflow-wrap: anywhere;
    user-select: all;
  }
`;

const SECURITY_WORDS: Readonly<Record<MailSecurity, string>> = {
  none: 'not protected',
  starttls: 'STARTTLS (usual for port 587)',
  tls: 'TLS from the start (usual for port 465)',
};

/** By which server mail goes out and comes in; for owners. */
export function MailServerPage() {
  const { data, error } = useMailServer();
  return (
    <Page>
      <PageHead>
        <h1>Mail</h1>
        <MailTabs shown="/mail/server" />
      </PageHead>
      {data === undefined ? (
        error === undefined ? (
          <Loading rows={8} />
        ) : (
          <ErrorNote error={error} />
        )
      ) : (
        <>
          <Outgoing key={JSON.stringify(data.server)} view={data} />
          <Incoming view={data} />
          <Faults view={data} />
        </>
      )}
    </Page>
  );
}

/** What stands in the form at first. */
const typedOf = ({ server, fromAddress, replyDomain }: MailServerView) => ({
  host: server?.host ?? '',
  port: String(server?.port ?? 587),
  security: server?.security ?? ('starttls' as MailSecurity),
  user: server?.user ?? '',
  password: '',
  fromAddress: server === null ? '' : fromAddress,
  replyDomain: server === null ? '' : replyDomain,
});

const readServer = (typed: ReturnType<typeof typedOf>): SaveMailServer => ({
  ...{ host: typed.host.trim(), port: Number(typed.port), security: typed.security, user: typed.user.trim() },
  ...(typed.password === '' ? {} : { password: typed.password }),
  ...{ fromAddress: typed.fromAddress.trim(), replyDomain: typed.replyDomain.trim() },
});

function Outgoing({ view }: { readonly view: MailServerView }) {
  const { server } = view;
  const [tried, setTried] = useState<MailTried | null>(null);
  const typed = typedOf(view);
  const form = useInputForm({
    rules: SaveMailServer,
    typed,
    input: readServer,
    send: (input) =>
      performOrThrow({ send: () => call<MailServerView>('PUT', '/mail/server', input), said: `Mail is now sent through ${input.host}.` }),
  });
  const tryIt = async (): Promise<void> => {
    setTried(null);
    const done = await perform({ send: () => call<MailTried>('POST', '/mail/server/try', readServer(form.values)) });
    if (done.isDone) setTried(done.answer);
  };
  return (
    <Panel $space="below">
      <PanelHead>
        <h2>Outgoing mail</h2>
        <Muted>{server === null ? 'stays in this app’s mailboxes' : `sent through ${server.host}`}</Muted>
      </PanelHead>
      <PanelBody>
        <Form aria-label="Mail server" onSubmit={form.submit} noValidate>
          <Fields form={form} hasPassword={server?.hasPassword === true} />
          <Inline className="whole">
            <Button type="submit" kind="primary">
              Save
            </Button>
            <Button onPress={() => void tryIt()}>Send me a test mail</Button>
            {server === null ? null : (
              <Button
                onPress={() =>
                  void perform({ send: () => call('DELETE', '/mail/server'), said: 'Mail stays in this app’s mailboxes again.' })
                }
              >
                Use the app’s mailboxes
              </Button>
            )}
            <Trouble words={form.trouble} />
          </Inline>
          {tried === null ? null : (
            <p className="whole" role="status">
              <Toned $tone={tried.isSent ? 'good' : 'bad'}>{tried.said}</Toned>
            </p>
          )}
        </Form>
      </PanelBody>
    </Panel>
  );
}

function Fields({ form, hasPassword }: { readonly form: InputForm<ReturnType<typeof typedOf>>; readonly hasPassword: boolean }) {
  return (
    <>
      <Field {...form.bind('host')} label="Host" placeholder="smtp.example.com" />
      <Field {...form.bind('port')} label="Port" inputMode="numeric" />
      <Choose {...form.bind('security')} label="Connection" choices={MAIL_SECURITY.map((id) => ({ id, name: SECURITY_WORDS[id] }))} />
      <Field {...form.bind('user')} label="User name (optional)" autoComplete="off" />
      <Field
        {...form.bind('password')}
        label={hasPassword ? 'Password (empty keeps the one saved)' : 'Password'}
        type="password"
        autoComplete="new-password"
      />
      <Field {...form.bind('fromAddress')} label="Sender address" placeholder="studio@example.com" />
      <Field {...form.bind('replyDomain')} label="Reply domain" placeholder="reply.example.com" />
    </>
  );
}

function Incoming({ view: { incoming, replyDomain } }: { readonly view: MailServerView }) {
  return (
    <Panel $space="below">
      <PanelHead>
        <h2>Answers</h2>
        <Muted>mail to {replyDomain} is to be brought here, in one of two ways</Muted>
      </PanelHead>
      <PanelBody>
        <Facts>
          <dt>By SMTP, from a mail server on this machine</dt>
          <dd>{incoming.smtp ?? 'This server does not listen for mail.'}</dd>
          <dt>By a mail provider’s webhook</dt>
          <dd>{incoming.url}</dd>
          <dt>with this secret in the header X-Crew-Mail-Secret</dt>
          <dd>{incoming.secret}</dd>
        </Facts>
      </PanelBody>
    </Panel>
  );
}

function Faults({ view: { faults } }: { readonly view: MailServerView }) {
  const me = useWho();
  if (faults.length === 0) return null;
  return (
    <Panel>
      <PanelHead>
        <h2>Addresses that bounced</h2>
        <Muted>no mail is sent there until one is sent again by hand</Muted>
      </PanelHead>
      <PanelBody>
        <ul>
          {faults.map(({ address, why, at }) => (
            <li key={address}>
              <strong>{address}</strong> {why} <Muted>{instantWords(at, me)}</Muted>
            </li>
          ))}
        </ul>
      </PanelBody>
    </Panel>
  );
}
