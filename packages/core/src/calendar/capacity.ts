import { requireDay, requireList, requireObject, requireWhole, refuse } from '../check.ts';
import { isOpen, readWeek, type Calendar } from './calendar.ts';
import { weekdayOf, type DayNumber, type IsoDay } from './day.ts';

/** Time away, both days included; without `minutes` the whole of each day. */
export interface TimeOffInput {
  readonly from: IsoDay;
  readonly to: IsoDay;
  readonly minutes?: number;
}

/** One of the crew: working week in minutes, time off, and the share kept in reserve in percent. */
export interface PersonInput {
  readonly id: string;
  readonly week: readonly number[];
  readonly off?: readonly TimeOffInput[];
  readonly reserve?: number;
}

/** A person ready for arithmetic. */
export interface Person {
  readonly id: string;
  readonly week: readonly number[];
  readonly off: readonly { readonly from: DayNumber; readonly to: DayNumber; readonly minutes: number }[];
  readonly reserve: number;
}

/** Checks one person. */
export function readPerson(input: PersonInput, at: string): Person {
  const reserve = input.reserve === undefined ? 0 : requireWhole(input.reserve, `${at}.reserve`, 0);
  if (reserve > 100) refuse({ kind: 'invalid-field', at: `${at}.reserve`, expected: 'a percentage from 0 to 100' });
  requireList(input.off ?? [], `${at}.off`);
  const off = (input.off ?? []).map((entry, position) => {
    const place = `${at}.off[${position}]`;
    requireObject(entry, place);
    const from = requireDay(entry.from, `${place}.from`);
    const to = requireDay(entry.to, `${place}.to`);
    if (to < from) refuse({ kind: 'invalid-field', at: `${place}.to`, expected: 'on or after from' });
    return { from, to, minutes: entry.minutes === undefined ? Infinity : requireWhole(entry.minutes, `${place}.minutes`, 0) };
  });
  return { id: input.id, week: readWeek(input.week, `${at}.week`), off, reserve };
}

/**
 * Minutes a person can be planned for on a day: 0 when the agency is closed; else the
 * weekday's minutes less time off, never below 0, less the reserve, rounded down.
 */
export function capacityOn(calendar: Calendar, person: Person, day: DayNumber): number {
  return isOpen(calendar, day) ? capacityOnOpenDay(person, day) : 0;
}

/** As `capacityOn`, for a day of which is known that the agency is open. */
export function capacityOnOpenDay(person: Person, day: DayNumber): number {
  let minutes = person.week[weekdayOf(day)] ?? 0;
  for (const off of person.off) if (day >= off.from && day <= off.to) minutes -= off.minutes;
  return Math.floor((Math.max(0, minutes) * (100 - person.reserve)) / 100);
}
