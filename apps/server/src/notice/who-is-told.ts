import {
  FOLLOWED_EVENTS,
  NOTICE_CHANNEL,
  NOTICE_KIND,
  NOTICE_KINDS,
  type EventKind,
  type NoticeChannel,
  type NoticeKind,
} from '@crew/contract';
import { isOpen, standInFor } from '../platform/sql-words.ts';

/** Of which events somebody is told something, and as SQL over event v and the `cause` it followed from, who: `person_id`, and the task or handoff it is about. */
interface Told {
  readonly events: readonly EventKind[];
  readonly people: string;
}

/** People in a field `assignees` of event v, on one side of the change and not on the other. */
const assigneesOnlyIn = (side: 'from' | 'to', other: 'from' | 'to'): string => `
  SELECT (x->>'personId')::uuid AS person_id, v.subject_id AS task_id, NULL::uuid AS handoff_id
  FROM jsonb_array_elements(v.changes) change, jsonb_array_elements(CASE jsonb_typeof(change->'${side}') WHEN 'array' THEN change->'${side}' ELSE '[]' END) x
  WHERE change->>'field' = 'assignees' AND NOT coalesce(change->'${other}' @> jsonb_build_array(jsonb_build_object('personId', x->'personId')), false)`;

/** Whoever has the task that event v added; what repeats is no news each time it comes. */
const BORN_WITH = `
  SELECT a.person_id, a.task_id, NULL::uuid FROM task_assignee a WHERE v.kind = 'task-added' AND v.payload->>'seriesId' IS NULL AND a.task_id = v.subject_id`;

/** Whoever a field of what event v carries names, about its handoff. */
const namedIn = (field: string): string =>
  `SELECT (v.payload->>'${field}')::uuid AS person_id, NULL::uuid AS task_id, v.subject_id AS handoff_id WHERE v.payload->>'${field}' IS NOT NULL`;

/** Who leads the engagement of event v, and whoever has open work in it. */
const ENGAGED = `
  SELECT e.lead_id AS person_id, NULL::uuid AS task_id, NULL::uuid AS handoff_id FROM engagement e WHERE e.id = v.engagement_id
  UNION SELECT a.person_id, NULL, NULL FROM task t JOIN task_assignee a ON a.task_id = t.id WHERE t.engagement_id = v.engagement_id AND ${isOpen('t')}`;

/** Whoever a rule named when event v was recorded, about what it was about. */
const NAMED_BY_RULE = `
  SELECT x::uuid AS person_id, CASE WHEN v.subject = 'task' THEN v.subject_id END AS task_id, CASE WHEN v.subject = 'handoff' THEN v.subject_id END AS handoff_id
  FROM jsonb_array_elements_text(v.payload->'personIds') x`;

/** Whoever was reminded with event v, where a condition on it holds. */
const REMINDED = (condition: string): string => `
  SELECT (v.payload->>'personId')::uuid AS person_id, CASE WHEN v.subject = 'task' THEN v.subject_id END AS task_id, CASE WHEN v.subject = 'handoff' THEN v.subject_id END AS handoff_id
  WHERE v.payload->>'personId' IS NOT NULL AND ${condition}`;

const changes = (field: string): string => `v.changes @> '[{"field": "${field}"}]'`;

/** Whoever stands in, on the day of event v, for the person a handoff comes to with it. */
const STAND_IN = `
  SELECT ${standInFor(`(v.payload->>'receiverId')::uuid`, {
    otherwise: 'e.lead_id',
    day: '(v.at AT TIME ZONE (SELECT zone FROM agency WHERE id = v.agency_id))::date',
  })} AS person_id, NULL::uuid, v.subject_id FROM engagement e WHERE e.id = v.engagement_id`;

/** Whether nothing that has to be over first keeps task t any more. */
const IS_FREE = `NOT EXISTS (SELECT 1 FROM task_dependency l JOIN task b ON b.id = l.predecessor_id
  WHERE l.successor_id = t.id AND l.type = 'FS' AND ${isOpen('b')})`;

/** Whether task t moved because what stood in front of it is over: whoever has it hears of that. */
const IS_SAID_BY_READY = `coalesce(cause.kind = 'task-status-changed' AND cause.facts->>'status' IN ('done', 'dropped')
  AND EXISTS (SELECT 1 FROM task_dependency d WHERE d.predecessor_id = cause.subject_id AND d.successor_id = t.id), false)`;

const TOLD: Readonly<Record<NoticeKind, Told>> = {
  'handed-off': { events: ['handed-off', 'given-on'], people: `${namedIn('receiverId')} UNION ALL ${STAND_IN}` },
  'sent-back': { events: ['sent-back'], people: `${namedIn('receiverId')} UNION ALL ${STAND_IN}` },
  'mail-received': {
    events: ['mail-received'],
    people: `SELECT e.lead_id AS person_id, NULL::uuid AS task_id, CASE WHEN v.subject = 'handoff' THEN v.subject_id END AS handoff_id FROM engagement e
        WHERE e.id = v.engagement_id
      UNION SELECT x.id, NULL, h.id FROM handoff h CROSS JOIN LATERAL (VALUES (h.giver_id), (h.receiver_id)) x(id) WHERE v.subject = 'handoff' AND h.id = v.subject_id AND x.id IS NOT NULL`,
  },
  'handoff-ready': { events: ['handoff-readied'], people: NAMED_BY_RULE },
  told: { events: ['told'], people: NAMED_BY_RULE },
  reminder: { events: ['reminded'], people: REMINDED(`v.subject = 'handoff'`) },
  overdue: { events: ['reminded'], people: REMINDED(`v.subject = 'task' AND v.payload->>'of' <> 'unlogged'`) },
  unlogged: { events: ['reminded'], people: REMINDED(`v.payload->>'of' = 'unlogged'`) },
  assigned: { events: ['task-assigned', 'task-added'], people: `${assigneesOnlyIn('to', 'from')} UNION ${BORN_WITH}` },
  unassigned: { events: ['task-assigned'], people: assigneesOnlyIn('from', 'to') },
  ready: {
    events: ['task-status-changed'],
    people: `SELECT a.person_id, t.id AS task_id, NULL::uuid AS handoff_id
      FROM task_dependency d JOIN task t ON t.id = d.successor_id JOIN phase p ON p.id = t.phase_id JOIN task_assignee a ON a.task_id = t.id
      WHERE v.facts->>'status' IN ('done', 'dropped') AND d.predecessor_id = v.subject_id AND d.type = 'FS' AND t.status = 'queued' AND NOT t.is_group
        AND (p.state <> 'ahead' OR t.may_start_early) AND ${IS_FREE}`,
  },
  moved: {
    events: ['task-rescheduled'],
    people: `SELECT a.person_id, t.id AS task_id, NULL::uuid AS handoff_id FROM task t JOIN task_assignee a ON a.task_id = t.id
      WHERE t.id = v.subject_id AND ${isOpen('t')} AND NOT t.is_group AND ${changes('dueDay')} AND NOT ${IS_SAID_BY_READY}`,
  },
  promise: { events: ['engagement-changed'], people: `SELECT * FROM (${ENGAGED}) engaged WHERE ${changes('promise')}` },
  engagement: {
    events: ['engagement-started', 'engagement-closed', 'engagement-reopened', 'engagement-completed', 'round-started'],
    people: ENGAGED,
  },
  'picked-up': {
    events: ['picked-up'],
    people: `SELECT h.giver_id AS person_id, NULL::uuid AS task_id, h.id AS handoff_id FROM handoff h WHERE h.id = v.subject_id`,
  },
  status: {
    events: ['task-status-changed'],
    people: `SELECT a.person_id, a.task_id, NULL::uuid AS handoff_id FROM task_assignee a WHERE a.task_id = v.subject_id
      UNION SELECT e.lead_id, v.subject_id, NULL FROM engagement e WHERE e.id = v.engagement_id`,
  },
};

/** The kinds of events somebody is told of. */
export const TOLD_EVENTS = FOLLOWED_EVENTS.filter((kind) => NOTICE_KIND.some((notice) => TOLD[notice].events.includes(kind)));

const texts = (list: readonly string[]): string => list.map((text) => `'${text}'`).join(', ');

/** Everybody of each kind, the kinds numbered by what matters more. */
const EVERYBODY = NOTICE_KIND.map(
  (kind, rank) => `
  SELECT '${kind}' AS kind, ${rank} AS rank, ${NOTICE_CHANNEL.map((channel) => `${NOTICE_KINDS[kind][channel]} AS ${channel}`).join(', ')}, k${rank}.* FROM (${TOLD[kind].people}) k${rank} WHERE v.kind IN (${texts(TOLD[kind].events)})`,
).join(' UNION ALL ');

/** Whether somebody is told in one of the places: what they chose, else the kind's own word; without a sign-in there is no address to mail to. */
const placeOf = (channel: NoticeChannel): string =>
  `coalesce(bool_or(choice.is_on) FILTER (WHERE choice.channel = '${channel}'), told.${channel})${channel === 'screen' ? '' : ' AND bool_or(own.id IS NOT NULL)'} AS ${channel}`;

/**
 * Writes the notices of the events $1: to whoever is of the crew and has chosen to be told, of each thing
 * once and of what matters most. Nobody is told of their own doing, nor of what followed from it; what
 * only a new day brought about is nobody's doing. Answers to whom, and with `mail_due_at` which of them are to be mailed: `TellPeople` says when.
 */
export const WRITE_NOTICES = `
  INSERT INTO notice (agency_id, person_id, event_id, kind, engagement_id, task_id, handoff_id, on_screen, mail_due_at, in_digest)
  SELECT DISTINCT ON (v.id, w.id, told.task_id) v.agency_id, w.id, v.id, told.kind, v.engagement_id, told.task_id, told.handoff_id,
    place.screen, CASE WHEN place.mail THEN v.at END, place.digest
  FROM event v
  LEFT JOIN event cause ON cause.id = v.cause_id
  LEFT JOIN account doer ON doer.id = coalesce(v.account_id, cause.account_id)
  CROSS JOIN LATERAL (${EVERYBODY}) told
  JOIN person w ON w.id = told.person_id AND w.agency_id = v.agency_id AND w.is_active
  CROSS JOIN LATERAL (SELECT ${NOTICE_CHANNEL.map(placeOf).join(', ')} FROM (SELECT 1) one
    LEFT JOIN notice_choice choice ON choice.person_id = w.id AND choice.kind = told.kind
    LEFT JOIN account own ON own.person_id = w.id) place
  WHERE v.id = ANY($1::bigint[]) AND w.id IS DISTINCT FROM doer.person_id AND (place.screen OR place.mail OR place.digest)
    AND (v.kind <> 'task-rescheduled' OR doer.id IS NOT NULL)
  ORDER BY v.id, w.id, told.task_id, told.rank
  ON CONFLICT DO NOTHING RETURNING id, agency_id AS "agencyId", person_id AS "personId", kind, mail_due_at AS "mailDueAt"`;
