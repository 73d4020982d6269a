import { refuse, requireDay, requireList, requireObject, requireWhole } from '../check.ts';
import { attempt, type Result } from '../result.ts';
import { formatDay, weekdayOf, weekOf, type DayNumber, type IsoDay } from './day.ts';

/** The agency's working week (minutes Monday … Sunday) and its closed days. */
export interface CalendarInput {
  readonly week: readonly number[];
  readonly closed: readonly IsoDay[];
}

/**
 * A calendar ready for arithmetic. Open days are counted by rank: `rank(day)` is how many
 * open days lie before it, `select(rank)` the open day with that many before it. The week
 * repeats, so both are a division plus a look-up among the closed days only: adding n working
 * days costs the same for 1 and for 10 000, and the calendar has no horizon.
 */
export interface Calendar {
  readonly week: readonly number[];
  readonly perWeek: number;
  /** How many open weekdays lie before each weekday. */
  readonly weekdayRank: Int32Array;
  /** The weekday of the n-th open weekday. */
  readonly openWeekday: Int32Array;
  /** Closed days that would have been open. */
  readonly closed: Steps;
  /** Rank of each of those closed days. */
  readonly closedRank: Steps;
}

/** Ascending numbers of which one asks how many are smaller than a value. */
interface Steps {
  readonly values: Int32Array;
  readonly first: number;
  /** How many are smaller than first + n, for every n up to the last; null when they lie too far apart. */
  readonly below: Int32Array | null;
}

/** About 55 years of days: beyond it a table would cost more than the search it saves. */
const TABLE_SPAN = 20_000;

const MONDAY_OFFSET = 3; // 1970-01-01 was a Thursday

/** Compiles a calendar; refuses a week without working time and days that do not exist. */
export function compileCalendar(input: CalendarInput): Result<Calendar> {
  return attempt(() => readCalendar(input, 'calendar'));
}

/** As `compileCalendar`, for use inside another `attempt`. */
export function readCalendar(input: CalendarInput, at: string): Calendar {
  requireObject(input, at);
  const week = readWeek(input.week, `${at}.week`);
  const open = [0, 1, 2, 3, 4, 5, 6].filter((weekday) => (week[weekday] ?? 0) > 0);
  if (open.length === 0) refuse({ kind: 'no-working-day', at: `${at}.week` });
  requireList(input.closed ?? [], `${at}.closed`);
  const days = (input.closed ?? []).map((day, position) => requireDay(day, `${at}.closed[${position}]`));
  const closed = readSteps(Int32Array.from([...new Set(days)].filter((day) => (week[weekdayOf(day)] ?? 0) > 0)).sort());
  const weekdayRank = Int32Array.from({ length: 7 }, (_, weekday) => open.filter((other) => other < weekday).length);
  const base = { week, perWeek: open.length, weekdayRank, openWeekday: Int32Array.from(open), closed };
  return { ...base, closedRank: readSteps(closed.values.map((day, position) => weekRank(base, day) - position)) };
}

function readSteps(values: Int32Array): Steps {
  const first = values[0] ?? 0;
  const span = (values.at(-1) ?? 0) - first + 1;
  if (span > TABLE_SPAN) return { values, first, below: null };
  const below = new Int32Array(span);
  for (let index = 0, offset = 0; offset < span; offset++) {
    while ((values[index] as number) < first + offset) index++;
    below[offset] = index;
  }
  return { values, first, below };
}

/** Seven whole numbers of minutes, Monday first. */
export function readWeek(week: unknown, at: string): readonly number[] {
  requireList(week, at);
  if (week.length !== 7) refuse({ kind: 'invalid-field', at, expected: 'seven numbers of minutes, Monday first' });
  return week.map((minutes, weekday) => {
    const whole = requireWhole(minutes, `${at}[${weekday}]`, 0);
    if (whole > 1440) refuse({ kind: 'invalid-field', at: `${at}[${weekday}]`, expected: 'at most 1440 minutes' });
    return whole;
  });
}

/** True when the weekday has minutes and the day is not closed. */
export function isOpen(calendar: Calendar, day: DayNumber): boolean {
  if ((calendar.week[weekdayOf(day)] ?? 0) === 0) return false;
  return calendar.closed.values[countBelow(calendar.closed, day)] !== day;
}

/** How many open days lie before `day`, counted from a fixed origin (may be negative). */
export function rank(calendar: Calendar, day: DayNumber): number {
  return weekRank(calendar, day) - countBelow(calendar.closed, day);
}

/** The open day that has `index` open days before it: `select(rank(d)) === d` for every open d. */
export function select(calendar: Calendar, index: number): DayNumber {
  const raw = index + countBelow(calendar.closedRank, index + 1);
  const week = Math.floor(raw / calendar.perWeek);
  return week * 7 - MONDAY_OFFSET + (calendar.openWeekday[raw - week * calendar.perWeek] as number);
}

/** The first open day on or after `day`. */
export function openOnOrAfter(calendar: Calendar, day: DayNumber): DayNumber {
  return select(calendar, rank(calendar, day));
}

/** The last open day on or before `day`. */
export function openOnOrBefore(calendar: Calendar, day: DayNumber): DayNumber {
  return select(calendar, rank(calendar, day + 1) - 1);
}

/** The week, Monday to Sunday, of the first open day on or after `day`: on a Sunday it is the week that comes. */
export const currentWeek = (calendar: Calendar, day: IsoDay): { readonly from: IsoDay; readonly to: IsoDay } =>
  weekOf(formatDay(openOnOrAfter(calendar, requireDay(day, 'day'))));

/** Moves `workingDays` (may be negative) from the first open day on or after `day`. */
export function addWorkingDays(calendar: Calendar, day: DayNumber, workingDays: number): DayNumber {
  return select(calendar, rank(calendar, day) + workingDays);
}

/** Open days from `from` up to but not including `to`; negative when `to` lies before. */
export function workingDaysBetween(calendar: Calendar, from: DayNumber, to: DayNumber): number {
  return rank(calendar, to) - rank(calendar, from);
}

/** The last day to send a brief: `turnaround + buffer` open days before the needed day (or the open day before it). */
export function briefBy(input: {
  readonly calendar: CalendarInput;
  readonly needed: IsoDay;
  readonly turnaround: number;
  readonly buffer: number;
}): Result<{ readonly briefBy: IsoDay }> {
  return attempt(() => {
    requireObject(input, 'input');
    const calendar = readCalendar(input.calendar, 'calendar');
    const needed = openOnOrBefore(calendar, requireDay(input.needed, 'needed'));
    const days = requireWhole(input.turnaround, 'turnaround', 0) + requireWhole(input.buffer, 'buffer', 0);
    return { briefBy: formatDay(addWorkingDays(calendar, needed, -days)) };
  });
}

function weekRank(calendar: Pick<Calendar, 'perWeek' | 'weekdayRank'>, day: DayNumber): number {
  const week = Math.floor((day + MONDAY_OFFSET) / 7);
  return week * calendar.perWeek + (calendar.weekdayRank[day + MONDAY_OFFSET - week * 7] as number);
}

/** How many of the steps are smaller than `value`: one look-up within the table, none outside it. */
function countBelow(steps: Steps, value: number): number {
  const offset = value - steps.first;
  if (offset <= 0) return 0;
  if (steps.below === null) return searchBelow(steps.values, value);
  return offset < steps.below.length ? (steps.below[offset] as number) : steps.values.length;
}

function searchBelow(ascending: Int32Array, value: number): number {
  let low = 0;
  let high = ascending.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((ascending[middle] as number) < value) low = middle + 1;
    else high = middle;
  }
  return low;
}
