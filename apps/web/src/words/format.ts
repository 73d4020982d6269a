import type { IsoDay } from '@crew/core';
/** How days, hours and spans read on the screen. All take ISO days; none knows the time of day. */

const WEEKDAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

const parts = (day: IsoDay) => {
  const date = new Date(`${day}T00:00:00Z`);
  return {
    weekday: WEEKDAYS[date.getUTCDay()] as string,
    date: date.getUTCDate(),
    month: MONTHS[date.getUTCMonth()] as string,
    year: date.getUTCFullYear(),
  };
};

const yearOf = (day: IsoDay, today: IsoDay): string => (day.slice(0, 4) === today.slice(0, 4) ? '' : ` ${day.slice(0, 4)}`);

/** "Thu 26 Nov", "today", with the year only when it is another one. */
export function dayWords(day: IsoDay, today: IsoDay): string {
  if (day === today) return 'today';
  const { weekday, date, month } = parts(day);
  return `${weekday} ${date} ${month}${yearOf(day, today)}`;
}

/** "Thu 26 Nov 2026", whatever today is. */
export const fullDay = (day: IsoDay): string => `${plainDay(day)} ${day.slice(0, 4)}`;

/** "Thu 26 Nov", where the year is known. */
export function plainDay(day: IsoDay): string {
  const { weekday, date, month } = parts(day);
  return `${weekday} ${date} ${month}`;
}

/** "26 Nov". */
export function shortDay(day: IsoDay, today: IsoDay): string {
  const { date, month } = parts(day);
  return `${date} ${month}${yearOf(day, today)}`;
}

/** "13 Jan", where the years stand beside it already. */
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

/** Hours of work; of what nobody has estimated, that and what is counted for it. */
export function effortWords(minutes: number, hasEstimate: boolean): string {
  if (minutes === 0) return hasEstimate ? 'no hours left' : 'no estimate';
  return hasEstimate ? hourWords(minutes) : `no estimate, ${hourWords(minutes)}`;
}

/** "1 task", "3 tasks". */
export const count = (number: number, one: string, many = `${one}s`): string => `${number} ${number === 1 ? one : many}`;

/** How long ago an instant was, seen from today: "40 min", "5 h", "2 days". */
export function sinceWords(instant: string, now: number): string {
  const minutes = Math.max(0, Math.round((now - Date.parse(instant)) / 60_000));
  if (minutes < 60) return `${minutes} min`;
  if (minutes < 48 * 60) return `${Math.round(minutes / 60)} h`;
  return count(Math.round(minutes / 1440), 'day');
}

/** How long something has gone on since an instant, by the server's clock: `clockAheadMs` is what that is ahead of the real one. */
export const heldWords = (instant: string, clockAheadMs: number): string => sinceWords(instant, Date.now() + clockAheadMs);

/** When an instant was, in words: "just now", "40 min ago". */
export function agoWords(instant: string, clockAheadMs: number): string {
  const held = heldWords(instant, clockAheadMs);
  return held === '0 min' ? 'just now' : `${held} ago`;
}

const clockParts = (instant: string, zone: string): string[] =>
  new Intl.DateTimeFormat('en-CA', { timeZone: zone, dateStyle: 'short', timeStyle: 'short', hourCycle: 'h23' })
    .format(new Date(instant))
    .split(', ');

/** The ISO day of an instant, by the agency's clock. */
export const dayOf = (instant: string, zone: string): IsoDay => clockParts(instant, zone)[0] as IsoDay;

/** "16:20" of an instant, by the agency's clock. */
export const timeWords = (instant: string, zone: string): string => clockParts(instant, zone)[1] ?? '';

/** "Fri 20 Nov, 16:20" of an instant, by the agency's clock. */
export const instantWords = (instant: string, { today, zone }: { readonly today: IsoDay; readonly zone: string }): string =>
  `${dayWords(dayOf(instant, zone), today)}, ${timeWords(instant, zone)}`;

/** "820 B", "14 kB", "2.3 MB" of a number of bytes. */
export function fileSize(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} kB`;
  const megabytes = bytes / 1_000_000;
  return `${megabytes < 9.95 ? megabytes.toFixed(1) : Math.round(megabytes)} MB`;
}

/** Reads "1.5", "1:30", "90m" or "2h" as minutes; null when it is none of them. */
export function parseHours(text: string): number | null {
  const clean = text.trim().toLowerCase().replace(',', '.');
  const clock = /^(\d{1,3}):([0-5]\d)$/.exec(clean);
  if (clock) return Number(clock[1]) * 60 + Number(clock[2]);
  const minutes = /^(\d+)\s*m(in)?$/.exec(clean);
  if (minutes) return Number(minutes[1]);
  const decimal = /^(\d+(?:\.\d+)?)\s*h?$/.exec(clean);
  return decimal ? Math.round(Number(decimal[1]) * 60) : null;
}
