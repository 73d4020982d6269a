import { rank } from '../calendar/calendar.ts';
import { readPerson, type Person, type PersonInput } from '../calendar/capacity.ts';
import { weekdayOf } from '../calendar/day.ts';
import { indexById, refuse, requireId, requireList } from '../check.ts';
import { boundaryOf, type Axis } from '../schedule/passes.ts';

/** Stretches of boundaries, each [from, to), in order and apart from each other. */
export type Stretches = readonly { readonly from: number; readonly to: number }[];

/** Boundaries are sums of fractions: this near to a whole day is that day. */
const NOISE = 1e-6;

/**
 * When the clock of tasks stops: on open days on which everybody who does a task is away the whole day
 * (core-spec, section 6). Days that somebody never works are not time off: what they cost is in the
 * record of finished work already. Problems: `unknown-id` for a person who is not among `people`,
 * those of a person's own input.
 */
export class Standstill {
  private readonly axis: Axis;
  private readonly people: ReadonlyMap<string, Person>;
  private readonly known = new Map<string, Stretches>();

  constructor(people: readonly PersonInput[], axis: Axis) {
    requireList(people, 'people');
    indexById(people, 'people');
    this.axis = axis;
    this.people = new Map(people.map((person) => [person.id, readPerson(person, `people[${person.id}]`)]));
  }

  /** The stretches in which none of `who` is there; null when there are none, or nobody is named. */
  of(who: unknown, at: string): Stretches | null {
    if (who === undefined || who === null) return null;
    requireList(who, at);
    const all = who.map((id, index) => this.awayOf(requireId(id, `${at}[${index}]`), at));
    const [first, ...others] = all;
    if (first === undefined) return null;
    const still = others.reduce(inBoth, first);
    return still.length === 0 ? null : still;
  }

  private awayOf(id: string, at: string): Stretches {
    const known = this.known.get(id);
    if (known !== undefined) return known;
    const person = this.people.get(id);
    if (person === undefined) return refuse({ kind: 'unknown-id', at, id });
    const away = joined(stretchesAway(person, this.axis));
    this.known.set(id, away);
    return away;
  }
}

/** Whole days off as they are given; of part days those on which nothing of the weekday is left. */
function stretchesAway({ off, week }: Person, axis: Axis): Stretches {
  const whole = off.filter(({ minutes }) => minutes === Infinity);
  const parts = off.filter(({ minutes }) => minutes !== Infinity);
  const days = new Map<number, number>();
  for (const { from, to, minutes } of parts) for (let day = from; day <= to; day++) days.set(day, (days.get(day) ?? 0) + minutes);
  const filled = [...days].filter(([day, minutes]) => (week[weekdayOf(day)] as number) > 0 && minutes >= (week[weekdayOf(day)] as number));
  return [...whole.map(({ from, to }) => [from, to] as const), ...filled.map(([day]) => [day, day] as const)].map(([from, to]) => ({
    from: boundaryOf(axis, from),
    to: rank(axis.calendar, to + 1) - axis.base,
  }));
}

function joined(stretches: Stretches): Stretches {
  const result: { from: number; to: number }[] = [];
  for (const { from, to } of [...stretches].sort((left, right) => left.from - right.from || left.to - right.to)) {
    const last = result.at(-1);
    if (from === to) continue;
    if (last !== undefined && from <= last.to) last.to = Math.max(last.to, to);
    else result.push({ from, to });
  }
  return result;
}

function inBoth(left: Stretches, right: Stretches): Stretches {
  return left.flatMap((one) =>
    right
      .filter((other) => other.from < one.to && other.to > one.from)
      .map((other) => ({ from: Math.max(one.from, other.from), to: Math.min(one.to, other.to) })),
  );
}

/** The first boundary from `at` on at which the clock runs: work that begins in a stretch begins behind it. */
export function whenItRuns(still: Stretches, at: number): number {
  for (const { from, to } of still) {
    if (at < from - NOISE) return at;
    if (at < to - NOISE) return to;
  }
  return at;
}

/** The boundary at which `days` of running clock have passed since `at`. No time takes no time. */
export function afterRunning(still: Stretches, at: number, days: number): number {
  if (days <= 0) return at;
  const start = whenItRuns(still, at);
  let end = start + days;
  for (const { from, to } of still) {
    if (to <= start + NOISE) continue;
    if (from >= end - NOISE) break;
    end += to - from;
  }
  return end;
}

/** The latest boundary from which `days` of running clock have passed at `end`. */
export function beforeRunning(still: Stretches, end: number, days: number): number {
  let start = end - days;
  for (const { from, to } of [...still].reverse()) {
    if (from >= end - NOISE) continue;
    if (to <= start + NOISE) break;
    start -= Math.min(to, end) - from;
  }
  return start;
}
