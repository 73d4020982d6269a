import { Note } from '../../ui/text.tsx';
import { backBy, perform } from '../../session/perform.ts';
import type { CustomField } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useCustomFields } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { ErrorNote, Loading } from '../../ui/layout.tsx';
import { Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { wordsTyped } from '../../ui/form/typed.ts';
import { count } from '../../words/format.ts';
import { NewCustomField } from './NewCustomField.tsx';
import { kindWords } from './CustomFields.tsx';

const NameCell = styled(TextCell)`
  font-weight: 600;
`;

const Row = styled.li`
  padding: 7px 0;
  border-top: 1px solid var(--line-2);
  > div {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 8px;
    align-items: center;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
`;

/** The agency's custom fields in one place: added, renamed, given options, archived. */
export function CustomFieldsSheet({ onClose }: { readonly onClose: () => void }) {
  const { data: fields, error } = useCustomFields();
  const [isNew, setNew] = useState(false);
  return (
    <Sheet label="Custom fields" line="Custom fields" onClose={onClose}>
      <SheetTitle>Custom fields</SheetTitle>
      <Note>Extra facts your agency records about a task.</Note>
      {error ? <ErrorNote error={error} /> : fields === undefined ? <Loading rows={4} /> : null}
      <ul>
        {(fields ?? []).map((field) => (
          <FieldRow key={field.id} field={field} />
        ))}
      </ul>
      <SheetPart>
        {isNew ? (
          <NewCustomField onMade={() => setNew(false)} onLeave={() => setNew(false)} />
        ) : (
          <Button onPress={() => setNew(true)}>New field…</Button>
        )}
      </SheetPart>
    </Sheet>
  );
}

function FieldRow({ field }: { readonly field: CustomField }) {
  const send = (change: object): Promise<unknown> => call('PATCH', `/custom-fields/${field.id}`, change);
  const save = (change: object, undo?: object): void =>
    void perform({
      send: () => send(change),
      ...(undo === undefined
        ? {}
        : { said: `“${field.name}” ${field.isArchived ? 'restored' : 'archived'}.`, undo: () => backBy(() => send(undo)) }),
    });
  const used = field.usedTimes === 0 ? 'not used yet' : `on ${count(field.usedTimes, 'task')}`;
  return (
    <Row style={field.isArchived ? { color: 'var(--ink-2)' } : undefined}>
      <div>
        <NameCell
          label={`Name of the field ${field.name}`}
          value={field.name}
          onSave={(name) => (name.trim() === '' ? false : void save({ name: name.trim() }))}
        />
        <Button
          kind="quiet"
          aria-label={field.isArchived ? `Restore ${field.name}` : `Archive ${field.name}`}
          onPress={() => void save({ isArchived: !field.isArchived }, { isArchived: field.isArchived })}
        >
          {field.isArchived ? 'Restore' : 'Archive'}
        </Button>
      </div>
      {field.kind === 'choice' ? (
        <TextCell
          label={`Options of ${field.name}`}
          value={field.choices.join(', ')}
          onSave={(text) => (wordsTyped(text).length < 2 ? false : void save({ choices: wordsTyped(text) }))}
        />
      ) : null}
      <small>
        {field.kind === 'choice' ? 'a choice' : kindWords(field)} · {used}
        {field.isArchived ? ' · archived: it stays where it is filled in' : ''}
      </small>
    </Row>
  );
}
