import { Toned } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import type { DeskDay, DeskDayTask } from '@crew/contract';
import { GridList, Link } from 'react-aria-components';
import styled from 'styled-components';
import { Panel } from '../../ui/layout.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { useListDrag } from '../../ui/use-list-drag.ts';
import { phone } from '../../ui/tokens.ts';
import { dayWords, hours, hourWords, parseHours, shortDay, weekdayOf } from '../../words/format.ts';
import { Ticket, type ArrangeContext } from './Ticket.tsx';
import { arrangedOf, type Arranged, type Arranging } from './use-arrange.ts';

const Sum = styled.b`
  font-weight: 650;
`;

const HoursCell = styled(TextCell)`
  width: 40px;
  margin: 0;
  text-align: right;
  font-weight: 650;
  color: var(--ink);
`;

const Days = styled.div`
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 10px;
  ${phone} {
    grid-auto-flow: row;
  }
`;
const Day = styled(Panel)<{ $isToday: boolean; $isPast: boolean }>`
  container-type: inline-size;
  display: flex;
  flex-direction: column;
  padding: 11px 11px 6px;
  min-height: 190px;
  border-color: ${({ $isToday }) => ($isToday ? 'var(--ink)' : 'var(--line)')};
  background: ${({ $isPast }) => ($isPast ? 'var(--sunk)' : 'var(--panel)')};
  h3 {
    display: flex;
    flex-wrap: wrap;
    gap: 0 8px;
    justify-content: space-between;
    margin-bottom: 8px;
    font-weight: 650;
  }
  h3 span {
    font-weight: 400;
    color: var(--ink-2);
  }
  ${phone} {
    min-height: 0;
  }
`;
const Fill = styled.span<{ $part: number; $over: number }>`
  display: block;
  height: 8px;
  margin-bottom: 7px;
  border-radius: 2px;
  background: ${({ $part, $over }) =>
    $over > 0
      ? `linear-gradient(to right, var(--petrol) ${100 - $over}%, var(--brick) 0)`
      : `linear-gradient(to right, var(--petrol-mid) ${$part}%, var(--line-2) 0)`};
`;
/** The whole rest of the day takes what is dropped. */
const List = styled(GridList)`
  flex: 1;
  outline: none;
  border-radius: 4px;
  min-height: 34px;
  &[data-drop-target] {
    background: var(--petrol-soft);
    box-shadow: 0 0 0 2px var(--petrol);
  }
  .react-aria-DropIndicator[data-drop-target] {
    outline: 1px solid var(--petrol);
  }
` as typeof GridList;
const Hint = styled.p`
  padding: 7px 0;
  border-top: 1px solid var(--line-2);
  color: var(--ink-2);
  font-size: 12px;
`;

/** Work that is still to come, as a line: nothing can be done with it yet. */
const Coming = styled.p`
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 4px 0;
  border-top: 1px dashed var(--line);
  color: var(--ink-2);
  font-size: 12px;
  a {
    flex: 1;
    min-width: 0;
    color: inherit;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

interface WeekProps {
  readonly days: readonly DeskDay[];
  /** The name of whose week it is; null for one's own. */
  readonly whose: string | null;
  readonly today: IsoDay;
  readonly context: ArrangeContext;
  readonly onOpen: (taskId: string) => void;
}

/** The week by days, hours against capacity; work is dragged between days and into an order. */
export function WeekDays({ days, ...props }: WeekProps) {
  return (
    <Days>
      {days.map((day) => (
        <OneDay key={day.date} day={day} {...props} />
      ))}
    </Days>
  );
}

function OneDay({ day, whose, today, context, onOpen }: Omit<WeekProps, 'days'> & { readonly day: DeskDay }) {
  const { arranging } = context;
  const isPast = day.date < today;
  const placedIds = new Set(day.tasks.filter((task) => task.isPlaced).map((task) => task.id));
  const hooks = useListDrag<Arranged>({
    kind: 'desk-task',
    items: day.tasks.map((task) => arrangedOf(task, day.date)),
    ...(isPast
      ? {}
      : {
          // Only what was put here has an order; the plan's tasks come after it.
          onDrop: ([task], beforeId) =>
            void (task && arranging.place(task, day.date, beforeId !== null && placedIds.has(beforeId) ? beforeId : null)),
        }),
  });
  return (
    <Day $isToday={day.date === today} $isPast={isPast} aria-label={dayWords(day.date, today)}>
      <h3>
        <Sum>
          {weekdayOf(day.date)} {Number(day.date.slice(8))}
          {day.date === today ? <span> today</span> : null}
        </Sum>
        <span style={day.over > 0 ? { color: 'var(--brick)', fontWeight: 650 } : undefined}>{amountOf(day, isPast)}</span>
      </h3>
      <Fill
        $part={day.capacity === 0 ? 0 : Math.min(100, ((isPast ? day.loggedMinutes : day.load) * 100) / day.capacity)}
        $over={day.load === 0 ? 0 : (day.over * 100) / day.load}
      />
      <List
        aria-label={`Work of ${whose === null ? '' : `${whose}, `}${dayWords(day.date, today)}`}
        keyboardNavigationBehavior="tab"
        items={day.tasks}
        dependencies={[day, context]}
        dragAndDropHooks={hooks}
        onAction={(key) => onOpen(String(key))}
        renderEmptyState={() => <EmptyDay day={day} isPast={isPast} isMine={whose === null} />}
      >
        {(task) => (
          <Ticket
            task={arrangedOf(task, day.date)}
            hue={task.hue}
            title={task.title}
            note={noteOf(task, day.date, today)}
            noteTitle={task.engagement}
            amount={<Amount task={task} day={day.date} arranging={arranging} />}
            context={context}
          />
        )}
      </List>
      {day.coming.map((work) => (
        <Coming key={`${work.unit} ${work.title}`} title="repeats, not created yet">
          <HueMark $hue={work.hue} $height={14} />
          <Link href={`/engagements/repeating/${work.seriesId}`}>{work.title}</Link>
          <span>{hourWords(work.minutes)}</span>
        </Coming>
      ))}
    </Day>
  );
}

/** On a past day what was logged; on the others what is planned. */
function amountOf({ capacity, load, loggedMinutes }: DeskDay, isPast: boolean): string {
  if (capacity === 0 && load === 0 && loggedMinutes === 0) return 'off';
  if (!isPast) return `${hours(load)} / ${hourWords(capacity)}`;
  return capacity === 0 ? `${hourWords(loggedMinutes)} logged` : `${hours(loggedMinutes)} of ${hourWords(capacity)} logged`;
}

function EmptyDay({ day, isPast, isMine }: { readonly day: DeskDay; readonly isPast: boolean; readonly isMine: boolean }) {
  if (isPast && isMine)
    return (
      <Hint>
        <Link href={`/time?day=${day.date}`}>Time entries</Link>
      </Hint>
    );
  return <Hint>{isPast || day.capacity === 0 ? 'nothing planned' : 'free: drag work here'}</Hint>;
}

/** Whose it is, and what about its dates does not fit the day. */
function noteOf(task: DeskDayTask, day: IsoDay, today: IsoDay) {
  const where = task.hasEstimate ? task.engagement : `no estimate · ${task.engagement}`;
  if (task.isDue) return `due · ${where}`;
  if (!task.isPlaced || task.due >= day) return where;
  return <Toned $tone="bad">{`due ${shortDay(task.due, today)} · ${where}`}</Toned>;
}

/** What somebody put on a day is shown in full; what the plan puts there is only listed. */
function Amount({ task, day, arranging }: { readonly task: DeskDayTask; readonly day: IsoDay; readonly arranging: Arranging }) {
  if (!task.isPlaced) return <span title="spread over its days by the plan">{hourWords(task.minutes)}</span>;
  const save = (text: string): boolean => {
    const minutes = parseHours(text);
    if (minutes === null || minutes < 1 || minutes > 1440) return false;
    void arranging.setMinutes(arrangedOf(task, day), minutes);
    return true;
  };
  return <HoursCell label={`Hours of ${task.title} on this day`} value={hours(task.minutes)} onSave={save} />;
}
