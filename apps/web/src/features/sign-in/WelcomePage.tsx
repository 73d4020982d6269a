import { UseLink, type AccessLinkFacts, type AccessLinkUsed } from '@crew/contract';
import { useNavigate, useParams } from 'react-router';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { enterSession, useAccessLink } from '../../api/queries.ts';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Inline, Loading } from '../../ui/layout.tsx';
import { Trouble } from '../../ui/text.tsx';
import { EntryPage } from './EntryPage.tsx';

const Form = styled.form`
  display: flex;
  flex-direction: column;
  gap: 4px;
`;

/** Where the link of an invitation, or for a forgotten password, leads. */
export function WelcomePage() {
  const { token = '' } = useParams();
  const { data: facts, error } = useAccessLink(token);
  if (error !== undefined)
    return (
      <EntryPage title="This link cannot be used">
        <p>{error.message}</p>
        <Inline $gap={8}>
          <ButtonLink kind="primary" href="/sign-in">
            Sign in
          </ButtonLink>
          <ButtonLink href="/forgotten">Ask for a new link</ButtonLink>
        </Inline>
      </EntryPage>
    );
  if (facts === undefined) return <EntryPage title="Choose a password">{<Loading rows={4} />}</EntryPage>;
  return (
    <EntryPage title={facts.kind === 'invitation' ? `Welcome to ${facts.agencyName}` : 'Choose a new password'}>
      <p>
        {facts.kind === 'invitation' ? `${facts.name}, you` : 'You'} sign in as <strong>{facts.email}</strong>. Choose a password of at
        least 12 characters, such as a few words that do not belong together.
      </p>
      <PasswordForm token={token} facts={facts} />
    </EntryPage>
  );
}

function PasswordForm({ token, facts }: { readonly token: string; readonly facts: AccessLinkFacts }) {
  const navigate = useNavigate();
  const form = useInputForm({
    rules: UseLink,
    typed: { password: '' },
    input: (typed) => typed,
    send: async (input) => {
      const { isSignedIn } = await call<AccessLinkUsed>('POST', `/access-links/${token}`, input);
      if (isSignedIn) await enterSession();
      await navigate(isSignedIn ? '/' : '/sign-in', { replace: true });
    },
  });
  return (
    <Form onSubmit={form.submit} noValidate>
      {/* Password managers keep the address with the password. */}
      <input type="hidden" autoComplete="username" value={facts.email} readOnly />
      <Field {...form.bind('password')} label="Password" type="password" autoComplete="new-password" autoFocus />
      <Trouble words={form.trouble} />
      <Button kind="primary" type="submit">
        {facts.kind === 'invitation' ? 'Start' : 'Save password'}
      </Button>
    </Form>
  );
}
