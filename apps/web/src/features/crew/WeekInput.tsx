import styled from 'styled-components';
import { Field } from '../../ui/Field.tsx';
import { hourWords } from '../../words/format.ts';
import { weekOf, WEEKDAYS } from './use-person-form.ts';

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

interface WeekInputProps {
  /** Hours of Monday … Sunday as they are typed. */
  readonly typed: readonly string[];
  readonly onType: (day: number, text: string) => void;
  readonly fault: string | undefined;
}

/** The hours of a week, day by day, and what they come to. */
export function WeekInput({ typed, onType, fault }: WeekInputProps) {
  const week = weekOf(typed);
  return (
    <>
      <Week>
        {WEEKDAYS.map((day, index) => (
          <Field key={day} isTight label={day} inputMode="decimal" value={typed[index] ?? ''} onChange={(text) => onType(index, text)} />
        ))}
      </Week>
      <Fault role={fault === undefined ? undefined : 'alert'}>{fault}</Fault>
      <Sum>{week === null ? ' ' : `${hourWords(week.reduce((sum, minutes) => sum + minutes, 0))} a week`}</Sum>
    </>
  );
}
