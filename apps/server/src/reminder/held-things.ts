import type { ReminderOf } from '@crew/contract';
import type { LocalTime, PersonInput } from '@crew/core';
import { isOpen, isWork, standInFor, timeOffOf } from '../platform/sql-words.ts';
import { isReadyBy } from '../task/query/task-columns.ts';

interface Somebody {
  readonly id: string;
  readonly name: string;
}

/** Something that does not move: who holds it since when, and who has been told of that since. */
export interface Held {
  readonly of: ReminderOf;
  readonly subject: 'handoff' | 'task';
  readonly id: string;
  readonly agencyId: string;
  readonly engagementId: string;
  readonly title: string;
  /** Whether the client may read its title. */
  readonly isShownToClient: boolean;
  readonly since: LocalTime;
  readonly until: LocalTime;
  /** Of what waits for the client, whoever asks them for it. */
  readonly holder: Somebody & PersonInput;
  readonly lead: Somebody;
  /** Working hours after which the holder, or of the client's things the client, and then the lead are reminded; 0 never. */
  readonly firstHours: number;
  readonly leadHours: number;
  /** By step and person. */
  readonly told: readonly string[];
}

/** Work that was done longer ago without time logged is not asked about any more; the desk stops as well. */
const UNLOGGED_DAYS = 14;

/** Time off that is longer past is not read; what has stood still for longer is due in any case. */
const LOOKED_BACK_DAYS = 400;

/** Today on the agency's own clock: $1 is its zone, $2 now. */
const TODAY = '($2::timestamptz AT TIME ZONE $1)::date';
/** From the working day after a day on. */
const after = (day: string): string => `(${day} + 1)::timestamp`;
const TASK = (of: ReminderOf, since: string, and: string): string =>
  `SELECT '${of}' AS of, 'task' AS subject, t.id, t.engagement_id, t.title, t.is_shown_to_client, a.person_id AS named_id, ${since} AS since
   FROM task t JOIN phase p ON p.id = t.phase_id LEFT JOIN task_assignee a ON a.task_id = t.id WHERE NOT t.is_group AND ${and}`;
const IS_LATE = `${isReadyBy(TODAY)} AND t.due_day < ${TODAY}`;

/** What stands still, by kind: its subject, who has it and since when on the agency's own clock. */
const CLOCKS: Readonly<Record<ReminderOf, string>> = {
  handoff: `SELECT 'handoff' AS of, 'handoff' AS subject, h.id, h.engagement_id, '' AS title, false AS is_shown_to_client,
      CASE h.state WHEN 'handed-off' THEN h.receiver_id ELSE h.giver_id END AS named_id, h.since AT TIME ZONE $1 AS since
    FROM handoff h WHERE h.state IN ('handed-off', 'sent-back') AND h.since <= $2`,
  overdue: TASK('overdue', after('t.due_day'), `${isOpen('t')} AND t.kind <> 'client' AND ${IS_LATE}`),
  waiting: TASK('waiting', after('t.waiting_since'), `t.status = 'waiting' AND t.waiting_on <> 'client' AND t.kind <> 'client'`),
  client: TASK(
    'client',
    after(`coalesce(t.waiting_since, t.due_day)`),
    `${isOpen('t')} AND coalesce(a.position, 0) = 0 AND (t.waiting_on = 'client' OR (t.kind = 'client' AND ${IS_LATE}))`,
  ),
  unlogged: TASK(
    'unlogged',
    after('t.done_on'),
    `t.status = 'done' AND t.done_on > ${TODAY} - ${UNLOGGED_DAYS} AND ${isWork('t')} AND a.person_id IS NOT NULL
     AND NOT EXISTS (SELECT 1 FROM time_entry x WHERE x.task_id = t.id AND x.person_id = a.person_id)`,
  ),
};

const HOURS: Readonly<Record<ReminderOf, { readonly first: string; readonly lead: string }>> = {
  handoff: { first: 'g.remind_hours', lead: 'g.remind_lead_hours' },
  overdue: { first: 'g.remind_task_hours', lead: 'g.remind_task_lead_hours' },
  waiting: { first: 'g.remind_task_hours', lead: 'g.remind_task_lead_hours' },
  client: { first: 'g.remind_client_hours', lead: 'g.remind_client_lead_hours' },
  unlogged: { first: 'g.remind_logging_hours', lead: '0' },
};
const hoursFor = (step: 'first' | 'lead'): string =>
  `CASE k.of ${Object.entries(HOURS)
    .map(([of, hours]) => `WHEN '${of}' THEN ${hours[step]}`)
    .join(' ')} END`;

const local = (time: string): string => `to_char(${time}, 'YYYY-MM-DD"T"HH24:MI')`;

/**
 * Everything in open engagements that stands still, in all of them or in engagement $3. Whoever is away is stood in
 * for; what nobody has is its lead's. Logging one's own time is nobody else's.
 */
export const HELD = `
  WITH clock AS MATERIALIZED (${Object.values(CLOCKS).join(' UNION ALL ')})
  SELECT k.of, k.subject, k.id, k.title, k.is_shown_to_client AS "isShownToClient", e.agency_id AS "agencyId", k.engagement_id AS "engagementId",
    ${local('k.since')} AS since, ${local('$2::timestamptz AT TIME ZONE $1')} AS until,
    json_build_object('id', w.id, 'name', w.name, 'week', w.week, 'off', ${timeOffOf('w', `o.to_day >= ${TODAY} - ${LOOKED_BACK_DAYS}`)}) AS holder,
    json_build_object('id', l.id, 'name', l.name) AS lead, ${hoursFor('first')} AS "firstHours", ${hoursFor('lead')} AS "leadHours",
    ARRAY(SELECT concat_ws(' ', v.payload->>'step', v.payload->>'personId') FROM event v WHERE v.subject = k.subject AND v.subject_id = k.id
      AND v.kind = 'reminded' AND coalesce(v.payload->>'of', 'handoff') = k.of AND v.at >= k.since AT TIME ZONE $1) AS told
  FROM clock k JOIN engagement e ON e.id = k.engagement_id AND e.state IN ('open', 'proposal') JOIN agency g ON g.id = e.agency_id
  JOIN person w ON w.id = coalesce(CASE WHEN k.of <> 'unlogged' THEN ${standInFor('k.named_id', { otherwise: 'e.lead_id', day: TODAY })} END, k.named_id, e.lead_id)
  JOIN person l ON l.id = e.lead_id
  WHERE k.since <= $2::timestamptz AT TIME ZONE $1 AND ($3::uuid IS NULL OR k.engagement_id = $3)
  ORDER BY k.engagement_id, k.of, k.id, w.id`;
