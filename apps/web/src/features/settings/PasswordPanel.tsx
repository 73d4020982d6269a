import { ChangePassword } from '@crew/contract';
import { call } from '../../api/client.ts';
import { performOrThrow } from '../../session/perform.ts';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Panel, PanelBody, PanelHead } from '../../ui/layout.tsx';
import { Note, Trouble } from '../../ui/text.tsx';
import { PanelForm } from './parts.tsx';

/** Changing one's password; all other sessions end. */
export function PasswordPanel() {
  const form = useInputForm({
    rules: ChangePassword,
    typed: { current: '', password: '' },
    input: (typed) => typed,
    send: async (input) => {
      await performOrThrow({
        send: () => call('POST', '/account/password', input),
        said: 'Password changed. You are signed out everywhere else.',
      });
      form.reset();
    },
  });
  return (
    <Panel aria-label="Password">
      <PanelHead>
        <h2>Password</h2>
      </PanelHead>
      <PanelBody>
        <PanelForm onSubmit={form.submit} noValidate>
          <Field {...form.bind('current')} label="Current password" type="password" autoComplete="current-password" />
          <Field {...form.bind('password')} label="New password" type="password" autoComplete="new-password" />
          <Note $isSmall>Changing it signs you out on all other devices.</Note>
          <Trouble words={form.trouble} />
          <div>
            <Button type="submit">Change password</Button>
          </div>
        </PanelForm>
      </PanelBody>
    </Panel>
  );
}
