import type { Workload, WorkloadCell, WorkloadRow, WorkloadTask } from '@crew/contract';
import { Button as AriaButton, Link } from 'react-aria-components';
import styled from 'styled-components';
import { PersonMark } from '../../ui/marks.tsx';
import { hueVar } from '../../ui/tokens.ts';
import { count, dayWords, hours, hourWords } from '../../words/format.ts';
import { packLanes } from './lanes.ts';

const NAME_WIDTH = 196;
const SUM_WIDTH = 84;
/** Height of a full day in pixels; what is above sticks out over the line. */
const FULL = 30;
const FULL_DAY_MINUTES = 450;

const Scroll = styled.div`
  overflow-x: auto;
`;
const Table = styled.div`
  min-width: 860px;
`;
const Row = styled.div<{ $days: number; $isChosen?: boolean }>`
  display: grid;
  grid-template-columns: ${NAME_WIDTH}px repeat(${({ $days }) => $days}, minmax(0, 1fr)) ${SUM_WIDTH}px;
  align-items: end;
  min-height: 56px;
  border-top: 1px solid var(--line);
  background: ${({ $isChosen }) => ($isChosen ? 'var(--petrol-soft)' : 'transparent')};
`;
const Head = styled(Row)`
  min-height: 34px;
  border-top: 0;
  font-size: 12px;
  padding-bottom: 4px;
`;
const DayHead = styled.span<{ $isToday: boolean; $opensWeek: boolean }>`
  text-align: center;
  font-weight: ${({ $isToday }) => ($isToday ? 700 : 400)};
  color: ${({ $isToday }) => ($isToday ? 'var(--ink)' : 'var(--ink-2)')};
  white-space: nowrap;
  border-left: 1px solid ${({ $opensWeek }) => ($opensWeek ? 'var(--line)' : 'transparent')};
`;
const NameButton = styled(AriaButton)`
  display: flex;
  align-items: center;
  gap: 10px;
  align-self: stretch;
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
const Cell = styled.span<{ $opensWeek: boolean }>`
  position: relative;
  align-self: stretch;
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  padding: 0 2px 8px;
  border-left: 1px solid ${({ $opensWeek }) => ($opensWeek ? 'var(--line)' : 'transparent')};
`;
const Open = styled.i`
  position: relative;
  display: block;
  border-radius: 3px;
  background: var(--line-2);
  overflow: hidden;
`;
const Planned = styled.i<{ $isFull: boolean }>`
  position: absolute;
  inset: auto 0 0 0;
  background: ${({ $isFull }) => ($isFull ? 'var(--petrol)' : 'var(--petrol-mid)')};
`;
const Over = styled.i`
  display: block;
  border: 1px solid var(--brick);
  border-bottom: 0;
  border-radius: 3px 3px 0 0;
  background: repeating-linear-gradient(135deg, var(--brick-soft) 0 3px, var(--brick) 3px 4.2px);
`;
const OverWords = styled.b`
  text-align: center;
  font-size: 9.5px;
  line-height: 1.2;
  color: var(--brick);
`;
const Away = styled.i`
  display: block;
  height: ${FULL}px;
  border-radius: 3px;
  background: repeating-linear-gradient(135deg, var(--sunk) 0 4px, var(--line) 4px 5.2px);
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
const Lanes = styled.div`
  grid-column: 2 / -2;
  position: relative;
  align-self: stretch;
`;
const Ticket = styled(Link)`
  position: absolute;
  height: 20px;
  padding: 1px 6px 0 8px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--panel);
  font-size: 12px;
  text-decoration: none;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
`;

const LETTERS = ['S', 'M', 'T', 'W', 'T', 'F', 'S'];
const weekdayOf = (day: string): number => new Date(`${day}T00:00:00Z`).getUTCDay();
const dayHead = (day: string): string => `${LETTERS[weekdayOf(day)]} ${Number(day.slice(8))}`;

interface GridProps {
  readonly workload: Workload;
  readonly rows: readonly WorkloadRow[];
  readonly today: string;
  readonly chosen: string | null;
  readonly onChoose: (personId: string) => void;
}

/** People by days: the bar is the plan, its frame the open hours, and what sticks out is too much. */
export function LoadGrid({ workload, rows, today, chosen, onChoose }: GridProps) {
  const shown = workload.dates
    .map((date, index) => ({ ...date, index }))
    .filter(({ date, index }) => weekdayOf(date) % 6 !== 0 || rows.some((row) => (row.days[index]?.load ?? 0) > 0));
  const days = shown.map(({ index }) => index);
  return (
    <Scroll tabIndex={0} role="group" aria-label="Hours by person and day">
      <Table>
        <Head $days={shown.length}>
          <span style={{ paddingLeft: 14, color: 'var(--ink-2)' }}>hours planned / open</span>
          {shown.map(({ date }) => (
            <DayHead key={date} $isToday={date === today} $opensWeek={weekdayOf(date) === 1} title={dayWords(date, today)}>
              {dayHead(date)}
            </DayHead>
          ))}
          <span />
        </Head>
        {rows.map((row) => (
          <PersonRow key={row.person.id} row={row} days={days} today={today} isChosen={row.person.id === chosen} onChoose={onChoose} />
        ))}
        <Unassigned tasks={workload.unassigned} dates={shown.map(({ date }) => date)} />
      </Table>
    </Scroll>
  );
}

interface PersonRowProps {
  readonly row: WorkloadRow;
  readonly days: readonly number[];
  readonly today: string;
  readonly isChosen: boolean;
  readonly onChoose: (personId: string) => void;
}

function PersonRow({ row, days, today, isChosen, onChoose }: PersonRowProps) {
  const cells = days.map((index) => row.days[index]).filter((cell) => cell !== undefined);
  const coming = cells.filter((cell) => cell.date >= today);
  const capacity = coming.reduce((sum, cell) => sum + cell.capacity, 0);
  const load = coming.reduce((sum, cell) => sum + cell.load, 0);
  const isOver = load > capacity;
  return (
    <Row $days={days.length} $isChosen={isChosen}>
      <NameButton onPress={() => onChoose(row.person.id)} aria-label={`${row.person.name}: see the tasks behind`} aria-pressed={isChosen}>
        <PersonMark person={row.person} />
        <span style={{ minWidth: 0 }}>
          <span>{row.person.name}</span>
          <small>{row.roles[0] ?? 'no role yet'}</small>
        </span>
      </NameButton>
      {cells.map((cell) => (
        <DayCell key={cell.date} cell={cell} today={today} />
      ))}
      <Sum
        style={isOver ? { color: 'var(--brick)' } : undefined}
        title={`${hourWords(load)} planned of ${hourWords(capacity)} open, from today on`}
      >
        {capacity === 0 ? '—' : `${Math.round((load * 100) / capacity)} %`}
        <small>{isOver ? `${hours(load - capacity)} h over` : `${hours(capacity - load)} h free`}</small>
      </Sum>
    </Row>
  );
}

function DayCell({ cell, today }: { readonly cell: WorkloadCell; readonly today: string }) {
  const opensWeek = weekdayOf(cell.date) === 1;
  const words = `${dayWords(cell.date, today)}: ${hourWords(cell.load)} planned of ${hourWords(cell.capacity)} open${cell.isOff ? ', time off' : ''}`;
  if (cell.capacity === 0 && cell.load === 0) {
    return (
      <Cell $opensWeek={opensWeek} title={words}>
        <Away />
      </Cell>
    );
  }
  const open = (cell.capacity * FULL) / FULL_DAY_MINUTES;
  const over = Math.min(16, (cell.over * FULL) / FULL_DAY_MINUTES);
  return (
    <Cell $opensWeek={opensWeek} title={words} role="img" aria-label={words}>
      {cell.over > 0 ? (
        <>
          <OverWords>+{hours(cell.over)}</OverWords>
          <Over style={{ height: Math.max(4, over) }} />
        </>
      ) : null}
      <Open style={{ height: Math.max(3, open) }}>
        <Planned
          $isFull={cell.over > 0}
          style={{ height: `${cell.capacity === 0 ? 0 : Math.min(100, (cell.load * 100) / cell.capacity)}%` }}
        />
      </Open>
    </Cell>
  );
}

/** Work nobody has yet, on its days. */
function Unassigned({ tasks, dates }: { readonly tasks: readonly WorkloadTask[]; readonly dates: readonly string[] }) {
  const lanes = packLanes(tasks, dates);
  const minutes = tasks.reduce((sum, task) => sum + task.minutes, 0);
  return (
    <Row $days={dates.length} style={{ background: 'var(--sunk)', alignItems: 'center' }}>
      <span style={{ padding: '8px 14px' }}>
        <strong style={{ fontWeight: 600 }}>Still unassigned</strong>
        <small style={{ display: 'block', color: 'var(--ink-2)' }}>
          {tasks.length === 0 ? 'everything has somebody' : `${count(tasks.length, 'task')} · ${hourWords(minutes)}`}
        </small>
      </span>
      <Lanes style={{ minHeight: Math.max(1, lanes.count) * 26 + 8 }}>
        {lanes.placed.map(({ task, lane, left, width }) => (
          <Ticket
            key={task.id}
            href={`/engagements/${task.engagement.id}?task=${task.id}`}
            style={{ top: 6 + lane * 26, left: `${left}%`, width: `${width}%`, borderLeft: `4px solid ${hueVar(task.engagement.hue)}` }}
            aria-label={`${task.title}, ${task.engagement.name}, ${hourWords(task.minutes)}`}
          >
            {task.title}
          </Ticket>
        ))}
      </Lanes>
    </Row>
  );
}
