import { hours, hourWords, parseHours } from '../../words/format.ts';
import { Unreadable } from './typed.ts';

export const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;

/** Minutes of Monday … Sunday as they are typed: hours, nothing where nobody works. */
export const weekAsTyped = (week: readonly number[]): readonly string[] => week.map((minutes) => (minutes === 0 ? '' : hours(minutes)));

const NO_WEEK = new Unreadable('Write hours as 7.5 or 7:30, or leave a day empty.');

/** Typed hours as minutes of Monday … Sunday. */
export function weekTyped(typed: readonly string[]): number[] | Unreadable {
  const week = typed.map((text) => (text.trim() === '' ? 0 : parseHours(text)));
  return week.every((minutes): minutes is number => minutes !== null && minutes <= 1440) ? week : NO_WEEK;
}

/** A week in short: `37.5 h`, and which days where they are not all Monday to Friday alike: `30 h, Mon–Thu`. */
export function weekWords(week: readonly number[]): string {
  const all = hourWords(week.reduce((sum, minutes) => sum + minutes, 0));
  const worked = WEEKDAYS.filter((_, day) => (week[day] ?? 0) > 0);
  const [first, last] = [worked[0], worked.at(-1)];
  if (first === undefined || last === undefined) return all;
  const isRow = WEEKDAYS.indexOf(last) - WEEKDAYS.indexOf(first) + 1 === worked.length;
  if (first === 'Mon' && last === 'Fri' && isRow) return all;
  return `${all}, ${worked.length === 1 ? first : isRow ? `${first}–${last}` : worked.join(', ')}`;
}
