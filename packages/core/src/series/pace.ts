import { weekdayOf } from '../calendar/day.ts';
import { refuse, requireWhole } from '../check.ts';
import { attempt, type Result } from '../result.ts';
import { readRule, writeRule } from './rule.ts';

/** A pace: so many units in so many weeks. */
export interface Pace {
  readonly units: number;
  readonly weeks: number;
}

/** A pace as a rule, and how many units each of its days has. */
export interface PacedRule {
  readonly rule: string;
  readonly each: number;
}

/**
 * The rule of a pace over the agency's working week (minutes Monday … Sunday): the units are
 * spread over as many open weekdays as divide them, as evenly around the week as they go, the
 * first on the first open day. 1 a week is Monday, 2 Monday and Thursday, 3 Monday, Wednesday
 * and Friday; 6 are two at a time on three days. Units 1 … 50, weeks 1 … 12.
 */
export function paceRule(pace: Pace, week: readonly number[]): Result<PacedRule> {
  return attempt(() => {
    const units = requireWhole(pace.units, 'pace.units', 1);
    const weeks = requireWhole(pace.weeks, 'pace.weeks', 1);
    if (units > 50) refuse({ kind: 'invalid-field', at: 'pace.units', expected: 'at most 50' });
    if (weeks > 12) refuse({ kind: 'invalid-field', at: 'pace.weeks', expected: 'at most 12' });
    const open = [0, 1, 2, 3, 4, 5, 6].filter((weekday) => (week[weekday] ?? 0) > 0);
    if (open.length === 0) refuse({ kind: 'no-working-day', at: 'week' });
    const dayCount = open.map((_, index) => open.length - index).find((days) => units % days === 0) as number;
    const weekdays = spread(dayCount, open).map((weekday) => ({ weekday, nth: null }));
    const base = { frequency: 'weekly', interval: weeks, count: null, until: null, weekdays } as const;
    const rest = { monthDays: [], yearDays: [], months: [], positions: [], weekStart: 0 };
    return { rule: writeRule({ ...base, ...rest }), each: units / dayCount };
  });
}

/** So many of the open weekdays, as far from each other as a week of seven days lets them be. */
function spread(count: number, open: readonly number[]): number[] {
  const left = [...open];
  const taken: number[] = [];
  for (let index = 0; index < count; index++) {
    const wanted = (open[0] as number) + Math.floor((index * 7) / count);
    const next = left.find((weekday) => weekday >= wanted) ?? (left.at(-1) as number);
    left.splice(left.indexOf(next), 1);
    taken.push(next);
  }
  return taken.sort((one, other) => one - other);
}

/**
 * The pace of a rhythm: units and weeks, where its rule is weekly with nothing but weekdays;
 * null for any other rule.
 */
export function paceOf(rhythm: { readonly rule: string; readonly each: number }, start: number): Pace | null {
  const read = readRule(rhythm.rule);
  if (!read.ok || read.value.frequency !== 'weekly') return null;
  const { weekdays, months, positions, interval } = read.value;
  if (months.length + positions.length > 0) return null;
  const days = new Set(weekdays.length === 0 ? [weekdayOf(start)] : weekdays.map(({ weekday }) => weekday));
  return { units: days.size * rhythm.each, weeks: interval };
}
