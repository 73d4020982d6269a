import { OWN_FIELD_KIND, type OwnFieldKind } from '@crew/core';
import { useState } from 'react';
import { mutate } from 'swr';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/SmallForm.tsx';

/** Things to choose from, as typed between commas. */
export const readChoices = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((word) => word.trim())
      .filter((word) => word !== ''),
  ),
];

const NAMES: Readonly<Record<OwnFieldKind, string>> = {
  text: 'Text',
  number: 'Number',
  date: 'Day',
  choice: 'Choice',
  person: 'Somebody of the crew',
  link: 'Address of a page',
};

interface NewOwnFieldProps {
  readonly onMade: (id: string) => void;
  readonly onLeave: () => void;
}

/** A field for all of the agency's work, thought of where it is missed. */
export function NewOwnField({ onMade, onLeave }: NewOwnFieldProps) {
  const [name, setName] = useState('');
  const [kind, setKind] = useState<OwnFieldKind>('text');
  const [choices, setChoices] = useState('');
  const make = async (): Promise<void> => {
    const body = { name, kind, ...(kind === 'choice' ? { choices: readChoices(choices) } : {}) };
    const { id } = await call<{ id: string }>('POST', '/own-fields', body);
    await mutate('/own-fields');
    onMade(id);
  };
  const isReady = name.trim() !== '' && (kind !== 'choice' || readChoices(choices).length > 1);
  return (
    <SmallForm action="Make the field" isReady={isReady} onSubmit={make}>
      {(trouble) => (
        <>
          <Field label="Name of the field" value={name} onChange={setName} error={trouble} autoFocus placeholder="e.g. Print size" />
          <Choose
            label="It holds"
            choices={OWN_FIELD_KIND.map((id) => ({ id, name: NAMES[id] }))}
            value={kind}
            onChange={(id) => setKind(id as OwnFieldKind)}
          />
          {kind === 'choice' ? (
            <Field
              label="What can be chosen, with commas between"
              value={choices}
              onChange={setChoices}
              placeholder="Matt, Silk, Uncoated"
            />
          ) : null}
          <span style={{ float: 'right' }}>
            <Button kind="quiet" onPress={onLeave}>
              Not now
            </Button>
          </span>
        </>
      )}
    </SmallForm>
  );
}
