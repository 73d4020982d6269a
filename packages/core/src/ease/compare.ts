import { formatDay, type IsoDay } from '../calendar/day.ts';
import { indexById, requireDay, requireList } from '../check.ts';
import { isSameItem, type LoadBook, type LoadItem } from '../load/book.ts';
import { openBook, readItem } from '../load/load.ts';
import type { LoadInput, LoadTaskInput } from '../load/types.ts';
import { attempt, type Result } from '../result.ts';
import { measure, type Fullness } from './measure.ts';

/** Both days included. */
export interface IsoDays {
  readonly from: IsoDay;
  readonly to: IsoDay;
}

/** The load as it is, and the tasks as they would be; people and calendar stay. */
export interface LoadChange {
  readonly load: Omit<LoadInput, 'from' | 'to'>;
  readonly tasks: readonly LoadTaskInput[];
  /** The days on which a difference counts and fullness is measured. */
  readonly ahead: IsoDays;
  /** The days whose load is answered. */
  readonly shown: IsoDays;
}

/** Somebody whose work would be another: how full before and after, and minutes on each of the days shown. */
export interface LoadDifference {
  readonly person: string;
  readonly before: Fullness;
  readonly after: Fullness;
  readonly load: readonly number[];
}

/**
 * Whose days a change of tasks makes others, in the order of the people. The load is computed once;
 * only tasks that differ are taken off and computed anew, so that a small change costs little
 * beside the whole. Problems as for `load`.
 */
export function compareLoad({ load, tasks, ahead, shown }: LoadChange): Result<LoadDifference[]> {
  return attempt(() => {
    requireList(tasks, 'tasks');
    const from = Math.min(requireDay(ahead.from, 'ahead.from'), requireDay(shown.from, 'shown.from'));
    const to = Math.max(requireDay(ahead.to, 'ahead.to'), requireDay(shown.to, 'shown.to'));
    const { book } = openBook({ ...load, from: formatDay(from), to: formatDay(to) });
    const [span, window] = [placesOf(book, ahead), placesOf(book, shown)];
    const before = load.people.map((_, person) => ({ fullness: measure(book, person, span), days: daysOf(book, person, span) }));
    layAnew(book, load, tasks);
    return load.people.flatMap(({ id }, person): LoadDifference[] => {
      const was = before[person] as (typeof before)[number];
      const now = daysOf(book, person, span);
      if (now.every((minutes, day) => minutes === was.days[day])) return [];
      return [{ person: id, before: was.fullness, after: measure(book, person, span), load: daysOf(book, person, window) }];
    });
  });
}

/** Places of days within a book: the first, and the one behind the last. */
interface Places {
  readonly first: number;
  readonly end: number;
}

const placesOf = (book: LoadBook, days: IsoDays): Places => ({
  first: requireDay(days.from, 'from') - book.from,
  end: requireDay(days.to, 'to') - book.from + 1,
});

const daysOf = (book: LoadBook, person: number, { first, end }: Places): number[] =>
  Array.from(book.load.subarray(person * book.days + first, person * book.days + end));

/** Removes what is gone or differs, adds what is new or differs. */
function layAnew(book: LoadBook, load: LoadChange['load'], tasks: readonly LoadTaskInput[]): void {
  const people = indexById(load.people, 'people');
  indexById(tasks, 'tasks');
  const read = (task: LoadTaskInput): LoadItem | null => {
    const item = readItem(task, people, load.defaultMinutes);
    return task.done === true ? null : item;
  };
  const kept = new Map(load.tasks.map((task) => [task.id, read(task)]));
  for (const task of tasks) {
    const [was, is] = [kept.get(task.id) ?? null, read(task)];
    kept.delete(task.id);
    if (was !== null && is !== null && isSameItem(was, is)) continue;
    if (was !== null) book.remove(was);
    if (is !== null) book.add(is);
  }
  for (const gone of kept.values()) if (gone !== null) book.remove(gone);
}
