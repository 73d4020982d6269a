import type { IsoDay } from '@crew/core';
import { count, dayOf, dayWords, hourWords, timeWords } from '@crew/contract';

/** How time reads on the screen, with what mails say too. */
export {
  count,
  dayOf,
  dayWithoutYear,
  dayWords,
  fullDay,
  hours,
  hourWords,
  plainDay,
  shortDay,
  spanWords,
  timeWords,
  weekdayOf,
} from '@crew/contract';

/** Hours of work; of what nobody has estimated, that and what is counted for it. */
export function effortWords(minutes: number, hasEstimate: boolean): string {
  if (minutes === 0) return hasEstimate ? 'no hours left' : 'no estimate';
  return hasEstimate ? hourWords(minutes) : `no estimate, ${hourWords(minutes)}`;
}

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
