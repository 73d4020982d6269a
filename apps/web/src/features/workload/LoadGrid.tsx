import type { DaySums, IsoDay } from '@crew/core';
import type { PlansTried, Workload, WorkloadRow } from '@crew/contract';
import { useMemo, useRef, type PointerEvent, useState } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { PersonMark } from '../../ui/marks.tsx';
import { count, dayWords, hourWords, shortDay } from '../../words/format.ts';
import { useRoom } from '../timeline/use-room.ts';
import { cellsOf, columnsOf, totalsOf, type Cell, type Column, type LoadView } from './columns.ts';
import { NAME_PX, SUM_PX, type GridLayout } from './grid-layout.ts';
import { GridHead } from './GridHead.tsx';
import { LoadBars, LoadPatterns } from './LoadBars.tsx';
import { TicketLanes } from './TicketLanes.tsx';
import { STOP, useGridKeys } from './use-grid-keys.ts';
import { NOBODY, ROW, useTicketDrag } from './use-ticket-drag.ts';
import type { Shift } from './use-shift.ts';

const Shrinking = styled.span`
  min-width: 0;
`;

const Total = styled.strong`
  font-weight: 600;
`;

const Below = styled.small`
  && {
    display: block;
    color: var(--ink-2);
  }
`;

const LEAST_COLUMN_PX = 22;

const Scroll = styled.div`
  overflow-x: auto;
  position: relative;
`;
const Row = styled.div<{ $isOpen?: boolean; $isTarget?: boolean }>`
  position: relative;
  display: grid;
  grid-template-columns: ${NAME_PX}px max-content minmax(${SUM_PX}px, 1fr);
  align-items: end;
  min-width: max-content;
  min-height: 56px;
  border-top: 1px solid var(--line);
  content-visibility: auto;
  contain-intrinsic-height: 56px;
  background: ${({ $isOpen, $isTarget }) => ($isTarget ? 'var(--petrol-soft)' : $isOpen ? 'var(--sunk)' : 'var(--panel)')};
`;
/** Names stay when the days scroll sideways. */
const Names = styled.div`
  position: sticky;
  left: 0;
  z-index: 2;
  align-self: stretch;
  display: flex;
  background: inherit;
`;

const FootNames = styled(Names)`
  padding: 8px 14px;
`;

const DetailNames = styled(Names)`
  padding: 7px 8px 7px 46px;
  color: var(--ink-2);
  font-size: 12px;
`;
const NameButton = styled(AriaButton)`
  display: flex;
  align-items: center;
  gap: 10px;
  width: 100%;
  padding: 0 8px 0 14px;
  border: 0;
  background: transparent;
  text-align: left;
  cursor: pointer;
  min-width: 0;
  span > span {
    display: block;
    font-weight: 600;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  &[data-focus-visible] {
    outline-offset: -3px;
  }
`;
const Sum = styled.span`
  align-self: center;
  padding-right: 12px;
  text-align: right;
  font-weight: 650;
  small {
    display: block;
    font-weight: 400;
    font-size: 11.5px;
    color: var(--ink-2);
    white-space: nowrap;
  }
`;
const Bars = styled.div`
  position: relative;
  align-self: end;
`;
const Readout = styled.span`
  position: absolute;
  z-index: 3;
  /* Within the row: what sticks out of it is not drawn. */
  top: 2px;
  transform: translateX(-50%);
  padding: 2px 8px;
  border-radius: 4px;
  background: var(--ink);
  color: var(--panel);
  font-size: 11.5px;
  white-space: nowrap;
  pointer-events: none;
`;

export interface GridProps {
  readonly workload: Workload;
  readonly view: LoadView;
  readonly today: IsoDay;
  /** Whose tasks are opened beneath their bars. */
  readonly opened: string | null;
  /** What is being tried: how the load of those touched would be. */
  readonly tried: PlansTried['people'] | null;
  readonly onOpen: (personId: string) => void;
  readonly onShift: (shift: Shift) => void;
}

/** People by days or weeks: the bar is the plan, its frame the open hours, and what sticks out is too much. */
export function LoadGrid({ workload, view, today, opened, tried, onOpen, onShift }: GridProps) {
  const frame = useRef<HTMLDivElement>(null);
  const room = useRoom(frame);
  const columns = useMemo(() => columnsOf(workload, view), [workload, view]);
  const columnPx = Math.max(LEAST_COLUMN_PX, Math.floor((room - NAME_PX - SUM_PX) / Math.max(1, columns.length)));
  const dragging = useTicketDrag({ columns, columnPx, onShift });
  const nameOf = (row: string): string => workload.rows.find(({ person }) => person.id === row)?.person.name ?? 'unassigned';
  const layout = { columns, columnPx, today, dragging, nameOf, onShift };
  const { cursor, props } = useGridKeys(columns.length);
  return (
    <Scroll {...props} ref={frame} tabIndex={0} role="group" aria-label={`Hours by person and ${view === 'days' ? 'day' : 'week'}`}>
      <LoadPatterns />
      <GridHead columns={columns} columnPx={columnPx} view={view} today={today} />
      {workload.rows.map((row) => (
        <PersonRow
          key={row.person.id}
          row={row}
          dates={workload.dates}
          layout={layout}
          isOpen={row.person.id === opened}
          cursor={cursor?.row === row.person.id ? cursor.column : null}
          tried={tried?.find(({ person }) => person.id === row.person.id)?.load ?? null}
          onOpen={onOpen}
        />
      ))}
      <UnassignedRow workload={workload} layout={layout} />
    </Scroll>
  );
}

interface PersonRowProps {
  readonly row: WorkloadRow;
  readonly dates: Workload['dates'];
  readonly layout: GridLayout;
  readonly isOpen: boolean;
  /** The column the keyboard is on. */
  readonly cursor: number | null;
  readonly tried: readonly number[] | null;
  readonly onOpen: (personId: string) => void;
}

function PersonRow({ row, dates, layout, isOpen, cursor, tried, onOpen }: PersonRowProps) {
  const { columns, columnPx, today, dragging } = layout;
  const cells = useMemo(() => cellsOf(row, columns), [row, columns]);
  const triedCells = useMemo(() => (tried === null ? null : cellsOf(row, columns, tried)), [row, columns, tried]);
  const totals = totalsOf(row, dates, today);
  const isOver = totals.over > 0;
  const { drag } = dragging;
  return (
    <>
      <Row $isOpen={isOpen} $isTarget={drag?.over === row.person.id && drag.from !== row.person.id} {...{ [ROW]: row.person.id }}>
        <Names>
          <NameButton
            {...STOP}
            onPress={() => onOpen(row.person.id)}
            aria-label={`${row.person.name}: see the tasks behind`}
            aria-expanded={isOpen}
          >
            <PersonMark person={row.person} />
            <Shrinking>
              <span>{row.person.name}</span>
              <small>{row.roles[0] ?? 'no role yet'}</small>
            </Shrinking>
          </NameButton>
        </Names>
        <BarsWithReadout
          cells={cells}
          tried={triedCells}
          layout={layout}
          cursor={cursor}
          label={rowWords(row, { cells, totals, layout })}
        />
        <Sum
          style={isOver ? { color: 'var(--brick)' } : undefined}
          title={`${hourWords(totals.load)} planned of ${hourWords(totals.capacity)} available, from today on`}
        >
          {totals.capacity === 0 ? '—' : `${Math.round((totals.load * 100) / totals.capacity)} %`}
          <small>{isOver ? `${hourWords(totals.over)} over` : `${hourWords(totals.free)} free`}</small>
        </Sum>
      </Row>
      {isOpen ? (
        <LaneRow $isTarget={false} {...{ [ROW]: row.person.id }}>
          <DetailNames>
            <span>
              {row.tasks.length === 0 ? 'no task here' : count(row.tasks.length, 'task')}
              {columnPx * columns.length > 300 && row.tasks.length > 0 ? ', drag to a day or person' : ''}
            </span>
          </DetailNames>
          <TicketLanes tasks={row.tasks} owner={row.person.id} layout={layout} />
        </LaneRow>
      ) : null}
    </>
  );
}

const LaneRow = styled(Row)`
  min-height: 0;
  align-items: start;
  border-top: 1px dashed var(--line);
  background: var(--sunk);
  content-visibility: visible;
`;

const FootRow = styled(LaneRow)`
  border-top-style: solid;
`;

interface BarsProps {
  readonly cells: readonly Cell[];
  readonly tried: readonly Cell[] | null;
  readonly layout: GridLayout;
  readonly cursor: number | null;
  readonly label: string;
}

/** The bars, and in words what is under the pointer or the keyboard's cursor. */
function BarsWithReadout({ cells, tried, layout, cursor, label }: BarsProps) {
  const { columns, columnPx, today } = layout;
  const [pointed, setAt] = useState<number | null>(null);
  const at = pointed ?? cursor;
  const follow = (event: PointerEvent<HTMLElement>): void => {
    const index = Math.floor((event.clientX - event.currentTarget.getBoundingClientRect().left) / columnPx);
    setAt(index >= 0 && index < columns.length ? index : null);
  };
  const [cell, column] = at === null ? [undefined, undefined] : [cells[at], columns[at]];
  return (
    <Bars onPointerMove={follow} onPointerLeave={() => setAt(null)}>
      <LoadBars cells={cells} columns={columns} columnPx={columnPx} label={label} tried={tried} />
      {at === null || cell === undefined || column === undefined ? null : (
        <Readout role="status" style={{ left: Math.max(90, (at + 0.5) * columnPx) }}>
          {cellWords(column, cell, { today, tried: tried?.[at] })}
        </Readout>
      )}
    </Bars>
  );
}

/** "Wed 25 Nov: 10 h of 7.5 h, 2.5 h over". */
export function cellWords(
  column: Column,
  cell: Cell,
  { today, tried }: { readonly today: IsoDay; readonly tried?: Cell | undefined },
): string {
  const when = column.from === column.to ? dayWords(column.from, today) : `${shortDay(column.from, today)} – ${shortDay(column.to, today)}`;
  if (cell.capacity === 0 && cell.load === 0) return `${when}: ${cell.isOff ? 'away' : 'closed'}`;
  const over = cell.over > 0 ? `, ${hourWords(cell.over)} over` : `, ${hourWords(cell.capacity - cell.load)} free`;
  const would = tried === undefined || tried.load === cell.load ? '' : `; would be ${hourWords(tried.load)}`;
  return `${when}: ${hourWords(cell.load)} of ${hourWords(cell.capacity)}${over}${would}`;
}

interface RowFacts {
  readonly cells: readonly Cell[];
  readonly totals: DaySums;
  readonly layout: GridLayout;
}

/** A whole row for those who listen: the figures that stand at its end, and where it is too much. */
function rowWords(row: WorkloadRow, { cells, totals, layout: { columns, today } }: RowFacts): string {
  const over = cells.flatMap((cell, index) => (cell.over > 0 && columns[index] ? [{ cell, column: columns[index] }] : []));
  const days = over.slice(0, 6).map(({ cell, column }) => `${dayWords(column.from, today)} by ${hourWords(cell.over)}`);
  const more = over.length > 6 ? ` and ${over.length - 6} more` : '';
  const words = over.length === 0 ? 'nothing is over' : `${hourWords(totals.over)} over: ${days.join(', ')}${more}`;
  return `${row.person.name}: ${hourWords(totals.load)} planned of ${hourWords(totals.capacity)} available; ${words}`;
}

/** Tickets that are drawn before somebody asks for all: thousands would make the whole grid slow. */
const MOST_TICKETS = 80;

/** Work nobody has yet, on its days; what begins first is shown first. */
function UnassignedRow({ workload, layout }: { readonly workload: Workload; readonly layout: GridLayout }) {
  const tasks = workload.unassigned;
  const minutes = tasks.reduce((sum, task) => sum + task.minutes, 0);
  const { drag } = layout.dragging;
  const [isAll, setAll] = useState(false);
  const isCut = !isAll && tasks.length > MOST_TICKETS;
  const shown = isCut ? [...tasks].sort((one, other) => (one.start < other.start ? -1 : 1)).slice(0, MOST_TICKETS) : tasks;
  return (
    <FootRow $isTarget={drag?.over === NOBODY && drag.from !== null} {...{ [ROW]: NOBODY }}>
      <FootNames>
        <span>
          <Total>Unassigned</Total>
          <Below>
            {tasks.length === 0 ? 'everything is assigned' : `${count(tasks.length, 'task')} · ${hourWords(minutes)}, drop on a person`}
          </Below>
          {isCut ? (
            <Button kind="text" onPress={() => setAll(true)}>
              The first {MOST_TICKETS} are here: show all
            </Button>
          ) : null}
        </span>
      </FootNames>
      <TicketLanes tasks={shown} owner={null} layout={layout} />
    </FootRow>
  );
}
