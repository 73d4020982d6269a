import styled from 'styled-components';
import { hourWords } from '../../words/format.ts';
import { Field } from '../Field.tsx';
import { Unreadable } from './typed.ts';
import type { Bound } from './use-input-form.ts';
import { WEEKDAYS, weekTyped } from './week.ts';

const Week = styled.div`
  display: grid;
  grid-template-columns: repeat(7, minmax(0, 1fr));
  gap: 5px;
`;
const Fault = styled.p`
  min-height: 17px;
  font-size: 12px;
  color: var(--brick);
`;
const Sum = styled.p`
  font-size: 12.5px;
  color: var(--ink-2);
  margin: 4px 0 8px;
`;

/** The hours of a week as they are typed, day by day, and what they come to. */
export function WeekInput({ value, onChange, error }: Pick<Bound<readonly string[]>, 'value' | 'onChange' | 'error'>) {
  const week = weekTyped(value);
  const type = (day: number, text: string): void => onChange(value.map((old, index) => (index === day ? text : old)));
  return (
    <>
      <Week>
        {WEEKDAYS.map((day, index) => (
          <Field key={day} isTight label={day} inputMode="decimal" value={value[index] ?? ''} onChange={(text) => type(index, text)} />
        ))}
      </Week>
      <Fault role={error === undefined ? undefined : 'alert'}>{error}</Fault>
      <Sum>{week instanceof Unreadable ? ' ' : `${hourWords(week.reduce((sum, minutes) => sum + minutes, 0))} a week`}</Sum>
    </>
  );
}
