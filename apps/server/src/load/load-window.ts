import { daysBetween, formatDay, mondayOf, parseDay, type IsoDay } from '@crew/core';
import { Refusal } from '../platform/refusal.ts';

/** Days whose load is shown; both are shown. */
export interface LoadWindow {
  readonly from: IsoDay;
  readonly to: IsoDay;
}

const THREE_WEEKS = 21;
const LONGEST_DAYS = 190;
const FURTHEST_DAYS = 1100;

/** Refuses a first day that is too far off to be worth a plan: everything until then would be computed. */
export function requireNear(day: IsoDay, today: IsoDay, field: string): void {
  if (Math.abs(daysBetween(today, day)) > FURTHEST_DAYS)
    throw new Refusal('invalid-day', 'This begins more than three years from today. Choose a nearer day.', { field });
}

/** The days asked for, or three weeks from `monday`, that of today where it is left out; at most half a year. */
export function loadWindow(
  asked: { readonly from?: string | undefined; readonly to?: string | undefined },
  today: IsoDay,
  monday = mondayOf(today),
): LoadWindow {
  const now = parseDay(today) as number;
  const first = asked.from === undefined ? (parseDay(monday) as number) : readDay(asked.from, 'from');
  const last = asked.to === undefined ? first + THREE_WEEKS - 1 : readDay(asked.to, 'to');
  if (Math.abs(first - now) > FURTHEST_DAYS)
    throw new Refusal('invalid-day', 'Load is shown for up to three years before and after today. Choose a nearer day.', { field: 'from' });
  if (last < first) throw new Refusal('invalid-day', 'The last day lies before the first. Swap them.', { field: 'to' });
  if (last - first > LONGEST_DAYS) throw new Refusal('invalid-day', 'Ask for at most 26 weeks at a time.', { field: 'to' });
  return { from: formatDay(first), to: formatDay(last) };
}

function readDay(text: string, field: string): number {
  const day = parseDay(text);
  if (day === null) throw new Refusal('invalid-day', `“${text}” is not a date. Write it as 2026-12-14.`, { field });
  return day;
}
