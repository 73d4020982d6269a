import type { IsoDay } from '@crew/core';

/** How days and hours read, on the screen and in mails. All take ISO days; none knows the time of day. */

/** Short names of days, Sunday first, and of months; names of months in full. */
export interface DateNames {
  readonly weekdays: readonly string[];
  readonly months: readonly string[];
  readonly longMonths: readonly string[];
}

export const ENGLISH_DATES: DateNames = {
  weekdays: ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'],
  months: ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'],
  longMonths: [
    ...['January', 'February', 'March', 'April', 'May', 'June'],
    ...['July', 'August', 'September', 'October', 'November', 'December'],
  ],
};

let names = ENGLISH_DATES;

/** Chooses the names of days and months from now on, for everything this program words: a screen has one reader. */
export function nameDates(next: DateNames): void {
  names = next;
}

/** "Jan" for 0. */
export const shortMonth = (index: number): string => names.months[index] ?? '';

/** "January" for 0. */
export const longMonth = (index: number): string => names.longMonths[index] ?? '';

/** "Sun" for 0. */
export const shortWeekday = (index: number): string => names.weekdays[index] ?? '';

const parts = (day: IsoDay) => {
  const date = new Date(`${day}T00:00:00Z`);
  return {
    weekday: shortWeekday(date.getUTCDay()),
    date: date.getUTCDate(),
    month: shortMonth(date.getUTCMonth()),
    year: date.getUTCFullYear(),
  };
};

const yearOf = (day: IsoDay, today: IsoDay): string => (day.slice(0, 4) === today.slice(0, 4) ? '' : ` ${day.slice(0, 4)}`);

/** "Thu". */
export const weekdayOf = (day: IsoDay): string => parts(day).weekday;

/** "Thu 26 Nov", "today", with the year only when it is another one. */
export function dayWords(day: IsoDay, today: IsoDay): string {
  if (day === today) return 'today';
  const { weekday, date, month } = parts(day);
  return `${weekday} ${date} ${month}${yearOf(day, today)}`;
}

/** "Thu 26 Nov", where the year is known. */
export function plainDay(day: IsoDay): string {
  const { weekday, date, month } = parts(day);
  return `${weekday} ${date} ${month}`;
}

/** "Thu 26 Nov 2026", whatever today is. */
export const fullDay = (day: IsoDay): string => `${plainDay(day)} ${day.slice(0, 4)}`;

/** "26 Nov". */
export function shortDay(day: IsoDay, today: IsoDay): string {
  const { date, month } = parts(day);
  return `${date} ${month}${yearOf(day, today)}`;
}

/** "13 Jan", where the years are shown beside it already. */
export const dayWithoutYear = (day: IsoDay): string => shortDay(day, day);

/** "3 – 4 Nov", "30 Nov – 14 Dec", or one day. */
export function spanWords(start: IsoDay, end: IsoDay, today: IsoDay): string {
  if (start === end) return shortDay(end, today);
  const from = parts(start);
  const to = parts(end);
  const isSameMonth = from.month === to.month && from.year === to.year;
  const isSameYear = from.year === to.year;
  return `${isSameMonth ? from.date : isSameYear ? `${from.date} ${from.month}` : shortDay(start, today)} – ${shortDay(end, today)}`;
}

/** Minutes as hours: 390 is "6.5", 20 is "0.3". */
export function hours(minutes: number): string {
  const value = Math.round(minutes / 6) / 10;
  return Number.isInteger(value) ? String(value) : value.toFixed(1);
}

/** "6.5 h". */
export const hourWords = (minutes: number): string => `${hours(minutes)} h`;

/** "1 task", "3 tasks". */
export const count = (number: number, one: string, many = `${one}s`): string => `${number} ${number === 1 ? one : many}`;

const clockParts = (instant: string, zone: string): string[] =>
  new Intl.DateTimeFormat('en-CA', { timeZone: zone, dateStyle: 'short', timeStyle: 'short', hourCycle: 'h23' })
    .format(new Date(instant))
    .split(', ');

/** The ISO day of an instant, by the agency's clock. */
export const dayOf = (instant: string, zone: string): IsoDay => clockParts(instant, zone)[0] as IsoDay;

/** "16:20" of an instant, by the agency's clock. */
export const timeWords = (instant: string, zone: string): string => clockParts(instant, zone)[1] ?? '';
