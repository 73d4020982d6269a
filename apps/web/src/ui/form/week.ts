import { hours, parseHours } from '../../words/format.ts';
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
