import { ENGLISH_DATES, shortMonth, shortWeekday } from '@crew/contract';
import { isDay, type IsoDay } from '@crew/core';

/** Which of these names a word is, short or in full: those of the reader's language go before the English ones. */
function indexIn(word: string, names: (index: number) => string, english: readonly string[]): number {
  const own = english.findIndex((_, index) => isName(word, names(index).toLowerCase()));
  return own >= 0 ? own : english.findIndex((name) => isName(word, name.toLowerCase()));
}

/** Of a name of two letters (“Do”) many other words are a beginning: it has to be the whole word. */
function isName(word: string, short: string): boolean {
  if (short.length < 3) return word === short;
  return word.startsWith(short) || (word.length >= 3 && short.startsWith(word));
}
const DAY_MS = 86_400_000;

const iso = (time: number): IsoDay => new Date(time).toISOString().slice(0, 10) as IsoDay;
const known = (text: string): IsoDay | null => (isDay(text) ? text : null);
const twoDigits = (number: string | number): string => String(number).padStart(2, '0');

/**
 * Reads a day as people write it: "30 nov", "Mon 30 Nov 2026", "30.11.", "2026-11-30", "today",
 * "tomorrow", "fri" (the next one); names in English, or in the chosen language of dates. Without a year it is the next such day, or, up to three
 * months back, the last. Null when it is none of them, or no day of the calendar.
 */
export function parseDayWords(text: string, today: IsoDay): IsoDay | null {
  const clean = text.trim().toLowerCase().replace(/,/g, ' ').replace(/\s+/g, ' ');
  const now = Date.parse(today);
  if (/^\d{4}-\d{2}-\d{2}$/.test(clean)) return known(clean);
  if (clean === 'today') return today;
  if (clean === 'tomorrow') return iso(now + DAY_MS);
  if (clean === 'yesterday') return iso(now - DAY_MS);
  const weekday = indexIn(clean, shortWeekday, ENGLISH_DATES.weekdays);
  if (weekday >= 0 && /^\p{L}+\.?$/u.test(clean)) return iso(now + (((weekday - new Date(now).getUTCDay() + 6) % 7) + 1) * DAY_MS);
  const named = /^(?:\p{L}{2,12}\.? )?(\d{1,2})\.? (\p{L}{3,12})\.?(?: (\d{4}))?$/u.exec(clean);
  if (named) {
    const month = indexIn(named[2] as string, shortMonth, ENGLISH_DATES.months);
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
