import { isDay, type IsoDay } from '@crew/core';

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const WEEKDAYS = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat'];
const DAY_MS = 86_400_000;

const iso = (time: number): IsoDay => new Date(time).toISOString().slice(0, 10) as IsoDay;
const known = (text: string): IsoDay | null => (isDay(text) ? text : null);
const twoDigits = (number: string | number): string => String(number).padStart(2, '0');

/**
 * Reads a day as people write it: "30 nov", "Mon 30 Nov 2026", "30.11.", "2026-11-30", "today",
 * "tomorrow", "fri" (the next one). Without a year it is the next such day, or, up to three
 * months back, the last. Null when it is none of them, or no day of the calendar.
 */
export function parseDayWords(text: string, today: IsoDay): IsoDay | null {
  const clean = text.trim().toLowerCase().replace(/,/g, ' ').replace(/\s+/g, ' ');
  const now = Date.parse(today);
  if (/^\d{4}-\d{2}-\d{2}$/.test(clean)) return known(clean);
  if (clean === 'today') return today;
  if (clean === 'tomorrow') return iso(now + DAY_MS);
  if (clean === 'yesterday') return iso(now - DAY_MS);
  const weekday = WEEKDAYS.indexOf(clean.slice(0, 3));
  if (weekday >= 0 && /^[a-z]+$/.test(clean)) return iso(now + (((weekday - new Date(now).getUTCDay() + 6) % 7) + 1) * DAY_MS);
  const named = /^(?:[a-z]{2,9}\.? )?(\d{1,2})\.? ([a-z]{3,9})\.?(?: (\d{4}))?$/.exec(clean);
  if (named) {
    const month = MONTHS.indexOf((named[2] as string).slice(0, 3));
    return month < 0 ? null : dated(named[1] as string, month + 1, { year: named[3], today });
  }
  const numbered = /^(\d{1,2})[./](\d{1,2})[./]?(\d{4})?$/.exec(clean);
  return numbered ? dated(numbered[1] as string, numbered[2] as string, { year: numbered[3], today }) : null;
}

function dated(
  day: string,
  month: string | number,
  { year, today }: { readonly year: string | undefined; readonly today: IsoDay },
): IsoDay | null {
  const within = (candidate: string): IsoDay | null => known(`${candidate}-${twoDigits(month)}-${twoDigits(day)}`);
  if (year !== undefined) return within(year);
  const here = within(today.slice(0, 4));
  const back = iso(Date.parse(today) - 92 * DAY_MS);
  return here !== null && here >= back ? here : (within(String(Number(today.slice(0, 4)) + 1)) ?? here);
}
