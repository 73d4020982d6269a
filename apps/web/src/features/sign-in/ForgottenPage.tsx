import { AskForLink } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Inline } from '../../ui/layout.tsx';
import { Trouble } from '../../ui/text.tsx';
import { EntryPage } from './EntryPage.tsx';

const Form = styled.form`
  display: flex;
  flex-direction: column;
  gap: 4px;
`;

/** Asks for a link to choose a new password. What is answered is the same whether the address is known or not. */
export function ForgottenPage() {
  const [asked, setAsked] = useState<string | null>(null);
  const form = useInputForm({
    rules: AskForLink,
    typed: { email: '' },
    input: ({ email }) => ({ email: email.trim() }),
    send: async (input) => {
      await call('POST', '/access-links', input);
      setAsked(input.email);
    },
  });
  if (asked !== null)
    return (
      <EntryPage title="Check your mail">
        <p>
          If somebody signs in as {asked}, a link to choose a new password is on its way. It works once, for two hours. No mail? Ask a lead
          of your agency for a link.
        </p>
        <ButtonLink href="/sign-in">Back to sign-in</ButtonLink>
      </EntryPage>
    );
  return (
    <EntryPage title="Forgot your password?">
      <p>Write the address you sign in with. You get a link to choose a new password.</p>
      <Form onSubmit={form.submit} noValidate>
        <Field {...form.bind('email')} label="Mail address" type="email" autoComplete="username" autoFocus />
        <Trouble words={form.trouble} />
        <Inline $gap={8}>
          <Button kind="primary" type="submit">
            Send link
          </Button>
          <ButtonLink kind="quiet" href="/sign-in">
            Cancel
          </ButtonLink>
        </Inline>
      </Form>
    </EntryPage>
  );
}
