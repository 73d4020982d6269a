import { waits, type CalendarInput, type LocalTime, type PersonInput } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import { calendarOf, timeOffOf } from '../platform/sql-words.ts';

/** When somebody works, and whether their mails wait for that. */
export interface Mailed {
  readonly id: string;
  readonly isQuiet: boolean;
  readonly calendar: CalendarInput;
  readonly person: PersonInput;
  /** Now, on the agency's clock. */
  readonly now: LocalTime;
}

/** The people $1 as of now ($2) in the agency's zone ($3). */
const MAILED = `
  SELECT w.id, coalesce(m.is_quiet, true) AS "isQuiet", ${calendarOf('g')} AS calendar,
    json_build_object('id', w.id, 'week', w.week, 'off', ${timeOffOf('w', 'o.to_day >= ($2::timestamptz AT TIME ZONE $3)::date')}) AS person,
    to_char($2::timestamptz AT TIME ZONE $3, 'YYYY-MM-DD"T"HH24:MI') AS now
  FROM person w JOIN agency g ON g.id = w.agency_id LEFT JOIN notice_mailing m ON m.person_id = w.id WHERE w.id = ANY($1::uuid[])`;

export const readMailed = (
  manager: EntityManager,
  ids: readonly string[],
  at: { readonly now: Date; readonly zone: string },
): Promise<Mailed[]> => rowsOf<Mailed>(manager, MAILED, [ids, at.now, at.zone]);

/** Whether somebody is at work at this minute. */
export function isAtWork({ calendar, person, now }: Mailed): boolean {
  const held = unwrap(waits({ calendar, person, from: now, to: minuteAfter(now) }));
  return 'minutes' in held && held.minutes > 0;
}

/**
 * When something is mailed, on the agency's clock: after so many of the reader's own working minutes (0: as soon as
 * they are at work), so that it may be read on the screen before. Null for somebody who does not work again.
 */
export function mailTime(mailed: Mailed, minutes: number): LocalTime | null {
  if (!mailed.isQuiet) return minutes === 0 ? mailed.now : addMinutes(mailed.now, minutes);
  if (minutes === 0 && isAtWork(mailed)) return mailed.now;
  const { calendar, person, now } = mailed;
  const waited = waits({ calendar, person, from: now, after: Math.max(1, minutes) });
  return waited.ok && 'at' in waited.value ? waited.value.at : null;
}

const addMinutes = (at: LocalTime, minutes: number): LocalTime =>
  new Date(Date.parse(`${at}:00Z`) + minutes * 60_000).toISOString().slice(0, 16) as LocalTime;
const minuteAfter = (at: LocalTime): LocalTime => addMinutes(at, 1);
