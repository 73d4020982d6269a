import { AddCustomField } from '@crew/contract';
import { CUSTOM_FIELD_KIND, type CustomFieldKind } from '@crew/core';
import { performOrThrow } from '../../session/perform.ts';
import { call } from '../../api/client.ts';
import { Choose, Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { Unreadable, wordsTyped } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';

const NAMES: Readonly<Record<CustomFieldKind, string>> = {
  text: 'Text',
  number: 'Number',
  date: 'Day',
  choice: 'Choice',
  person: 'Person',
  link: 'Web address',
};

interface NewCustomFieldProps {
  readonly onMade: (id: string) => void;
  readonly onLeave: () => void;
}

const TOO_FEW = new Unreadable('Write at least two options, separated by commas.');

/** Things to choose from, as typed between commas. */
const choicesTyped = (text: string): string[] | Unreadable => (wordsTyped(text).length < 2 ? TOO_FEW : wordsTyped(text));

/** A new custom field for the whole agency, added on the task where it is needed. */
export function NewCustomField({ onMade, onLeave }: NewCustomFieldProps) {
  const typed: { name: string; kind: CustomFieldKind; choices: string } = { name: '', kind: 'text', choices: '' };
  const form = useInputForm({
    rules: AddCustomField,
    typed,
    input: ({ name, kind, choices }) => ({ name, kind, ...(kind === 'choice' ? { choices: choicesTyped(choices) } : {}) }),
    send: async (input) => onMade((await performOrThrow({ send: () => call<{ id: string }>('POST', '/custom-fields', input) })).id),
  });
  return (
    <SmallForm form={form} action="Add field" onCancel={onLeave}>
      <Field {...form.bind('name')} label="Name of the field" autoFocus placeholder="e.g. Print size" />
      <Choose {...form.bind('kind')} label="Type" choices={CUSTOM_FIELD_KIND.map((id) => ({ id, name: NAMES[id] }))} />
      {form.values.kind === 'choice' ? (
        <Field {...form.bind('choices')} label="Options, separated by commas" placeholder="Matt, Silk, Uncoated" />
      ) : null}
    </SmallForm>
  );
}
