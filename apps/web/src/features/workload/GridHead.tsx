import { addDays, daysBetween, mondayOf, type IsoDay } from '@crew/core';
import styled from 'styled-components';
import { useWho } from '../../session/session.tsx';
import { dayWords, weekdayOf } from '../../words/format.ts';
import { longMonth } from '@crew/contract';
import type { Column, LoadView } from './columns.ts';
import { NAME_PX, SUM_PX } from './grid-layout.ts';

const Head = styled.div`
  display: grid;
  grid-template-columns: ${NAME_PX}px max-content minmax(${SUM_PX}px, 1fr);
  align-items: end;
  min-width: max-content;
  padding: 4px 0 5px;
  font-size: 12px;
`;
const What = styled.span`
  position: sticky;
  left: 0;
  z-index: 2;
  padding-left: 14px;
  background: var(--panel);
  color: var(--ink-2);
`;
const Days = styled.div<{ $px: number; $count: number }>`
  display: grid;
  grid-template-columns: repeat(${({ $count }) => $count}, ${({ $px }) => $px}px);
`;
const Day = styled.span<{ $isToday: boolean; $opens: boolean }>`
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  text-align: center;
  white-space: nowrap;
  font-weight: ${({ $isToday }) => ($isToday ? 700 : 400)};
  color: ${({ $isToday }) => ($isToday ? 'var(--ink)' : 'var(--ink-2)')};
  border-left: 1px solid ${({ $opens }) => ($opens ? 'var(--line)' : 'transparent')};
  small {
    height: 15px;
    overflow: visible;
    text-align: left;
    padding-left: 3px;
    font-size: 11px;
    font-weight: 400;
    color: var(--ink-2);
  }
`;

/** The number of a week as calendars of the trade print it. Source: ISO 8601, the week with the year's first Thursday is 1. */
export function weekNumber(day: IsoDay): number {
  const thursday = addDays(mondayOf(day), 3);
  return 1 + Math.floor(daysBetween(`${thursday.slice(0, 4)}-01-01` as IsoDay, thursday) / 7);
}

interface HeadProps {
  readonly columns: readonly Column[];
  readonly columnPx: number;
  readonly view: LoadView;
  readonly today: IsoDay;
}

/** Weeks over days, or months over weeks. */
export function GridHead({ columns, columnPx, view, today }: HeadProps) {
  const { thisWeek } = useWho();
  const dayName = ({ from }: Column): string => {
    const date = String(Number(from.slice(8)));
    return view === 'weeks' || columnPx < 30 ? date : `${weekdayOf(from).slice(0, 1).toUpperCase()} ${date}`;
  };
  const groupName = ({ from }: Column): string => {
    if (view === 'weeks') return longMonth(Number(from.slice(5, 7)) - 1);
    const isNow = thisWeek === mondayOf(from);
    return isNow ? 'This week' : `Week ${weekNumber(from)}`;
  };
  return (
    <Head>
      <What>planned / available</What>
      <Days $px={columnPx} $count={columns.length}>
        {columns.map((column) => (
          <Day
            key={column.from}
            $isToday={column.from <= today && today <= column.to}
            $opens={column.opensGroup}
            title={column.from === column.to ? dayWords(column.from, today) : `week of ${dayWords(column.from, today)}`}
          >
            <small>{column.opensGroup ? groupName(column) : ''}</small>
            {dayName(column)}
          </Day>
        ))}
      </Days>
      <span />
    </Head>
  );
}
