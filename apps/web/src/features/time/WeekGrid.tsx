import type { IsoDay } from '@crew/core';
import type { TimeDay, TimeEntryView, TimeRow, WeekSheet } from '@crew/contract';
import { useEffect, useRef, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { Button } from '../../ui/Button.tsx';
import { Inline } from '../../ui/layout.tsx';
import { Clipped, Quiet } from '../../ui/text.tsx';
import styled from 'styled-components';
import { HueMark } from '../../ui/marks.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, dayWords, plainDay, hours, hourWords, parseHours } from '../../words/format.ts';
import type { TimeEditing } from './use-time-edit.ts';
import { entriesOn, groupsOf, minutesByDay, type TimeGroup } from './week.ts';

const IndentedHead = styled.th`
  &&& {
    padding-left: 28px;
  }
`;

const BareButton = styled(AriaButton)`
  border: 0;
  background: transparent;
  padding: 2px 5px;
  cursor: pointer;
`;

const OffCell = styled.td`
  && {
    font-weight: 400;
  }
`;

const Scroll = styled.div`
  overflow-x: auto;
`;
const Table = styled.table`
  width: 100%;
  min-width: 720px;
  border-collapse: collapse;
  table-layout: fixed;
  th,
  td {
    padding: 0 6px;
    height: 31px;
    text-align: right;
    font-weight: 400;
    border-top: 1px solid var(--line-2);
  }
  th:first-child,
  td:first-child {
    width: 34%;
    padding-left: 14px;
    text-align: left;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  td:last-child,
  th:last-child {
    padding-right: 14px;
    font-weight: 650;
  }
  thead th {
    border-top: 0;
    height: 44px;
    padding-top: 6px;
    vertical-align: top;
    &:first-child {
      white-space: normal;
    }
  }
  th > span {
    vertical-align: middle;
  }
  ${phone} {
    min-width: 600px;
    th:first-child {
      position: sticky;
      left: 0;
      width: 130px;
      background: var(--panel);
    }
    tr.group th:first-child {
      background: var(--sunk);
    }
  }
  td > span {
    display: block;
    margin-right: -6px;
  }
  input {
    text-align: right;
    margin: 0;
  }
  tr.group > * {
    border-top: 1px solid var(--line);
    background: var(--sunk);
    font-weight: 650;
  }
  tfoot > tr:first-child > * {
    border-top: 1.5px solid var(--line);
    font-weight: 650;
  }
  .off {
    background: repeating-linear-gradient(135deg, transparent 0 4px, var(--line-2) 4px 5px);
  }
  .chosen {
    background: var(--petrol-soft);
  }
`;
const DayButton = styled(AriaButton)<{ $isToday: boolean }>`
  width: 100%;
  padding: 0;
  border: 0;
  background: transparent;
  text-align: right;
  cursor: pointer;
  font-weight: ${({ $isToday }) => ($isToday ? 700 : 400)};
  color: ${({ $isToday }) => ($isToday ? 'var(--ink)' : 'var(--ink-2)')};
  small {
    display: block;
    height: 15px;
    font-size: 11px;
    font-weight: 400;
    color: var(--amber);
  }
`;

interface GridProps {
  readonly week: WeekSheet;
  readonly today: IsoDay;
  readonly added: ReadonlySet<string>;
  readonly chosenDay: string;
  /** Whether days whose time is closed can be changed anyway, as a reason is given. */
  readonly mayChangeLocked: boolean;
  readonly editing: TimeEditing;
  readonly onChooseDay: (day: IsoDay) => void;
}

/** Tasks by days: hours are typed where they are read. */
export function WeekGrid({ week, today, added, chosenDay, mayChangeLocked, editing, onChooseDay }: GridProps) {
  const groups = groupsOf(week, added);
  const logged = minutesByDay(week);
  const classOf = (day: TimeDay): string =>
    [day.isOff ? 'off' : '', day.date === chosenDay ? 'chosen' : ''].filter((name) => name !== '').join(' ');
  const [emptied, setEmptied] = useState<Emptied | null>(null);
  const layout = { week, today, mayChangeLocked, editing, classOf, onChooseDay, onRemove: setEmptied };
  return (
    <>
      {emptied === null ? null : (
        <RemoveAsk
          {...emptied}
          today={today}
          onRemove={() => void editing.remove(emptied.row.task.id, emptied.entry)}
          onDone={() => setEmptied(null)}
        />
      )}
      <Scroll tabIndex={0} role="group" aria-label="Hours by task and day">
        <Table>
          <thead>
            <tr>
              <th scope="col">Hours, as 1.5, 1:30 or 90m</th>
              {week.days.map((day) => (
                <th key={day.date} scope="col" className={day.date === chosenDay ? 'chosen' : undefined}>
                  <DayButton $isToday={day.date === today} aria-pressed={day.date === chosenDay} onPress={() => onChooseDay(day.date)}>
                    {day.date === today ? 'today' : plainDay(day.date).split(' ').slice(0, 2).join(' ')}
                    <small>{day.isLocked ? 'closed' : day.isForgotten ? 'time missing?' : ''}</small>
                  </DayButton>
                </th>
              ))}
              <th scope="col">Week</th>
            </tr>
          </thead>
          {groups.map((group) => (
            <Group key={group.engagement.id} group={group} layout={layout} />
          ))}
          <Totals week={week} logged={logged} classOf={classOf} />
        </Table>
      </Scroll>
    </>
  );
}

const Ask = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
  padding: 9px 14px;
  border-bottom: 1px solid var(--line-2);
  background: var(--amber-soft);
`;

/** Time that goes is asked about first, with its note, which would go along. */
function RemoveAsk({
  row,
  entry,
  today,
  onRemove,
  onDone,
}: Emptied & { readonly today: IsoDay; readonly onRemove: () => void; readonly onDone: () => void }) {
  const place = useRef<HTMLDivElement>(null);
  // The question itself, no button of it: the Enter that emptied the cell must not answer it.
  useEffect(() => place.current?.focus(), []);
  return (
    <Ask ref={place} tabIndex={-1} role="alertdialog" aria-label="Remove this entry?">
      <span>
        Remove {hourWords(entry.minutes)} of {dayWords(entry.day, today)} on “{row.task.title}”
        {entry.note === '' ? '' : `, with its note “${entry.note}”`}?
      </span>
      <Button
        kind="danger"
        onPress={() => {
          onRemove();
          onDone();
        }}
      >
        Remove
      </Button>
      <Button onPress={onDone}>Cancel</Button>
    </Ask>
  );
}

interface Layout extends Pick<GridProps, 'week' | 'today' | 'mayChangeLocked' | 'editing' | 'onChooseDay'> {
  readonly classOf: (day: TimeDay) => string;
  /** An entry that was emptied: it is asked about before it goes. */
  readonly onRemove: (emptied: Emptied) => void;
}

interface Emptied {
  readonly row: TimeRow;
  readonly entry: TimeEntryView;
}

const blankZero = (minutes: number): string => (minutes === 0 ? '' : hours(minutes));

function Group({ group, layout }: { readonly group: TimeGroup; readonly layout: Layout }) {
  const { days } = layout.week;
  return (
    <tbody>
      <tr className="group">
        <th scope="rowgroup">
          <Inline as="span" $gap={9} $isOneLine>
            <HueMark $hue={group.engagement.hue} />
            <Clipped title={group.engagement.name}>{group.engagement.name}</Clipped>
          </Inline>
        </th>
        {group.minutes.map((minutes, index) => (
          <td key={days[index]?.date}>{blankZero(minutes)}</td>
        ))}
        <td>{hours(group.minutes.reduce((total, minutes) => total + minutes, 0))}</td>
      </tr>
      {group.rows.map((row) => (
        <tr key={row.task.id}>
          <IndentedHead scope="row" title={row.task.title}>
            {row.task.title}
            {row.task.isChargeable ? null : <Quiet as="small"> · not chargeable</Quiet>}
          </IndentedHead>
          {days.map((day) => (
            <td key={day.date} className={layout.classOf(day)}>
              <HoursCell row={row} day={day} layout={layout} />
            </td>
          ))}
          <td>{hours(row.entries.reduce((total, entry) => total + entry.minutes, 0))}</td>
        </tr>
      ))}
    </tbody>
  );
}

/** One task on one day. Several entries are put right beside the grid, where each is seen. */
function HoursCell({ row, day, layout }: { readonly row: TimeRow; readonly day: TimeDay; readonly layout: Layout }) {
  const { today, mayChangeLocked, editing, onChooseDay } = layout;
  const entries = entriesOn(row, day.date);
  const minutes = entries.reduce((total, entry) => total + entry.minutes, 0);
  const isFixed = day.date > today || (day.isLocked && !mayChangeLocked);
  if (isFixed) return <>{blankZero(minutes)}</>;
  if (entries.length > 1)
    return (
      <BareButton
        onPress={() => onChooseDay(day.date)}
        aria-label={`${row.task.title}, ${dayWords(day.date, today)}: ${count(entries.length, 'entry', 'entries')}, ${hourWords(minutes)}`}
      >
        {hours(minutes)}
      </BareButton>
    );
  const [entry] = entries;
  const save = (text: string): boolean | string => {
    const typed = text.trim() === '' ? 0 : parseHours(text);
    if (typed === null) return 'Write hours as 1.5, 1:30 or 90m.';
    if (typed > 1440) return 'A day has 24 hours. Write at most 24.';
    if (entry === undefined) {
      if (typed > 0) void editing.log(row.task.id, day.date, typed);
    } else if (typed === 0) layout.onRemove({ row, entry });
    else if (typed !== entry.minutes) void editing.correct(entry, { minutes: typed });
    return true;
  };
  return (
    <span onFocus={() => onChooseDay(day.date)}>
      <TextCell label={`${row.task.title}, ${dayWords(day.date, today)}`} value={blankZero(minutes)} onSave={save} />
    </span>
  );
}

function Totals({
  week,
  logged,
  classOf,
}: {
  readonly week: WeekSheet;
  readonly logged: readonly number[];
  readonly classOf: (day: TimeDay) => string;
}) {
  const total = (of: readonly number[]): number => of.reduce((sum, minutes) => sum + minutes, 0);
  return (
    <tfoot>
      <tr>
        <th scope="row">Total</th>
        {week.days.map((day, index) => (
          <td key={day.date} className={classOf(day)}>
            {blankZero(logged[index] ?? 0)}
          </td>
        ))}
        <td>{hours(total(logged))}</td>
      </tr>
      <Quiet as="tr">
        <th scope="row">Available</th>
        {week.days.map((day) => (
          <td key={day.date} className={classOf(day)}>
            {day.isOff ? 'off' : hours(day.capacity)}
          </td>
        ))}
        <OffCell>{hours(total(week.days.map((day) => day.capacity)))}</OffCell>
      </Quiet>
    </tfoot>
  );
}
