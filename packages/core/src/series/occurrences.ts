import { isOpen, openOnOrAfter, openOnOrBefore, readCalendar, type Calendar, type CalendarInput } from '../calendar/calendar.ts';
import { formatDay, type DayNumber, type IsoDay } from '../calendar/day.ts';
import { refuse, requireDay, requireList, requireWhole } from '../check.ts';
import { attempt, ProblemError, type Result } from '../result.ts';
import { expandRule } from './expand.ts';
import { readRule, type RepeatRule } from './rule.ts';

/** What is done on a day the agency is closed on. */
export const ON_CLOSED = ['after', 'before', 'skip'] as const;
export type OnClosed = (typeof ON_CLOSED)[number];

/** A rhythm: a rule that holds from a day on, so many at a time. The next rhythm ends it. */
export interface Rhythm {
  readonly from: IsoDay;
  readonly rule: string;
  /** How many on each of its days; 1 where it is left out. */
  readonly each?: number;
}

/** Work that repeats, by one rhythm after the other, with what is left out and what is added. */
export interface SeriesInput {
  readonly calendar: CalendarInput;
  readonly rhythms: readonly Rhythm[];
  readonly onClosed: OnClosed;
  /** Days of the rule that are left out (EXDATE), and days beside it (RDATE). */
  readonly skipped?: readonly IsoDay[];
  readonly extra?: readonly IsoDay[];
  /** Of two that fall on one open day both are done, not one in place of both. */
  readonly keepsDoubles?: boolean;
  /** The days of the rule asked for, both included; they may be worked on other days. */
  readonly from: IsoDay;
  readonly to: IsoDay;
}

/** One time: the rule's own day, by which it is known for good, and the open day it falls on. */
export interface Occurrence {
  readonly day: IsoDay;
  readonly on: IsoDay;
  readonly each: number;
}

/** Further ahead nothing is looked for: about ten years. */
const MOST_DAYS = 3700;
/** Days are counted from the first one on, as some rules end after so many: about a hundred years. */
const LONGEST_DAYS = 36_600;

/**
 * When repeating work falls: the days of each rhythm until the next begins, less the skipped,
 * with the extra ones, each on an open day as `onClosed` says. Two that would share an open
 * day are one, unless `keepsDoubles` says that both are done. Ascending. Problems name the rhythm or the field.
 */
export function occurrences(input: SeriesInput): Result<Occurrence[]> {
  return attempt(() => {
    const calendar = readCalendar(input.calendar, 'calendar');
    const [from, to] = [requireDay(input.from, 'from'), requireDay(input.to, 'to')];
    if (to - from > MOST_DAYS) refuse({ kind: 'invalid-field', at: 'to', expected: 'within ten years' });
    const skipped = new Set(readDays(input.skipped, 'skipped'));
    // Days of one closed stretch may share an open day: the whole stretch is looked at, wherever the window cuts it.
    const whole = { from: openOnOrBefore(calendar, from), to: openOnOrAfter(calendar, to) };
    const extra = readDays(input.extra, 'extra').filter((day) => day >= whole.from && day <= whole.to);
    const each = new Map(extra.map((day) => [day, 1]));
    for (const time of daysOf(input.rhythms, whole)) each.set(time.day, time.each);
    const days = [...each].filter(([day]) => !skipped.has(day)).sort(([left], [right]) => left - right);
    return onOpenDays(calendar, days, input)
      .filter(({ day }) => day >= from && day <= to)
      .map(({ day, on, each: count }) => ({ day: formatDay(day), on: formatDay(on), each: count }));
  });
}

function readDays(days: readonly IsoDay[] | undefined, at: string): DayNumber[] {
  if (days === undefined) return [];
  requireList(days, at);
  return days.map((day, index) => requireDay(day, `${at}[${index}]`));
}

interface Time {
  readonly day: DayNumber;
  readonly each: number;
}

function daysOf(rhythms: readonly Rhythm[], window: { readonly from: DayNumber; readonly to: DayNumber }): Time[] {
  requireList(rhythms, 'rhythms');
  const begins = rhythms.map((rhythm, index) => requireDay(rhythm.from, `rhythms[${index}].from`));
  const order = begins.map((_, index) => index).sort((left, right) => (begins[left] as number) - (begins[right] as number));
  return order.flatMap((index, turn) => {
    const next = order[turn + 1];
    const until = next === undefined ? window.to : Math.min(window.to, (begins[next] as number) - 1);
    const start = begins[index] as number;
    if (window.to - start > LONGEST_DAYS)
      refuse({ kind: 'invalid-field', at: `rhythms[${index}].from`, expected: 'within a hundred years' });
    const rhythm = rhythms[index] as Rhythm;
    const each = rhythm.each === undefined ? 1 : requireWhole(rhythm.each, `rhythms[${index}].each`, 1);
    return expandRule(requireRule(rhythm.rule, `rhythms[${index}].rule`), { start, from: window.from, to: until }).map((day) => ({
      day,
      each,
    }));
  });
}

function requireRule(text: string, at: string): RepeatRule {
  const rule = readRule(text);
  if (rule.ok) return rule.value;
  throw new ProblemError(rule.problem.kind === 'invalid-field' ? { ...rule.problem, at } : rule.problem);
}

interface PlacedTime extends Time {
  readonly on: DayNumber;
}

function onOpenDays(
  calendar: Calendar,
  days: readonly (readonly [DayNumber, number])[],
  { onClosed, keepsDoubles = false }: Pick<SeriesInput, 'onClosed' | 'keepsDoubles'>,
): PlacedTime[] {
  const taken = new Set(days.map(([day]) => day).filter((day) => isOpen(calendar, day)));
  return days.flatMap(([day, each]): PlacedTime[] => {
    if (isOpen(calendar, day)) return [{ day, on: day, each }];
    if (onClosed === 'skip') return [];
    const on = onClosed === 'after' ? openOnOrAfter(calendar, day) : openOnOrBefore(calendar, day);
    // A day of its own is there already, or another closed one got there first.
    if (taken.has(on) && !keepsDoubles) return [];
    taken.add(on);
    return [{ day, on, each }];
  });
}
