import { parseDay, readRule, weekdayOf, writeRule, type RepeatRule, type RuleWeekday, type IsoDay } from '@crew/core';
import { dateOrdinal, dateOrLast, datesTo, isWorkingWeek, placeOrdinal, WEEKDAY_NAMES } from '../../words/rhythm.ts';

/** Which day of a month: a date (the last day in months without it), a numbered weekday, or a numbered working day. */
export type MonthDay =
  | { readonly kind: 'date'; readonly date: number }
  | { readonly kind: 'weekday'; readonly nth: number; readonly weekday: number }
  | { readonly kind: 'working-day'; readonly place: number };

/** When it ends: never by itself, after a day, or after so many. */
export type Ending =
  { readonly kind: 'open' } | { readonly kind: 'until'; readonly day: IsoDay | '' } | { readonly kind: 'times'; readonly times: string };

/** A rule as its sentence has slots for it. */
export interface RuleDraft {
  readonly unit: 'day' | 'week' | 'month';
  /** As it is typed. */
  readonly interval: string;
  readonly weekdays: readonly number[];
  readonly monthDay: MonthDay;
  readonly ending: Ending;
}

/** Every week on the weekday of a day, with the slots of the other units filled from it too. */
export function draftFrom(day: IsoDay): RuleDraft {
  const date = Number(day.slice(8, 10));
  return {
    ...{ unit: 'week', interval: '1', ending: { kind: 'open' } },
    weekdays: [weekdayOf(parseDay(day) as number)],
    monthDay: dateOf(date),
  };
}

/** The 31st is the last day of every month. */
const dateOf = (date: number): MonthDay => ({ kind: 'date', date: date > 30 ? -1 : date });

/** The draft of a rule; null when its sentence has no slots for it. */
export function draftOf(text: string, day: IsoDay): RuleDraft | null {
  const read = readRule(text);
  if (!read.ok) return null;
  const rule = read.value;
  const base: RuleDraft = { ...draftFrom(day), interval: String(rule.interval), ending: endingOf(rule) };
  if (rule.months.length + rule.yearDays.length > 0 || rule.weekStart !== 0) return null;
  if (rule.frequency === 'daily')
    return rule.weekdays.length + rule.monthDays.length + rule.positions.length > 0 ? null : { ...base, unit: 'day' };
  if (rule.frequency === 'weekly') {
    if (rule.positions.length > 0) return null;
    return rule.weekdays.length === 0 ? base : { ...base, weekdays: rule.weekdays.map(({ weekday }) => weekday).sort() };
  }
  const monthDay = rule.frequency === 'monthly' ? monthDayOf(rule) : null;
  return monthDay === null ? null : { ...base, unit: 'month', monthDay };
}

function endingOf({ count, until }: RepeatRule): Ending {
  if (count !== null) return { kind: 'times', times: String(count) };
  return until === null ? { kind: 'open' } : { kind: 'until', day: until };
}

function monthDayOf(rule: RepeatRule): MonthDay | null {
  const { monthDays, weekdays, positions } = rule;
  const orLast = dateOrLast(rule);
  if (orLast !== null) return { kind: 'date', date: orLast };
  if (positions.length > 0)
    return positions.length === 1 && isWorkingWeek(weekdays) && monthDays.length === 0
      ? { kind: 'working-day', place: positions[0] as number }
      : null;
  if (monthDays.length + weekdays.length !== 1) return null;
  if (monthDays.length === 1) return { kind: 'date', date: monthDays[0] as number };
  const { weekday, nth } = weekdays[0] as RuleWeekday;
  return nth === null ? null : { kind: 'weekday', weekday, nth };
}

const NONE = { monthDays: [], yearDays: [], months: [], positions: [], weekdays: [], weekStart: 0 } as const;

/** The rule of a draft; null while a slot is not filled right. */
export function ruleOf(draft: RuleDraft): string | null {
  const interval = wholeOf(draft.interval);
  const ending = endOf(draft.ending);
  if (interval === null || ending === null) return null;
  const base = { ...NONE, ...ending, interval };
  switch (draft.unit) {
    case 'day':
      return writeRule({ ...base, frequency: 'daily' });
    case 'week':
      if (draft.weekdays.length === 0) return null;
      return writeRule({ ...base, frequency: 'weekly', weekdays: [...draft.weekdays].sort().map((weekday) => ({ weekday, nth: null })) });
    case 'month':
      return writeRule({ ...base, frequency: 'monthly', ...partsOf(draft.monthDay) });
  }
}

const WORKING_WEEK = [0, 1, 2, 3, 4].map((weekday) => ({ weekday, nth: null }));

function partsOf(day: MonthDay): Pick<RepeatRule, 'monthDays' | 'weekdays' | 'positions'> {
  if (day.kind === 'date' && day.date > 28) return { monthDays: datesTo(day.date), weekdays: [], positions: [-1] };
  if (day.kind === 'date') return { monthDays: [day.date], weekdays: [], positions: [] };
  if (day.kind === 'weekday') return { monthDays: [], weekdays: [{ weekday: day.weekday, nth: day.nth }], positions: [] };
  return { monthDays: [], weekdays: WORKING_WEEK, positions: [day.place] };
}

/** A whole number from 1 to 99, as typed. */
export const wholeOf = (text: string): number | null => (/^[1-9]\d?$/.test(text.trim()) ? Number(text) : null);

function endOf(ending: Ending): Pick<RepeatRule, 'count' | 'until'> | null {
  if (ending.kind === 'open') return { count: null, until: null };
  if (ending.kind === 'until') return ending.day === '' ? null : { count: null, until: ending.day };
  const count = wholeOf(ending.times);
  return count === null ? null : { count, until: null };
}

/** What can stand in the slot for the day of a month, nearest to the day it is filled from. */
export function monthDayChoices(day: IsoDay, chosen: MonthDay): readonly { readonly id: string; readonly name: string }[] {
  const date = Number(day.slice(8, 10));
  const weekday = weekdayOf(parseDay(day) as number);
  const nth = Math.ceil(date / 7);
  const offered: MonthDay[] = [
    dateOf(date),
    ...(nth < 5 ? [{ kind: 'weekday', nth, weekday } as const] : []),
    { kind: 'weekday', nth: -1, weekday },
    { kind: 'working-day', place: 1 },
    { kind: 'working-day', place: -1 },
    { kind: 'date', date: 1 },
    { kind: 'date', date: 15 },
    { kind: 'date', date: -1 },
  ];
  const all = new Map([chosen, ...offered].map((one) => [idOf(one), one]));
  return [...all].map(([id, one]) => ({ id, name: monthDayWords(one) }));
}

export const idOf = (day: MonthDay): string => JSON.stringify(day);
export const monthDayFrom = (id: string): MonthDay => JSON.parse(id) as MonthDay;

function monthDayWords(day: MonthDay): string {
  if (day.kind === 'date') return `the ${dateOrdinal(day.date)}${day.date > 28 ? ' (or the last day)' : ''}`;
  if (day.kind === 'weekday') return `the ${placeOrdinal(day.nth)} ${WEEKDAY_NAMES[day.weekday] as string}`;
  return `the ${placeOrdinal(day.place)} working day`;
}
