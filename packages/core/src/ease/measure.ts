import { formatDay, type DayNumber } from '../calendar/day.ts';
import type { LoadBook } from '../load/book.ts';
import type { Peak } from './types.ts';

/** How full somebody is over the whole book: minutes above capacity in all, and the fullest day. */
export interface Fullness {
  readonly over: number;
  readonly peak: Peak;
}

interface Days {
  readonly from: DayNumber;
  readonly to: DayNumber;
}

/** Measures one person of a book, or some places of it; days × 1. Among equally full days the earliest is the peak. */
export function measure(book: LoadBook, person: number, places = { first: 0, end: book.days }): Fullness {
  let over = 0;
  let peak = places.first;
  for (let day = places.first; day < places.end; day++) {
    const [load, capacity] = cell(book, person, day);
    over += Math.max(0, load - capacity);
    if (isFuller([load, capacity], cell(book, person, peak))) peak = day;
  }
  const [load, capacity] = cell(book, person, peak);
  return { over, peak: { date: formatDay(book.from + peak), load, capacity } };
}

/** Load over capacity compared without dividing; a day with no capacity is fuller than any other as soon as it has work. */
const isFuller = ([load, capacity]: readonly [number, number], [most, room]: readonly [number, number]): boolean =>
  most === 0 ? load > 0 || (room === 0 && capacity > 0) : load * room > most * capacity;

const cell = (book: LoadBook, person: number, day: number): readonly [number, number] => [
  book.load[person * book.days + day] as number,
  book.capacity[person * book.days + day] as number,
];

/** Minutes above capacity, and on how many days, within some days of a book. */
export function overWithin(book: LoadBook, person: number, days: Days): { readonly over: number; readonly overDays: number } {
  let over = 0;
  let overDays = 0;
  eachDay(book, days, (day) => {
    const [load, capacity] = cell(book, person, day);
    if (load <= capacity) return;
    over += load - capacity;
    overDays++;
  });
  return { over, overDays };
}

/** Minutes open within some days of a book. */
export function capacityWithin(book: LoadBook, person: number, days: Days): number {
  let sum = 0;
  eachDay(book, days, (day) => (sum += cell(book, person, day)[1]));
  return sum;
}

/** Minutes planned within some days of a book. */
export function loadWithin(book: LoadBook, person: number, days: Days): number {
  let sum = 0;
  eachDay(book, days, (day) => (sum += cell(book, person, day)[0]));
  return sum;
}

function eachDay(book: LoadBook, { from, to }: Days, visit: (day: number) => void): void {
  const last = Math.min(book.days - 1, to - book.from);
  for (let day = Math.max(0, from - book.from); day <= last; day++) visit(day);
}
