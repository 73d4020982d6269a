import type { IsoDay } from '@crew/core';
import { parseHours } from '../../words/format.ts';

/** Something that was typed and cannot be read, with what is said of it. */
export class Unreadable {
  readonly message: string;
  /** Whether it is another field that is at fault: then nothing is said at this one. */
  readonly isOfAnother: boolean;
  constructor(message: string, { isOfAnother = false } = {}) {
    this.message = message;
    this.isOfAnother = isOfAnother;
  }
}

const HOURS = new Unreadable('Write hours as 1.5, 1:30 or 90m.');

/** Hours as people write them, in minutes. */
export const minutesTyped = (text: string): number | Unreadable => parseHours(text) ?? HOURS;

/** Hours as people write them, in minutes; null where nothing is written. */
export const minutesIfTyped = (text: string): number | null | Unreadable => (text.trim() === '' ? null : minutesTyped(text));

/** A whole number, such as one of days. */
export const wholeTyped = (text: string): number | Unreadable =>
  /^[-−]?\d{1,6}$/.test(text.trim()) ? Number(text.trim().replace('−', '-')) : new Unreadable('Write a whole number.');

/** Words between commas, each once. */
export const wordsTyped = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((word) => word.trim())
      .filter((word) => word !== ''),
  ),
];

/** A text that may be left out. */
export const textIfTyped = (text: string): string | undefined => (text.trim() === '' ? undefined : text.trim());

/** A day that is not chosen yet. */
export const NO_DAY_TYPED: IsoDay | '' = '';

const NO_DAY_YET = new Unreadable('Choose a day.');

/** A day that has to be given. */
export const dayTyped = (day: IsoDay | ''): IsoDay | Unreadable => (day === '' ? NO_DAY_YET : day);

const ENDS_EARLY = new Unreadable('This is before the start.');
const WITHOUT_FIRST = new Unreadable('Choose the first day.', { isOfAnother: true });

/** The last of some days; the first where none is given, whose custom field says when that is missing. */
export function lastDayTyped(last: IsoDay | '', first: IsoDay | ''): IsoDay | Unreadable {
  if (last !== '') return last < first ? ENDS_EARLY : last;
  return first === '' ? WITHOUT_FIRST : first;
}
