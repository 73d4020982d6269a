import { readCalendar, type Calendar, type CalendarInput } from '../calendar/calendar.ts';
import { capacityOn, readPerson, type Person, type PersonInput } from '../calendar/capacity.ts';
import { formatDay, parseDay, type IsoDay } from '../calendar/day.ts';
import { refuse, requireId, requireObject, requireWhole } from '../check.ts';
import { attempt, type Result } from '../result.ts';

/** A moment on the agency's own clock, such as `2026-12-21T15:40`. */
export type LocalTime = `${IsoDay}T${string}`;

/** Who holds something since when; with `to` it is asked how long, with `after` (working minutes) until when. */
export interface WaitsInput {
  readonly calendar: CalendarInput;
  /** When working days begin, in minutes after midnight. */
  readonly opens?: number;
  readonly person: PersonInput;
  readonly from: LocalTime;
  readonly to?: LocalTime;
  readonly after?: number;
}

export type Waits = { readonly minutes: number } | { readonly at: LocalTime };

const MINUTES_A_DAY = 1440;
const USUAL_OPENING = 540;
/** Somebody who does not work for so many days in a row is taken never to work again. */
const MOST_IDLE_DAYS = 4000;

/**
 * How long somebody has held something, in their own working minutes, or the moment at which so many
 * of them have gone by. On a day with capacity c they work from `opens` for c minutes; what they keep
 * in reserve is worked too. Source: core specification, section 7.
 *
 * Problems: fields that are not as they should be, `to` before `from`, `to` and `after` together or
 * neither, and `never` for somebody who does not work again.
 */
export function waits(input: WaitsInput): Result<Waits> {
  return attempt(() => {
    requireObject(input, 'input');
    const holder = readHolder(input);
    const from = requireMoment(input.from, 'from');
    if ((input.to === undefined) === (input.after === undefined))
      refuse({ kind: 'invalid-field', at: 'to', expected: 'given, or else after; not both' });
    if (input.after !== undefined) return { at: formatMoment(momentAfter(holder, from, requireWhole(input.after, 'after', 0))) };
    const to = requireMoment(input.to, 'to');
    if (to < from) refuse({ kind: 'invalid-field', at: 'to', expected: 'at or after from' });
    return { minutes: minutesWithin(holder, from, to) };
  });
}

/** As `waits` with `to`, for many periods of one person: their working times are read once. Throws for unusable input. */
export function waitCounter(input: Pick<WaitsInput, 'calendar' | 'opens' | 'person'>): (from: LocalTime, to: LocalTime) => number {
  const holder = readHolder(input);
  return (from, to) => minutesWithin(holder, requireMoment(from, 'from'), requireMoment(to, 'to'));
}

interface Holder {
  readonly calendar: Calendar;
  readonly person: Person;
  readonly opens: number;
}

function readHolder({ calendar, person, opens = USUAL_OPENING }: Pick<WaitsInput, 'calendar' | 'opens' | 'person'>): Holder {
  requireObject(person, 'person');
  requireId(person.id, 'person.id');
  if (requireWhole(opens, 'opens', 0) >= MINUTES_A_DAY)
    refuse({ kind: 'invalid-field', at: 'opens', expected: 'minutes after midnight, less than 1440' });
  return { calendar: readCalendar(calendar, 'calendar'), person: { ...readPerson(person, 'person'), reserve: 0 }, opens };
}

/** When somebody works on a day, in minutes since 1970. A long day may end after midnight, never after the next one opens. */
function stretchOn({ calendar, person, opens }: Holder, day: number): { readonly start: number; readonly end: number } {
  const start = day * MINUTES_A_DAY + opens;
  return { start, end: start + capacityOn(calendar, person, day) };
}

function minutesWithin(holder: Holder, from: number, to: number): number {
  let minutes = 0;
  for (let day = Math.floor(from / MINUTES_A_DAY) - 1; day * MINUTES_A_DAY < to; day++) {
    const { start, end } = stretchOn(holder, day);
    minutes += Math.max(0, Math.min(end, to) - Math.max(start, from));
  }
  return minutes;
}

function momentAfter(holder: Holder, from: number, after: number): number {
  if (after === 0) return from;
  let left = after;
  for (let day = Math.floor(from / MINUTES_A_DAY) - 1, idle = 0; idle <= MOST_IDLE_DAYS; day++) {
    const { start, end } = stretchOn(holder, day);
    const begins = Math.max(start, from);
    const worked = Math.max(0, end - begins);
    if (worked >= left) return begins + left;
    left -= worked;
    idle = worked > 0 ? 0 : idle + 1;
  }
  return refuse({ kind: 'never', at: 'person', id: holder.person.id });
}

const LOCAL_TIME = /^(\d{4}-\d{2}-\d{2})T([01]\d|2[0-3]):([0-5]\d)$/;

/** A local time as minutes since 1970, on a clock that is never put forward or back. */
function requireMoment(value: unknown, at: string): number {
  const parts = typeof value === 'string' ? LOCAL_TIME.exec(value) : null;
  const day = parts === null ? null : parseDay(parts[1]);
  if (parts === null || day === null) return refuse({ kind: 'invalid-field', at, expected: 'a local time such as 2026-12-21T15:40' });
  return day * MINUTES_A_DAY + Number(parts[2]) * 60 + Number(parts[3]);
}

function formatMoment(moment: number): LocalTime {
  const day = Math.floor(moment / MINUTES_A_DAY);
  const minute = moment - day * MINUTES_A_DAY;
  const two = (value: number): string => String(value).padStart(2, '0');
  return `${formatDay(day)}T${two(Math.floor(minute / 60))}:${two(minute % 60)}`;
}
