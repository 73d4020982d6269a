import { AddContact, type ContactView } from '@crew/contract';
import { call } from '../../api/client.ts';
import { performOrThrow } from '../../session/perform.ts';
import { Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Muted } from '../../ui/layout.tsx';

interface NewContactProps {
  readonly clientId: string;
  readonly onAdded: (contact: ContactView) => void;
  readonly onCancel?: () => void;
}

/** A new contact: name and mail address are enough to begin with. */
export function NewContactForm({ clientId, onAdded, onCancel }: NewContactProps) {
  const form = useInputForm({
    rules: AddContact,
    typed: { name: '', email: '', phone: '' },
    input: ({ name, email, phone }) => ({ name: name.trim(), email: email.trim(), ...(phone.trim() === '' ? {} : { phone }) }),
    send: async (input) =>
      onAdded(
        await performOrThrow({
          send: () => call<ContactView>('POST', `/clients/${clientId}/contacts`, input),
          said: ({ name }) => `Contact ${name} added.`,
        }),
      ),
  });
  return (
    <SmallForm form={form} action="Add contact" {...(onCancel === undefined ? {} : { onCancel })}>
      <Field {...form.bind('name')} label="Name" autoFocus />
      <Field {...form.bind('email')} label="Mail address" type="email" />
      <Field {...form.bind('phone')} label="Phone (optional)" type="tel" />
      <Muted>No mail is sent, and they cannot sign in yet.</Muted>
    </SmallForm>
  );
}
