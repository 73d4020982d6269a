import { readCalendar, select, rank } from '../calendar/calendar.ts';
import { formatDay, type DayNumber, type IsoDay } from '../calendar/day.ts';
import { refuse, requireDay, requireList, requireObject, requireWhole } from '../check.ts';
import type { LoadItem } from '../load/book.ts';
import { openBook } from '../load/load.ts';
import type { LoadInput } from '../load/types.ts';
import { attempt, ProblemError, type Result } from '../result.ts';
import { schedule } from '../schedule/schedule.ts';
import type { Schedule, ScheduleInput } from '../schedule/types.ts';
import { addedOver, BEHIND_DAYS, LEAST_OVER } from './added-over.ts';

/** What a task of the new work asks of somebody; minutes. */
export interface TriedWork {
  readonly task: string;
  readonly person: string;
  readonly minutes: number;
}

/** New work to try on the real load, wherever it starts. */
export interface EarliestStartInput {
  /** The real load; its window is left aside, the search makes its own. */
  readonly load: Omit<LoadInput, 'from' | 'to'>;
  readonly plan: Omit<ScheduleInput, 'start' | 'today'>;
  readonly work: readonly TriedWork[];
  /** The first day it may start on, and how many working days are tried from there (250). */
  readonly from: IsoDay;
  readonly tries?: number;
}

/** The first start that puts nobody over more than they are, and when it would then be finished. */
export interface EarliestStart {
  readonly start: IsoDay;
  readonly finish: IsoDay;
  /** Working days that were tried and overloaded somebody. */
  readonly tried: number;
  /** Who is over by this work alone, were nothing else to do: no other start would help them. Minutes. */
  readonly alone: readonly { readonly person: string; readonly minutes: number }[];
}

const TRIES = 250;
const MOST_TRIES = 1000;

/**
 * The earliest start that overloads nobody: each working day from `from` on is tried on the
 * real load, the whole of the new work placed as the schedule and the load place it, until one adds
 * less than half an hour above anybody's capacity (core-spec, sections 2 and 3). What the work alone asks too much
 * of somebody, with nothing else to do, is told apart: no start could heal it. Null when none of the tries does.
 */
export function earliestStart(input: EarliestStartInput): Result<EarliestStart | null> {
  return attempt(() => {
    requireObject(input, 'input');
    requireList(input.work, 'work');
    const calendar = readCalendar(input.load.calendar, 'load.calendar');
    const from = requireDay(input.from, 'from');
    const tries = input.tries === undefined ? TRIES : requireWhole(input.tries, 'tries', 1);
    if (tries > MOST_TRIES) refuse({ kind: 'invalid-field', at: 'tries', expected: `at most ${MOST_TRIES}` });
    const first = rank(calendar, from);
    const dayOf = (offset: number): DayNumber => select(calendar, first + offset);
    const length = lengthOf(input, formatDay(dayOf(0)));
    const window = { from: input.load.today, to: formatDay(dayOf(tries) + length + BEHIND_DAYS) };
    const { book } = openBook({ ...input.load, ...window });
    const { book: empty } = openBook({ ...input.load, ...window, tasks: [] });
    const people = new Map(input.load.people.map((person, index) => [person.id, index]));
    for (let offset = 0; offset < tries; offset++) {
      const start = formatDay(dayOf(offset));
      const plan = planned(input, start);
      const items = itemsOf(plan, input.work, people);
      const touched = [...new Set(items.flatMap((item) => item.people))];
      const [added, alone] = [addedOver(book, items, touched), addedOver(empty, items, touched)];
      if (touched.some((_, index) => (added[index] as number) - (alone[index] as number) >= LEAST_OVER)) continue;
      const tooMuch = touched.map((person, index) => ({ person: input.load.people[person]?.id ?? '', minutes: alone[index] as number }));
      return { start, finish: plan.finish, tried: offset, alone: tooMuch.filter(({ minutes }) => minutes >= LEAST_OVER) };
    }
    return null;
  });
}

/** Calendar days from a start to its finish. */
function lengthOf(input: EarliestStartInput, start: IsoDay): number {
  return requireDay(planned(input, start).finish, 'finish') - requireDay(start, 'start') + 7;
}

function planned({ plan }: EarliestStartInput, start: IsoDay): Schedule {
  const result = schedule({ ...plan, start });
  if (!result.ok) throw new ProblemError(result.problem);
  return result.value;
}

/** The new work as items of the load book. */
function itemsOf(plan: Schedule, work: readonly TriedWork[], people: ReadonlyMap<string, number>): LoadItem[] {
  const dates = new Map(plan.tasks.map((task) => [task.id, task]));
  return work.map(({ task, person, minutes }): LoadItem => {
    const at = dates.get(task);
    const place = people.get(person);
    if (at === undefined) return refuse({ kind: 'unknown-id', at: 'work.task', id: task });
    if (place === undefined) return refuse({ kind: 'unknown-id', at: 'work.person', id: person });
    return {
      minutes: requireWhole(minutes, `work[${task}].minutes`, 0),
      first: requireDay(at.start, 'start'),
      last: requireDay(at.finish, 'finish'),
      people: [place],
      shares: [1],
      placed: null,
    };
  });
}
