import { indexById, refuse } from '../check.ts';
import type { LoadBook, LoadItem } from '../load/book.ts';
import { openBook, readItem } from '../load/load.ts';
import { sumDays } from '../load/sums.ts';
import type { LoadInput, LoadTaskInput } from '../load/types.ts';
import { attempt, type Result } from '../result.ts';

/** What somebody would have on the days of some work if they did all of it; minutes. */
export interface Room {
  readonly id: string;
  /** Their capacity on those days; 0 is away on all of them. */
  readonly capacity: number;
  /** What is left free on those days with the work on them; each day for itself. */
  readonly free: number;
  /** What the work adds above their capacity, on those days or behind them. */
  readonly over: number;
}

/**
 * The load of everybody, to be asked who has room for more. It is worked out once, however often it is
 * asked. Its window is the days of the tasks and some behind them, on which work falls that its own
 * days have no room for. Problems as for `load`, of the tasks asked about too, and people who are
 * not there.
 */
export function openRooms(
  input: LoadInput,
): Result<(tasks: readonly LoadTaskInput[], people: readonly string[]) => Result<readonly Room[]>> {
  return attempt(() => {
    const { book } = openBook(input);
    const index = indexById(input.people, 'people');
    return (tasks, people) =>
      attempt(() => {
        const items = tasks.map((task) => readItem(task, index, input.defaultMinutes));
        return people.map((id) => {
          const person = index.get(id);
          return person === undefined ? refuse({ kind: 'unknown-id', at: 'people', id }) : { id, ...roomOf(book, person, items) };
        });
      });
  });
}

/** What work would leave one person of a book; the book is left as it was. */
export function roomOf(book: LoadBook, person: number, items: readonly LoadItem[]): Omit<Room, 'id'> {
  const taken = items.map((item) => ({ ...item, people: [person], shares: [1], placed: null }));
  const row = { first: person * book.days, end: (person + 1) * book.days };
  const isTheirs = daysOf(book, taken);
  const over = sumDays(book, row).over;
  for (const item of taken) book.add(item);
  const added = sumDays(book, row).over - over;
  const room = { capacity: 0, free: 0 };
  for (const day of isTheirs) {
    const cell = row.first + day;
    const [capacity, load] = [book.capacity[cell] as number, book.load[cell] as number];
    room.capacity += capacity;
    room.free += Math.max(0, capacity - load);
  }
  for (const item of taken) book.remove(item);
  return { ...room, over: added };
}

/** The days of a book that lie within one of the items, from today on. */
function daysOf(book: LoadBook, items: readonly LoadItem[]): ReadonlySet<number> {
  const days = new Set<number>();
  for (const { first, last } of items) {
    const from = Math.max(first, book.today);
    for (let day = from; day <= Math.max(last, from); day++) {
      const place = day - book.from;
      if (place >= 0 && place < book.days) days.add(place);
    }
  }
  return days;
}
