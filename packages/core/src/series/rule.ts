import { formatDay, parseDay, type DayNumber, type IsoDay } from '../calendar/day.ts';
import { refuse } from '../check.ts';
import { attempt, type Result } from '../result.ts';

/** How often, in whole days. */
export const FREQUENCY = ['daily', 'weekly', 'monthly', 'yearly'] as const;
export type Frequency = (typeof FREQUENCY)[number];

/** A weekday (Monday = 0), or the nth one of the month or year; −1 is the last. */
export interface RuleWeekday {
  readonly weekday: number;
  readonly nth: number | null;
}

/** A recurrence rule of RFC 5545 for whole days. What is empty does not limit. */
export interface RepeatRule {
  readonly frequency: Frequency;
  /** Every so many days, weeks, months or years. */
  readonly interval: number;
  /** So many times in all, from the first day on. */
  readonly count: number | null;
  /** The last day it may fall on. */
  readonly until: IsoDay | null;
  readonly weekdays: readonly RuleWeekday[];
  /** 1 … 31, or −1 … −31 from the end. */
  readonly monthDays: readonly number[];
  readonly yearDays: readonly number[];
  readonly months: readonly number[];
  /** Which of a period's days count: 1 is the first, −1 the last. */
  readonly positions: readonly number[];
  /** The weekday weeks begin with; it matters where only every second week counts. */
  readonly weekStart: number;
}

const DAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const AT = 'rule';

/**
 * Reads a rule such as `FREQ=WEEKLY;INTERVAL=2;BYDAY=TU` (RFC 5545, section 3.3.10). Hours,
 * minutes, seconds and numbered weeks are refused: a task falls on a day. Problem
 * `invalid-field` says what is expected in place of what stands there.
 */
export function readRule(text: string): Result<RepeatRule> {
  return attempt(() => {
    if (typeof text !== 'string') return fault('a rule as FREQ=WEEKLY;INTERVAL=2;BYDAY=TU');
    const parts = readParts(text.trim().replace(/^RRULE:/i, ''));
    const take = (name: string): string | null => {
      const value = parts.get(name) ?? null;
      parts.delete(name);
      return value;
    };
    const rule: RepeatRule = {
      frequency: readFrequency(take('FREQ')),
      interval: readCount(take('INTERVAL') ?? '1', 'INTERVAL'),
      count: readOptional(take('COUNT'), (value) => readCount(value, 'COUNT')),
      until: readOptional(take('UNTIL'), readUntil),
      weekdays: readList(take('BYDAY'), readWeekday),
      monthDays: readList(take('BYMONTHDAY'), (value) => readNumber(value, 'BYMONTHDAY', { most: 31, mayBeNegative: true })),
      yearDays: readList(take('BYYEARDAY'), (value) => readNumber(value, 'BYYEARDAY', { most: 366, mayBeNegative: true })),
      months: readList(take('BYMONTH'), (value) => readNumber(value, 'BYMONTH', { most: 12, mayBeNegative: false })),
      positions: readList(take('BYSETPOS'), (value) => readNumber(value, 'BYSETPOS', { most: 366, mayBeNegative: true })),
      weekStart: readWeekStart(take('WKST')),
    };
    const [left] = parts.keys();
    if (left !== undefined) return fault(`without ${left}, which whole days have no use for`);
    refuseOddities(rule);
    return rule;
  });
}

const fault = (expected: string): never => refuse({ kind: 'invalid-field', at: AT, expected });

function readParts(text: string): Map<string, string> {
  const parts = new Map<string, string>();
  for (const part of text.split(';').filter((piece) => piece !== '')) {
    const [name = '', value = '', ...more] = part.split('=');
    if (value === '' || more.length > 0) fault('written as FREQ=WEEKLY;INTERVAL=2;BYDAY=TU');
    const key = name.trim().toUpperCase();
    if (parts.has(key)) fault(`with ${key} once`);
    parts.set(key, value.trim().toUpperCase());
  }
  return parts;
}

function readFrequency(value: string | null): Frequency {
  const frequency = FREQUENCY.find((known) => known.toUpperCase() === value);
  return frequency ?? fault('with FREQ=DAILY, WEEKLY, MONTHLY or YEARLY');
}

const readOptional = <Value>(text: string | null, read: (text: string) => Value): Value | null => (text === null ? null : read(text));

const readList = <Value>(text: string | null, read: (text: string) => Value): Value[] =>
  text === null ? [] : text.split(',').map((value) => read(value.trim()));

const MOST = 1000;

function readCount(text: string, name: string): number {
  const value = Number(text);
  return /^\d+$/.test(text) && value >= 1 && value <= MOST ? value : fault(`with ${name} between 1 and ${MOST}`);
}

function readNumber(text: string, name: string, within: { readonly most: number; readonly mayBeNegative: boolean }): number {
  const value = Number(text);
  const isRight = /^[+-]?\d+$/.test(text) && value !== 0 && Math.abs(value) <= within.most && (within.mayBeNegative || value > 0);
  return isRight ? value : fault(`with numbers up to ${within.most} in ${name}`);
}

/** A day, or a moment, of which the day counts. */
function readUntil(text: string): IsoDay {
  const match = /^(\d{4})(\d{2})(\d{2})(T\d{6}Z?)?$/.exec(text);
  const day = match === null ? null : parseDay(`${match[1]}-${match[2]}-${match[3]}`);
  return day === null ? fault('with UNTIL as 20261231') : formatDay(day);
}

function readWeekday(text: string): RuleWeekday {
  const match = /^([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)$/.exec(text);
  if (match === null) return fault('with weekdays as MO or 2TU in BYDAY');
  const nth = match[1] === undefined ? null : Number(match[1]);
  if (nth === 0 || Math.abs(nth ?? 1) > 53) return fault('with weekdays as MO or 2TU in BYDAY');
  return { weekday: DAYS.indexOf(match[2] as string), nth };
}

function readWeekStart(text: string | null): number {
  if (text === null) return 0;
  return DAYS.includes(text) ? DAYS.indexOf(text) : fault('with WKST as MO');
}

/** What the standard forbids, or what can never mean anything. */
function refuseOddities(rule: RepeatRule): void {
  if (rule.count !== null && rule.until !== null) fault('with COUNT or UNTIL, not both');
  if (rule.weekdays.some(({ nth }) => nth !== null) && rule.frequency !== 'monthly' && rule.frequency !== 'yearly')
    fault('with numbered weekdays in months or years only');
  if (rule.frequency === 'weekly' && rule.monthDays.length > 0) fault('without BYMONTHDAY in weeks');
  if (rule.yearDays.length > 0 && rule.frequency !== 'yearly') fault('with BYYEARDAY in years only');
  if (rule.positions.length > 0 && rule.weekdays.length + rule.monthDays.length + rule.yearDays.length + rule.months.length === 0)
    fault('with days for BYSETPOS to choose from');
}

/** Writes a rule as RFC 5545 does; reading it again gives the same rule. */
export function writeRule(rule: RepeatRule): string {
  const list = (name: string, values: readonly (string | number)[]): string[] =>
    values.length === 0 ? [] : [`${name}=${values.join(',')}`];
  return [
    `FREQ=${rule.frequency.toUpperCase()}`,
    ...(rule.interval === 1 ? [] : [`INTERVAL=${rule.interval}`]),
    ...list('BYMONTH', rule.months),
    ...list('BYYEARDAY', rule.yearDays),
    ...list('BYMONTHDAY', rule.monthDays),
    ...list(
      'BYDAY',
      rule.weekdays.map(({ weekday, nth }) => `${nth ?? ''}${DAYS[weekday] as string}`),
    ),
    ...list('BYSETPOS', rule.positions),
    ...(rule.count === null ? [] : [`COUNT=${rule.count}`]),
    ...(rule.until === null ? [] : [`UNTIL=${rule.until.replaceAll('-', '')}`]),
    ...(rule.weekStart === 0 ? [] : [`WKST=${DAYS[rule.weekStart] as string}`]),
  ].join(';');
}

/** The parts of a day that rules speak of. */
export function dateOf(day: DayNumber): { readonly year: number; readonly month: number; readonly date: number } {
  const [year, month, date] = formatDay(day).split('-').map(Number) as [number, number, number];
  return { year, month, date };
}
