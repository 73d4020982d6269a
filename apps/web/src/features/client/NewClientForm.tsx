import { AddClient } from '@crew/contract';
import { call } from '../../api/client.ts';
import { performOrThrow } from '../../session/perform.ts';
import { Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';

/** A client that is new; its colour is the one used least. */
export function NewClientForm({ onAdded }: { readonly onAdded: (clientId: string) => void }) {
  const form = useInputForm({
    rules: AddClient,
    typed: { name: '' },
    input: (typed) => typed,
    send: async (input) => onAdded((await performOrThrow({ send: () => call<{ id: string }>('POST', '/clients', input) })).id),
  });
  return (
    <SmallForm form={form} action="Add client">
      <Field {...form.bind('name')} label="Name of the client" autoFocus />
    </SmallForm>
  );
}
