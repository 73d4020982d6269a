import { readRule, type OnClosed, type RepeatRule, type RuleWeekday, type IsoDay } from '@crew/core';
import { shortDay } from './format.ts';

/** How rules of repetition (RFC 5545) read on the screen. */

export const WEEKDAY_NAMES = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;
const MONTH_NAMES = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];
const ORDINALS = ['', 'first', 'second', 'third', 'fourth', 'fifth'];

/** "and" before the last. */
export const listed = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1) as string}`;

/** "1st", "22nd", "last but one". */
export function dateOrdinal(date: number): string {
  if (date === -1) return 'last day';
  if (date < 0) return `${-date - 1 === 1 ? 'last day but one' : `${-date} days before the end`}`;
  const last = date % 10;
  const isTeen = date % 100 >= 11 && date % 100 <= 13;
  return `${date}${isTeen ? 'th' : last === 1 ? 'st' : last === 2 ? 'nd' : last === 3 ? 'rd' : 'th'}`;
}

/** "first", "last", "last but one". */
export const placeOrdinal = (nth: number): string =>
  nth === -1 ? 'last' : nth === -2 ? 'last but one' : (ORDINALS[nth] ?? dateOrdinal(nth));

/** "every second Tuesday, until 31 Mar 2027"; a rule beyond these words is shown as it is written. */
export function ruleWords(text: string, today: IsoDay): string {
  const read = readRule(text);
  if (!read.ok) return text;
  const rule = read.value;
  const often = oftenWords(rule);
  if (often === null) return `by the rule ${text}`;
  return `${often}${endWords(rule, today)}`;
}

function endWords({ count, until }: RepeatRule, today: IsoDay): string {
  if (count !== null) return count === 1 ? ', once' : `, ${count} times`;
  return until === null ? '' : `, until ${shortDay(until, today)}`;
}

function oftenWords(rule: RepeatRule): string | null {
  if (rule.yearDays.length > 0) return null;
  switch (rule.frequency) {
    case 'daily':
      return rule.weekdays.length + rule.monthDays.length + rule.months.length + rule.positions.length > 0
        ? null
        : everyWords(rule.interval, 'day');
    case 'weekly':
      return rule.months.length + rule.positions.length > 0 ? null : weeklyWords(rule);
    case 'monthly':
      return rule.months.length > 0 ? null : monthlyWords(rule);
    case 'yearly':
      return yearlyWords(rule);
  }
}

const everyWords = (interval: number, unit: string): string =>
  interval === 1
    ? `every ${unit}`
    : interval < ORDINALS.length
      ? `every ${ORDINALS[interval] as string} ${unit}`
      : `every ${interval} ${unit}s`;

function weeklyWords({ interval, weekdays }: RepeatRule): string {
  if (weekdays.length === 0) return everyWords(interval, 'week');
  const numbers = weekdays.map(({ weekday }) => weekday).sort();
  const isWorkdays = numbers.join() === '0,1,2,3,4';
  const names = isWorkdays ? 'weekday' : listed(numbers.map((weekday) => WEEKDAY_NAMES[weekday] as string));
  if (interval === 1) return `every ${names}`;
  if (numbers.length === 1) return everyWords(interval, names);
  return `${everyWords(interval, 'week')} on ${isWorkdays ? 'all weekdays' : names}`;
}

function monthlyWords(rule: RepeatRule): string | null {
  const day = dayInMonth(rule);
  if (day === null) return null;
  return rule.interval === 1 ? `on the ${day} of each month` : `on the ${day} of ${everyWords(rule.interval, 'month')}`;
}

/**
 * The date of a rule such as BYMONTHDAY=28,29,30 with BYSETPOS=-1: the 30th, in months without it
 * their last day; null for any other rule.
 */
export function dateOrLast({ monthDays, weekdays, positions }: Pick<RepeatRule, 'monthDays' | 'weekdays' | 'positions'>): number | null {
  const dates = [...monthDays].sort((left, right) => left - right);
  const last = dates.at(-1);
  const isRow = last !== undefined && last > 28 && dates.join() === datesTo(last).join();
  return isRow && weekdays.length === 0 && positions.join() === '-1' ? last : null;
}

/** 28 … a date: of these the last there is in a month. */
export const datesTo = (date: number): number[] => Array.from({ length: date - 27 }, (_, index) => 28 + index);

/** "15th", "second Tuesday", "last working day". */
function dayInMonth(rule: RepeatRule): string | null {
  const { monthDays, weekdays, positions } = rule;
  const orLast = dateOrLast(rule);
  if (orLast !== null) return `${dateOrdinal(orLast)} (or the last day)`;
  if (positions.length > 0) {
    const place = positions.length === 1 ? placeOrdinal(positions[0] as number) : null;
    return place !== null && isWorkingWeek(weekdays) && monthDays.length === 0 ? `${place} working day` : null;
  }
  if (monthDays.length > 0) return weekdays.length > 0 ? null : listed(monthDays.map(dateOrdinal));
  if (weekdays.length === 0 || weekdays.some(({ nth }) => nth === null)) return null;
  return listed(weekdays.map(({ weekday, nth }) => `${placeOrdinal(nth as number)} ${WEEKDAY_NAMES[weekday] as string}`));
}

export const isWorkingWeek = (weekdays: readonly RuleWeekday[]): boolean =>
  weekdays.every(({ nth }) => nth === null) &&
  weekdays
    .map(({ weekday }) => weekday)
    .sort()
    .join() === '0,1,2,3,4';

function yearlyWords(rule: RepeatRule): string | null {
  const [month] = rule.months;
  if (rule.months.length !== 1 || month === undefined) return null;
  const day = dayInMonth(rule);
  if (day === null) return null;
  return `${everyWords(rule.interval, 'year')} on the ${day} of ${MONTH_NAMES[month - 1] as string}`;
}

/** What happens on a closed day, after "on a closed day ". */
export const ON_CLOSED_WORDS: Readonly<Record<OnClosed, string>> = {
  after: 'it moves to the next working day',
  before: 'it moves to the working day before',
  skip: 'it is skipped',
};
