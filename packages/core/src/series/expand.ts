import { parseDay, weekdayOf, type DayNumber } from '../calendar/day.ts';
import { dateOf, type RepeatRule, type RuleWeekday } from './rule.ts';

/** Where a rule begins, and the window of days wanted, both days included. */
export interface RuleWindow {
  readonly start: DayNumber;
  readonly from: DayNumber;
  readonly to: DayNumber;
}

/**
 * The days of a rule within a window, ascending (RFC 5545, section 3.3.10): period by period,
 * the days of the period that every part of the rule allows, of those the positions asked
 * for, counted from the first day on. The first day counts only if the rule falls on it.
 */
export function expandRule(rule: RepeatRule, window: RuleWindow): DayNumber[] {
  const last = Math.min(window.to, rule.until === null ? window.to : (parseDay(rule.until) as number));
  const days: DayNumber[] = [];
  let counted = 0;
  for (let index = 0; ; index++) {
    const period = periodOf(rule, window.start, index * rule.interval);
    if (period.first > last) return days;
    for (const day of positionsOf(rule, daysOf(rule, period, window.start))) {
      if (day < window.start) continue;
      if (day > last || counted === rule.count) return days;
      counted++;
      if (day >= window.from) days.push(day);
    }
  }
}

/** The first and last day of a day, week, month or year. */
interface Period {
  readonly first: DayNumber;
  readonly last: DayNumber;
}

function periodOf(rule: RepeatRule, start: DayNumber, steps: number): Period {
  if (rule.frequency === 'daily') return { first: start + steps, last: start + steps };
  if (rule.frequency === 'weekly') {
    const first = start - ((weekdayOf(start) - rule.weekStart + 7) % 7) + steps * 7;
    return { first, last: first + 6 };
  }
  const { year, month } = dateOf(start);
  const months = rule.frequency === 'monthly' ? 1 : 12;
  const index = rule.frequency === 'monthly' ? year * 12 + month - 1 + steps : (year + steps) * 12;
  return { first: firstOfMonth(index), last: firstOfMonth(index + months) - 1 };
}

/** Beyond the year 9999 no day can be written. */
const NEVER = Number.MAX_SAFE_INTEGER;

/** The first day of a month counted from year 0. */
function firstOfMonth(index: number): DayNumber {
  if (index >= 120_000) return NEVER;
  const year = String(Math.floor(index / 12)).padStart(4, '0');
  return parseDay(`${year}-${String((index % 12) + 1).padStart(2, '0')}-01`) as number;
}

function daysOf(rule: RepeatRule, period: Period, start: DayNumber): DayNumber[] {
  const isAllowed = filterOf(rule, start);
  const days: DayNumber[] = [];
  for (let day = period.first; day <= period.last; day++) if (isAllowed(day)) days.push(day);
  return days;
}

/** Whether every part of a rule allows a day; what the rule leaves open follows its first day. */
function filterOf(rule: RepeatRule, start: DayNumber): (day: DayNumber) => boolean {
  const first = dateOf(start);
  const namesDays = rule.weekdays.length + rule.monthDays.length + rule.yearDays.length > 0;
  const weekdays = rule.frequency === 'weekly' && rule.weekdays.length === 0 ? [{ weekday: weekdayOf(start), nth: null }] : rule.weekdays;
  const isByDate = rule.frequency === 'monthly' || rule.frequency === 'yearly';
  const monthDays = isByDate && !namesDays ? [first.date] : rule.monthDays;
  const months = rule.frequency === 'yearly' && !namesDays && rule.months.length === 0 ? [first.month] : rule.months;
  // Numbered weekdays count within the month, unless the rule speaks of whole years.
  const countsInYear = rule.frequency === 'yearly' && rule.months.length === 0;
  return (day) => {
    const { year, month, date } = dateOf(day);
    if (months.length > 0 && !months.includes(month)) return false;
    const monthFirst = day - date + 1;
    const inMonth: Period = { first: monthFirst, last: firstOfMonth(year * 12 + month) - 1 };
    if (monthDays.length > 0 && !isNumbered(day, inMonth, monthDays)) return false;
    const inYear = (): Period => ({ first: firstOfMonth(year * 12), last: firstOfMonth((year + 1) * 12) - 1 });
    if (rule.yearDays.length > 0 && !isNumbered(day, inYear(), rule.yearDays)) return false;
    return weekdays.length === 0 || weekdays.some((wanted) => isWeekday(day, wanted, countsInYear ? inYear() : inMonth));
  };
}

/** Whether a day has one of these numbers in its period, counted from the front or from the back. */
const isNumbered = (day: DayNumber, { first, last }: Period, numbers: readonly number[]): boolean =>
  numbers.includes(day - first + 1) || numbers.includes(day - last - 1);

function isWeekday(day: DayNumber, { weekday, nth }: RuleWeekday, { first, last }: Period): boolean {
  if (weekdayOf(day) !== weekday) return false;
  if (nth === null) return true;
  return nth > 0 ? Math.floor((day - first) / 7) + 1 === nth : Math.floor((last - day) / 7) + 1 === -nth;
}

function positionsOf(rule: RepeatRule, days: readonly DayNumber[]): readonly DayNumber[] {
  if (rule.positions.length === 0) return days;
  const wanted = rule.positions.map((position) => (position > 0 ? position - 1 : days.length + position));
  return days.filter((_, index) => wanted.includes(index));
}
