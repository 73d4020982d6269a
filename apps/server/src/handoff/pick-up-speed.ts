import { waits, type CalendarInput, type IsoDay, type LocalTime, type PersonInput } from '@crew/core';
import type { HandoffBoard } from '@crew/contract';
import type { Database } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import { calendarOf, timeOffOf } from '../platform/sql-words.ts';

/** An instant on the agency's own clock, whose zone is $3. */
const local = (instant: string): string => `to_char(${instant} AT TIME ZONE $3, 'YYYY-MM-DD"T"HH24:MI')`;

/** What was picked up since the month before that of day $2, from when it was handed off last, and by whom. */
const PICKED_UP = `
  SELECT u.payload->>'receiverId' AS "receiverId", ${local('given.at')} AS "from", ${local('u.at')} AS "to",
    (u.at AT TIME ZONE $3)::date >= date_trunc('month', $2::date) AS "isThisMonth"
  FROM event u
  CROSS JOIN LATERAL (SELECT max(g.at) AS at FROM event g WHERE g.subject_id = u.subject_id AND g.subject = 'handoff' AND g.kind = 'handed-off' AND g.at <= u.at) given
  WHERE u.agency_id = $1 AND u.subject = 'handoff' AND u.kind = 'picked-up' AND u.at >= date_trunc('month', $2::date) - interval '1 month' AND given.at IS NOT NULL`;

interface PickedUp {
  readonly receiverId: string;
  readonly from: LocalTime;
  readonly to: LocalTime;
  readonly isThisMonth: boolean;
}

/** The agency's calendar, and when each of its people works; time off of long before those months is not asked for. */
const WORKING = `
  SELECT ${calendarOf('g')} AS calendar, coalesce((SELECT json_agg(json_build_object('id', w.id, 'week', w.week,
      'off', ${timeOffOf('w', `o.to_day >= date_trunc('month', $2::date) - interval '2 months'`)})) FROM person w WHERE w.agency_id = g.id), '[]') AS people
  FROM agency g WHERE g.id = $1`;

interface Working {
  readonly calendar: CalendarInput;
  readonly people: readonly (PersonInput & { readonly id: string })[];
}

/** How long handoffs usually wait until they are picked up, this month and the last: the median, in the receiver's own working minutes. */
export async function readPickUpSpeed(
  database: Database,
  { agencyId, today, zone }: { readonly agencyId: string; readonly today: IsoDay; readonly zone: string },
): Promise<HandoffBoard['pickUpMinutes']> {
  const [picked, working] = await Promise.all([
    database.rows<PickedUp>(PICKED_UP, [agencyId, today, zone]),
    database.row<Working>(WORKING, [agencyId, today]),
  ]);
  const people = new Map((working?.people ?? []).map((person) => [person.id, person]));
  const waited = picked.flatMap(({ receiverId, from, to, isThisMonth }) => {
    const person = people.get(receiverId);
    if (person === undefined || working === null) return [];
    const answer = unwrap(waits({ calendar: working.calendar, person, from, to }));
    return 'minutes' in answer ? [{ isThisMonth, minutes: answer.minutes }] : [];
  });
  const median = (isThisMonth: boolean): number | null =>
    medianOf(waited.filter((one) => one.isThisMonth === isThisMonth).map(({ minutes }) => minutes));
  return { thisMonth: median(true), lastMonth: median(false) };
}

function medianOf(values: readonly number[]): number | null {
  const sorted = [...values].sort((left, right) => left - right);
  const middle = Math.floor(sorted.length / 2);
  const [low, high] = [sorted[sorted.length % 2 === 0 ? middle - 1 : middle], sorted[middle]];
  return low === undefined || high === undefined ? null : Math.round((low + high) / 2);
}
