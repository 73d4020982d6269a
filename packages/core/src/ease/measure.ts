import { formatDay, type DayNumber } from '../calendar/day.ts';
import type { LoadBook } from '../load/book.ts';
import { sumDays, type DaySums } from '../load/sums.ts';
import type { Peak } from './types.ts';

/** How full somebody is on some days: minutes above capacity, each day for itself, and the busiest day. */
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

/** What somebody has on some days of a book; days outside of it are left out. */
export function sumsWithin(book: LoadBook, person: number, { from, to }: Days): DaySums {
  const row = person * book.days;
  return sumDays(book, { first: row + Math.max(0, from - book.from), end: row + Math.min(book.days - 1, to - book.from) + 1 });
}
