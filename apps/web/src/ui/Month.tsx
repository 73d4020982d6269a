import type { IsoDay } from '@crew/core';
import { parseDate } from '@internationalized/date';
import {
  Calendar,
  CalendarCell,
  CalendarGrid,
  CalendarGridBody,
  CalendarGridHeader,
  CalendarHeaderCell,
  Heading,
} from 'react-aria-components';
import styled from 'styled-components';
import { Button } from './Button.tsx';

const Sheet = styled(Calendar)`
  width: 240px;
  header {
    display: flex;
    align-items: center;
    justify-content: space-between;
    margin-bottom: 6px;
  }
  h2 {
    font-size: 13.5px;
  }
  table {
    width: 100%;
    table-layout: fixed;
    border-collapse: collapse;
  }
  th {
    font-size: 11.5px;
    font-weight: 600;
    color: var(--ink-2);
    padding-bottom: 3px;
  }
`;
/** Today is the agency's: the library would mark the day of this machine. */
const Day = styled(CalendarCell)<{ $isToday: boolean }>`
  display: grid;
  place-items: center;
  height: 30px;
  border-radius: 5px;
  cursor: pointer;
  outline: none;
  &[data-outside-month] {
    visibility: hidden;
  }
  &[data-hovered] {
    background: var(--sunk);
  }
  &[data-selected] {
    background: var(--petrol);
    color: var(--on-petrol);
  }
  ${({ $isToday }) => ($isToday ? 'font-weight: 700; text-decoration: underline; text-underline-offset: 3px;' : '')}
  &[data-focus-visible] {
    outline: 2px solid var(--petrol);
    outline-offset: -2px;
  }
`;

/** A month to choose a day from. */
export function Month({
  value,
  today,
  onChoose,
}: {
  readonly value: string;
  readonly today: IsoDay;
  readonly onChoose: (day: IsoDay) => void;
}) {
  const shown = value === '' ? today : value;
  return (
    <Sheet
      aria-label="Month"
      autoFocus
      firstDayOfWeek="mon"
      defaultFocusedValue={parseDate(shown)}
      value={value === '' ? null : parseDate(value)}
      onChange={(day) => onChoose(day.toString() as IsoDay)}
    >
      <header>
        <Button slot="previous" kind="quiet" aria-label="Earlier month">
          ‹
        </Button>
        <Heading />
        <Button slot="next" kind="quiet" aria-label="Later month">
          ›
        </Button>
      </header>
      <CalendarGrid weekdayStyle="short">
        <CalendarGridHeader>{(day) => <CalendarHeaderCell>{day}</CalendarHeaderCell>}</CalendarGridHeader>
        <CalendarGridBody>{(date) => <Day date={date} $isToday={date.toString() === today} />}</CalendarGridBody>
      </CalendarGrid>
    </Sheet>
  );
}
