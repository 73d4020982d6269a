import { waits, type CalendarInput, type IsoDay, type LocalTime, type PersonInput } from '@crew/core';
import type { HandoffBoard } from '@crew/contract';
import type { Database } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import { calendarOf, timeOffOf } from '../platform/sql-words.ts';

/** An instant on the agency's own clock, whose zone is $3. */
const local = (instant: string): string => `to_char(${instant} AT TIME ZONE $3, 'YYYY-MM-DD"T"HH24:MI')`;

/** What was picked up since the month before that of day $2, from when it was handed off last, with whoever picked it up. */
const PICKED_UP = `
  SELECT ${local('given.at')} AS "from", ${local('u.at')} AS "to", (u.at AT TIME ZONE $3)::date >= date_trunc('month', $2::date) AS "isThisMonth",
    json_build_object('id', w.id, 'week', w.week, 'off', ${timeOffOf('w', 'o.to_day >= given.at::date')}) AS receiver
  FROM event u JOIN person w ON w.id = (u.payload->>'receiverId')::uuid
  CROSS JOIN LATERAL (SELECT max(g.at) AS at FROM event g WHERE g.subject_id = u.subject_id AND g.subject = 'handoff' AND g.kind = 'handed-off' AND g.at <= u.at) given
  WHERE u.agency_id = $1 AND u.subject = 'handoff' AND u.kind = 'picked-up' AND u.at >= date_trunc('month', $2::date) - interval '1 month' AND given.at IS NOT NULL`;

interface PickedUp {
  readonly from: LocalTime;
  readonly to: LocalTime;
  readonly isThisMonth: boolean;
  readonly receiver: PersonInput;
}

/** How long handoffs usually wait until they are picked up, this month and the last: the median, in the receiver's own working minutes. */
export async function readPickUpSpeed(
  database: Database,
  { agencyId, today, zone }: { readonly agencyId: string; readonly today: IsoDay; readonly zone: string },
): Promise<HandoffBoard['pickUpMinutes']> {
  const picked = await database.rows<PickedUp>(PICKED_UP, [agencyId, today, zone]);
  if (picked.length === 0) return { thisMonth: null, lastMonth: null };
  const agency = await database.row<{ calendar: CalendarInput }>(`SELECT ${calendarOf('g')} AS calendar FROM agency g WHERE g.id = $1`, [
    agencyId,
  ]);
  const calendar = agency?.calendar as CalendarInput;
  const minutes = (isThisMonth: boolean): number[] =>
    picked
      .filter((one) => one.isThisMonth === isThisMonth)
      .map(({ from, to, receiver }) => {
        const waited = unwrap(waits({ calendar, person: receiver, from, to }));
        return 'minutes' in waited ? waited.minutes : 0;
      });
  return { thisMonth: medianOf(minutes(true)), lastMonth: medianOf(minutes(false)) };
}

function medianOf(values: readonly number[]): number | null {
  const sorted = [...values].sort((left, right) => left - right);
  const middle = Math.floor(sorted.length / 2);
  const [low, high] = [sorted[sorted.length % 2 === 0 ? middle - 1 : middle], sorted[middle]];
  return low === undefined || high === undefined ? null : Math.round((low + high) / 2);
}
