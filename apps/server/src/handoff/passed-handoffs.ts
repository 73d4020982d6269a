import {
  compileCalendar,
  parseDay,
  waitCounter,
  workingDaysBetween,
  type Calendar,
  type CalendarInput,
  type DayNumber,
  type IsoDay,
  type LocalTime,
  type PersonInput,
} from '@crew/core';
import type { HandoffCase, HandoffState, PersonRef } from '@crew/contract';
import type { Database } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import { calendarOf, ENGAGEMENT_IN_COLOUR, PERSON_OR_NULL, timeOffOf } from '../platform/sql-words.ts';

/** A handoff that was made, with what its numbers are counted by. */
export interface PassedHandoff extends HandoffCase {
  /** Of the first handing off, as `2026-11`. */
  readonly month: string;
  readonly role: { readonly id: string; readonly name: string } | null;
  readonly templateId: string | null;
}

interface Turn {
  readonly kind: 'handed-off' | 'given-on' | 'picked-up' | 'sent-back';
  /** On the agency's own clock. */
  readonly local: LocalTime;
  readonly at: string;
  readonly receiverId: string | null;
  readonly words: string;
}

interface Row {
  readonly id: string;
  readonly engagement: HandoffCase['engagement'];
  readonly from: string;
  readonly to: string | null;
  readonly state: HandoffState;
  readonly giver: PersonRef | null;
  readonly receiver: PersonRef | null;
  readonly role: PassedHandoff['role'];
  readonly templateId: string | null;
  readonly started: IsoDay | null;
  readonly finished: IsoDay | null;
  readonly baselineStart: IsoDay | null;
  readonly baselineFinish: IsoDay | null;
  readonly turns: readonly Turn[];
}

/** What was handed off first on day $2 or later in the agency's zone ($3), with all its turns. */
const PASSED = `
  WITH given AS (
    SELECT v.subject_id AS id, min(v.at) AS first FROM event v
    WHERE v.agency_id = $1 AND v.subject = 'handoff' AND v.kind = 'handed-off' AND v.undone_by_id IS NULL AND v.at >= ($2::date::timestamp AT TIME ZONE $3) GROUP BY v.subject_id)
  SELECT h.id, ${ENGAGEMENT_IN_COLOUR} AS engagement, f.name AS "from", n.name AS "to", h.state, ${PERSON_OR_NULL('g')} AS giver, ${PERSON_OR_NULL('w')} AS receiver,
    CASE WHEN r.id IS NOT NULL THEN json_build_object('id', r.id, 'name', r.name) END AS role, e.template_id AS "templateId",
    f.started_on AS started, f.finished_on AS finished, f.baseline_start AS "baselineStart", f.baseline_finish AS "baselineFinish",
    (SELECT json_agg(json_build_object('kind', v.kind, 'at', v.at, 'local', to_char(v.at AT TIME ZONE $3, 'YYYY-MM-DD"T"HH24:MI'),
        'receiverId', v.payload->>'receiverId', 'words', coalesce(v.payload->>'words', '')) ORDER BY v.id)
      FROM event v WHERE v.subject_id = h.id AND v.subject = 'handoff' AND v.undone_by_id IS NULL AND v.kind IN ('handed-off', 'given-on', 'picked-up', 'sent-back')) AS turns
  FROM given JOIN handoff h ON h.id = given.id JOIN phase f ON f.id = h.from_phase_id JOIN engagement e ON e.id = h.engagement_id JOIN client c ON c.id = e.client_id
    LEFT JOIN phase n ON n.id = h.to_phase_id LEFT JOIN role r ON r.id = f.role_id LEFT JOIN person g ON g.id = h.giver_id LEFT JOIN person w ON w.id = h.receiver_id
  WHERE NOT EXISTS (SELECT 1 FROM event o WHERE o.subject_id = h.id AND o.subject = 'handoff' AND o.kind = 'handed-off' AND o.undone_by_id IS NULL AND o.at < ($2::date::timestamp AT TIME ZONE $3))
  ORDER BY given.first DESC, h.id`;

/** The agency's calendar, when each of its people works, and now on its clock. */
const WORKING = `
  SELECT ${calendarOf('g')} AS calendar, to_char($3::timestamptz AT TIME ZONE $4, 'YYYY-MM-DD"T"HH24:MI') AS now,
    coalesce((SELECT json_agg(json_build_object('id', w.id, 'week', w.week, 'off', ${timeOffOf('w', 'o.to_day >= $2::date')})) FROM person w WHERE w.agency_id = g.id), '[]') AS people
  FROM agency g WHERE g.id = $1`;

interface Working {
  readonly calendar: CalendarInput;
  readonly now: LocalTime;
  readonly people: readonly (PersonInput & { readonly id: string })[];
}

/** Every handoff whose first handing off was on day `since` or later, the newest first, with how long it took. */
export async function readPassedHandoffs(
  database: Database,
  { agencyId, since, now, zone }: { readonly agencyId: string; readonly since: IsoDay; readonly now: Date; readonly zone: string },
): Promise<readonly PassedHandoff[]> {
  const [rows, working] = await Promise.all([
    database.rows<Row>(PASSED, [agencyId, since, zone]),
    database.row<Working>(WORKING, [agencyId, since, now, zone]),
  ]);
  if (working === null) return [];
  const calendar = unwrap(compileCalendar(working.calendar));
  const counters = new Map<string, ReturnType<typeof waitCounter>>();
  const people = new Map(working.people.map((person) => [person.id, person]));
  const held = (personId: string, from: LocalTime, to: LocalTime): number => {
    const person = people.get(personId);
    if (person === undefined) return 0;
    const counter = counters.get(personId) ?? waitCounter({ calendar: working.calendar, person });
    counters.set(personId, counter);
    return counter(from, to);
  };
  return rows.map((row) => toPassed(row, { calendar, held, now: working.now }));
}

interface Counting {
  readonly calendar: Calendar;
  readonly held: (personId: string, from: LocalTime, to: LocalTime) => number;
  readonly now: LocalTime;
}

function toPassed(
  { turns, started, finished, baselineStart, baselineFinish, state, ...row }: Row,
  { calendar, held, now }: Counting,
): PassedHandoff {
  const first = turns.find(({ kind }) => kind === 'handed-off') as Turn;
  const picked = state === 'picked-up' ? turns.findLast(({ kind }) => kind === 'picked-up') : undefined;
  return {
    ...row,
    month: first.local.slice(0, 7),
    handedOffAt: first.at,
    pickedUpAt: picked?.at ?? null,
    waitMinutes: waitIn(turns, held, now),
    isWaiting: state === 'handed-off',
    days: started === null || finished === null ? null : daysFrom(calendar, started, finished),
    plannedDays: baselineStart === null || baselineFinish === null ? null : daysFrom(calendar, baselineStart, baselineFinish),
    questions: turns.flatMap(({ kind, words }) => (kind === 'sent-back' ? [words] : [])),
  };
}

/** The time it lay with whoever was to pick it up, each in their own working minutes: from every handing off until it was picked up or sent back. */
function waitIn(turns: readonly Turn[], held: Counting['held'], now: LocalTime): number {
  let minutes = 0;
  for (const [place, { kind, local, receiverId }] of turns.entries()) {
    if ((kind !== 'handed-off' && kind !== 'given-on') || receiverId === null) continue;
    minutes += held(receiverId, local, turns[place + 1]?.local ?? now);
  }
  return minutes;
}

/** Working days from one day to another, both counted; a phase takes one at least. */
const daysFrom = (calendar: Calendar, from: IsoDay, to: IsoDay): number =>
  Math.max(1, workingDaysBetween(calendar, parseDay(from) as DayNumber, ((parseDay(to) as number) + 1) as DayNumber));
