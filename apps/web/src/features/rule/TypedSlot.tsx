import { RULE_DAY_FROM, type RuleChoices, type RuleDay, type RuleDayFrom, type FieldValue, type SlotValue } from '@crew/contract';
import { useState, type ReactNode } from 'react';
import { Form } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Inline } from '../../ui/layout.tsx';
import { FILL_INS } from './FilledText.tsx';

const Box = styled.div`
  display: flex;
  flex-direction: column;
  gap: 8px;
  width: 320px;
  max-width: 88vw;
  padding: 6px;
`;

interface TypedProps {
  readonly label: string;
  readonly value: unknown;
  readonly onChange: (value: SlotValue) => void;
}

/** A form of one slot: nothing counts until it is set, and Enter sets it. */
function SlotForm({ onSet, children }: { readonly onSet: () => void; readonly children: ReactNode }) {
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        onSet();
      }}
    >
      <Box>
        {children}
        <Inline>
          <Button kind="primary" type="submit">
            Set
          </Button>
        </Inline>
      </Box>
    </Form>
  );
}

const FillIns = styled.p`
  font-size: 12.5px;
  color: var(--ink-2);
  button {
    margin-right: 8px;
  }
`;

interface TextSlotProps extends TypedProps {
  readonly isLong: boolean;
  /** Enter begins a new line; Set sets it. */
  readonly hasLines?: boolean;
}

export function TextSlot({ label, value, onChange, isLong, hasLines = false }: TextSlotProps) {
  const [text, setText] = useState(typeof value === 'string' ? value : '');
  const set = (): void => {
    if (text.trim() !== '') onChange(text.trim());
  };
  // But for a mail, a text of a rule is one paragraph: Enter sets it.
  const onKeyDown = (event: { readonly key: string; readonly preventDefault: () => void }): void => {
    if (event.key !== 'Enter' || hasLines) return;
    event.preventDefault();
    set();
  };
  return (
    <SlotForm onSet={set}>
      <Field label={label} isLong={isLong} isTight autoFocus value={text} onChange={setText} onKeyDown={onKeyDown} />
      <FillIns>
        Add what is filled in when the rule runs:{' '}
        {Object.entries(FILL_INS).map(([fact, words]) => (
          <Button key={fact} kind="text" onPress={() => setText(`${text.trimEnd()} {${fact}}`.trimStart())}>
            {words}
          </Button>
        ))}
      </FillIns>
    </SlotForm>
  );
}

/** A whole number; what is no number is not set. */
function useNumber(first: unknown): readonly [string, (text: string) => void, number | null] {
  const [text, setText] = useState(typeof first === 'number' ? String(Math.abs(first)) : '');
  const number = Number(text.trim().replace(',', '.'));
  return [text, setText, text.trim() !== '' && Number.isFinite(number) ? number : null];
}

export function NumberSlot({ label, value, onChange }: TypedProps) {
  const [text, setText, number] = useNumber(value);
  return (
    <SlotForm onSet={() => number !== null && onChange(number)}>
      <Field label={label} isTight autoFocus inputMode="decimal" value={text} onChange={setText} />
    </SlotForm>
  );
}

const SIDES = {
  offset: [
    { id: '-1', name: 'working days before' },
    { id: '1', name: 'working days after' },
  ],
  shift: [
    { id: '1', name: 'working days later' },
    { id: '-1', name: 'working days earlier' },
  ],
} as const;

/** Working days to one side or the other. */
export function DaysSlot({ label, kind, value, onChange }: TypedProps & { readonly kind: 'offset' | 'shift' }) {
  const [text, setText, number] = useNumber(value);
  const isBefore = typeof value === 'number' ? value < 0 : kind === 'offset';
  const [side, setSide] = useState<'-1' | '1'>(isBefore ? '-1' : '1');
  const set = (): void => {
    if (number === null || (kind === 'shift' && number === 0)) return;
    onChange(Math.round(number) * Number(side) || 0);
  };
  return (
    <SlotForm onSet={set}>
      <Field label={label} isTight autoFocus inputMode="numeric" value={text} onChange={setText} />
      <Choose label="Before or after" isLabelHidden choices={[...SIDES[kind]]} value={side} onChange={setSide} />
    </SlotForm>
  );
}

const FROM_WORDS: Readonly<Record<RuleDayFrom, string>> = {
  today: 'the day the rule runs',
  'phase-start': 'the start of the phase',
  'phase-finish': 'the finish of the phase',
};

export function DaySlot({ label, value, onChange }: TypedProps) {
  const { days, from: counted } = value as RuleDay;
  const [text, setText, number] = useNumber(days);
  const [side, setSide] = useState<'-1' | '1'>(days < 0 ? '-1' : '1');
  const [from, setFrom] = useState<RuleDayFrom>(counted);
  return (
    <SlotForm onSet={() => number !== null && onChange({ days: Math.round(number) * Number(side) || 0, from })}>
      <Field label={label} isTight autoFocus inputMode="numeric" value={text} onChange={setText} />
      <Choose label="Before or after" isLabelHidden choices={[...SIDES.offset]} value={side} onChange={setSide} />
      <Choose
        label="Counted from"
        isLabelHidden
        choices={RULE_DAY_FROM.map((id) => ({ id, name: FROM_WORDS[id] }))}
        value={from}
        onChange={setFrom}
      />
    </SlotForm>
  );
}

export function FieldSlot({ label, value, onChange, fields }: TypedProps & { readonly fields: RuleChoices['fields'] }) {
  const before = (value ?? null) as FieldValue | null;
  const [fieldId, setField] = useState<string | null>(before?.fieldId ?? null);
  const [text, setText] = useState(before === null ? '' : String(before.value));
  const field = fields.find(({ id }) => id === fieldId);
  const set = (): void => {
    if (fieldId === null || text.trim() === '') return;
    const number = Number(text);
    onChange({ fieldId, value: field?.kind === 'number' && Number.isFinite(number) ? number : text.trim() });
  };
  return (
    <SlotForm onSet={set}>
      <Choose label={label} isTight choices={fields} value={fieldId} onChange={setField} />
      {field?.kind === 'choice' ? (
        <Choose
          label="Fill in"
          isTight
          choices={field.options.map((id) => ({ id, name: id }))}
          value={text === '' ? null : text}
          onChange={setText}
        />
      ) : (
        <Field label="Fill in" isTight value={text} onChange={setText} />
      )}
    </SlotForm>
  );
}
