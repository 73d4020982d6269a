import { formatDay, type IsoDay } from '../calendar/day.ts';
import { indexById, refuse } from '../check.ts';
import { attempt, type Result } from '../result.ts';
import type { LoadBook, LoadItem } from './book.ts';
import { openBook, readItem } from './load.ts';
import { splitByLargestRemainder } from './split.ts';
import type { LoadDay, LoadInput } from './types.ts';

/** What of a task lies on somebody's day, minutes; whether they put it there themselves. */
export interface DayPart {
  readonly task: string;
  readonly minutes: number;
  readonly isPlaced: boolean;
}

/** One person's day with the tasks that make its load; one that they placed there is in it also with nothing left to do. */
export interface OwnDay extends LoadDay {
  readonly parts: readonly DayPart[];
}

/**
 * The days of one person from … to, each with what lies on it, task by task in the order of the
 * input. Load, capacity and over are those of `load` (core-spec, section 3): the parts of a day
 * add up to its load. Problems as for `load`, and a person who is not there.
 */
export function ownDays(input: LoadInput, personId: string): Result<OwnDay[]> {
  return attempt(() => {
    const { book } = openBook({ ...input, tasks: [] });
    const people = indexById(input.people, 'people');
    indexById(input.tasks, 'tasks');
    const person = people.get(personId);
    if (person === undefined) return refuse({ kind: 'unknown-id', at: 'person', id: personId });
    const parts: DayPart[][] = Array.from({ length: book.days }, () => []);
    for (const task of input.tasks) {
      const own = ownPart(readItem(task, people, input.defaultMinutes), person);
      if (task.done === true || own === null) continue;
      const placedDays = new Set(
        (own.placed?.[0] ?? []).filter(({ day, minutes }) => day >= book.today && minutes > 0).map(({ day }) => day),
      );
      minutesByDay(book, own).forEach((minutes, day) => {
        const isPlaced = placedDays.has(book.from + day);
        if (minutes > 0 || isPlaced) (parts[day] as DayPart[]).push({ task: task.id, minutes, isPlaced });
      });
    }
    return parts.map((list, day) => dayOf({ book, person, day, parts: list }));
  });
}

/** A task as this person has it: their part of its minutes, and what they placed; null when it is not theirs. */
function ownPart(item: LoadItem, person: number): LoadItem | null {
  const at = item.people.indexOf(person);
  if (at === -1) return null;
  const minutes = splitByLargestRemainder(item.minutes, item.shares)[at] as number;
  return { ...item, minutes, people: [person], shares: [1], placed: item.placed && [item.placed[at] ?? null] };
}

/** Where the book would put it; the book is left as it was. */
function minutesByDay(book: LoadBook, item: LoadItem): readonly number[] {
  const first = (item.people[0] as number) * book.days;
  const row = book.load.subarray(first, first + book.days);
  book.add(item);
  const minutes = Array.from(row);
  book.remove(item);
  return minutes;
}

interface OneDay {
  readonly book: LoadBook;
  readonly person: number;
  readonly day: number;
  readonly parts: readonly DayPart[];
}

function dayOf({ book, person, day, parts }: OneDay): OwnDay {
  const date: IsoDay = formatDay(book.from + day);
  const capacity = book.capacity[person * book.days + day] as number;
  const load = parts.reduce((sum, part) => sum + part.minutes, 0);
  return { date, capacity, load, over: Math.max(0, load - capacity), parts };
}
