import { Quiet } from '../../ui/text.tsx';
import { readCustomValue, type CustomFieldEntry, type CustomFieldValue, isDay } from '@crew/core';
import { can, type CustomField, type PersonRef } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { useCustomFields } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { NewCustomField } from './NewCustomField.tsx';

const StrongLink = styled.a`
  color: var(--petrol);
  font-weight: 600;
`;

const Row = styled.div`
  display: grid;
  grid-template-columns: minmax(84px, 1fr) minmax(0, 1.7fr) auto;
  gap: 8px;
  align-items: center;
  margin-bottom: 6px;
  > span:first-child {
    color: var(--ink-2);
    overflow-wrap: anywhere;
  }
`;
const NONE = 'none';
const NEW = 'new';

interface CustomFieldsProps {
  readonly entries: readonly CustomFieldEntry[];
  readonly onChange: (entries: readonly CustomFieldEntry[]) => void;
  /** The people a field can name, with those it names already. */
  readonly people: readonly PersonRef[];
  /** In a template a day is filled in later, in each engagement. */
  readonly isTemplate?: boolean;
}

/** The agency's custom fields of a task: each filled in where it is read; another one is chosen or added below. */
export function CustomFields({ entries, onChange, people, isTemplate = false }: CustomFieldsProps) {
  const { data: fields } = useCustomFields();
  const me = useWho();
  const [isNew, setNew] = useState(false);
  if (fields === undefined || (fields.length === 0 && !can(me, 'field.edit'))) return null;
  const byId = new Map(fields.map((field) => [field.id, field]));
  const used = new Set(entries.map((entry) => entry.fieldId));
  const more = fields.filter((field) => !field.isArchived && !used.has(field.id));
  const add = (fieldId: string): void => onChange([...entries, { fieldId, value: null }]);
  const set = (fieldId: string, value: CustomFieldValue): void =>
    onChange(entries.map((entry) => (entry.fieldId === fieldId ? { fieldId, value } : entry)));
  const choices = [
    ...more.map((field) => ({ id: field.id, name: field.name, detail: kindWords(field) })),
    ...(can(me, 'field.edit') ? [{ id: NEW, name: 'New field…', detail: 'for the whole agency' }] : []),
  ];
  return (
    <SheetPart>
      <h3>Custom fields</h3>
      {entries.map(({ fieldId, value }) => {
        const field = byId.get(fieldId);
        if (field === undefined) return null;
        return (
          <Row key={fieldId} role="group" aria-label={field.name}>
            <span>{field.name}</span>
            <ValueEditor field={field} value={value} people={people} isTemplate={isTemplate} onSet={(next) => set(fieldId, next)} />
            <Button
              kind="quiet"
              aria-label={`Remove ${field.name}`}
              onPress={() => onChange(entries.filter((entry) => entry.fieldId !== fieldId))}
            >
              ✕
            </Button>
          </Row>
        );
      })}
      {isNew ? (
        <NewCustomField
          onMade={(id) => {
            setNew(false);
            add(id);
          }}
          onLeave={() => setNew(false)}
        />
      ) : choices.length === 0 ? null : (
        <Choose
          label="Add a custom field"
          isLabelHidden
          placeholder="Add a custom field"
          choices={choices}
          value={null}
          onChange={(id) => (id === NEW ? setNew(true) : add(id))}
        />
      )}
    </SheetPart>
  );
}

const KIND_WORDS: Readonly<Record<CustomField['kind'], string>> = {
  text: 'a text',
  number: 'a number',
  date: 'a day',
  choice: 'a choice',
  person: 'a person',
  link: 'an address',
};

/** What a field holds, in words. */
export const kindWords = ({ kind, choices }: Pick<CustomField, 'kind' | 'choices'>): string =>
  kind === 'choice' ? choices.join(', ') : KIND_WORDS[kind];

interface EditorProps extends Pick<CustomFieldsProps, 'people'> {
  readonly field: CustomField;
  readonly value: CustomFieldValue;
  readonly isTemplate: boolean;
  readonly onSet: (value: CustomFieldValue) => void;
}

function ValueEditor({ field, value, people, isTemplate, onSet }: EditorProps) {
  const { today } = useWho();
  switch (field.kind) {
    case 'date':
      if (isTemplate) return <Quiet>filled in on the task</Quiet>;
      return (
        <DayField
          label=""
          aria-label={field.name}
          isTight
          today={today}
          value={isDay(value) ? value : ''}
          onChange={(day) => onSet(day === '' ? null : day)}
        />
      );
    case 'choice':
    case 'person': {
      const known = field.kind === 'person' ? people : field.choices.map((choice) => ({ id: choice, name: choice }));
      const gone = typeof value === 'string' && !known.some((one) => one.id === value);
      // A value that was chosen stays visible, although it is not offered any more.
      const choices = gone ? [...known, { id: value, name: field.kind === 'person' ? 'Somebody' : value }] : known;
      return (
        <Choose
          label={field.name}
          isLabelHidden
          isTight
          choices={[{ id: NONE, name: 'Open' }, ...choices]}
          value={typeof value === 'string' ? value : NONE}
          onChange={(id) => onSet(id === NONE ? null : id)}
        />
      );
    }
    default:
      return <TypedValue field={field} value={value} onSet={onSet} />;
  }
}

const WRONG: Partial<Record<CustomField['kind'], string>> = {
  number: 'Write a number, like 12 or 0.5.',
  link: 'A web address begins with https://.',
  text: 'Keep this to 2 000 characters.',
};

/** Saved when the field is left; what cannot be read stays as typed, with a message. */
function TypedValue({ field, value, onSet }: Pick<EditorProps, 'field' | 'value' | 'onSet'>) {
  const [typed, setTyped] = useState<string | null>(null);
  const read = typed === null ? value : readCustomValue(field, typed);
  const save = (): void => {
    if (read === undefined) return;
    if (read !== value) onSet(read);
    setTyped(null);
  };
  const isOpenable = field.kind === 'link' && typed === null && typeof value === 'string';
  return (
    <span
      style={{ display: 'grid', gridTemplateColumns: isOpenable ? 'minmax(0, 1fr) auto' : 'minmax(0, 1fr)', gap: 6, alignItems: 'center' }}
    >
      <Field
        label=""
        aria-label={field.name}
        isTight
        placeholder={field.kind === 'link' ? 'https://…' : 'Open'}
        inputMode={field.kind === 'number' ? 'decimal' : field.kind === 'link' ? 'url' : 'text'}
        value={typed ?? String(value ?? '')}
        onChange={setTyped}
        onBlur={save}
        onKeyDown={(event) => {
          if (event.key === 'Enter') save();
        }}
        error={read === undefined ? WRONG[field.kind] : undefined}
      />
      {isOpenable ? (
        <StrongLink href={value} target="_blank" rel="noreferrer" aria-label={`Open ${field.name}`}>
          Go
        </StrongLink>
      ) : null}
    </span>
  );
}
