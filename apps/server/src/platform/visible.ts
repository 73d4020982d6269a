import { can } from '@crew/contract';
import { reachOf, type Action, type Reach } from '@crew/contract';
import type { Who } from './rights.ts';

/** A piece of SQL with the values of its placeholders. */
export interface Condition {
  readonly sql: string;
  readonly values: readonly unknown[];
}

/** The condition for how far somebody's right to read reaches: everything of the agency, what is their own, or nothing. */
function seenWith(who: Who, action: Action, conditions: Readonly<Record<Exclude<Reach, 'none'>, Condition>>): Condition {
  const reach = reachOf(who, action);
  return reach === 'none' ? { sql: 'false', values: [] } : conditions[reach];
}

/**
 * Which engagements somebody may see, as a condition on alias `e`; placeholders start at
 * `first`. Staff see the agency's, a freelancer those with a task of theirs, a client its own.
 */
export function engagementSeenBy(who: Who, first: number): Condition {
  const agency = `e.agency_id = $${first}`;
  const tasks = `EXISTS (SELECT 1 FROM task mine JOIN task_assignee a ON a.task_id = mine.id WHERE mine.engagement_id = e.id AND a.person_id = $${first + 1})`;
  const own = who.clientId === null ? tasks : `e.client_id = ANY($${first + 1}::uuid[])`;
  return seenWith(who, 'engagement.read', {
    all: { sql: agency, values: [who.agencyId] },
    own: { sql: `(${agency} AND ${own})`, values: [who.agencyId, who.clientId === null ? who.personId : who.clientIds] },
  });
}

/** Which tasks somebody may see, as a condition on alias `t`. A freelancer sees own tasks only; clients see tasks elsewhere. */
export function taskSeenBy(who: Who, first: number): Condition {
  const own = `EXISTS (SELECT 1 FROM task_assignee a WHERE a.task_id = t.id AND a.person_id = $${first + 1})`;
  return seenWith(who, 'task.read', {
    all: { sql: `t.agency_id = $${first}`, values: [who.agencyId] },
    own: { sql: `(t.agency_id = $${first} AND ${own})`, values: [who.agencyId, who.personId] },
  });
}

/**
 * Which handoffs somebody may see, as a condition on aliases `e` (engagement), `h` (handoff), `g`, `o`, `l`
 * (who gives it: named, of the phase's role, the lead), `v` and `d` (who receives it). Staff see the
 * agency's, a freelancer those they give or receive, or once had and gave on.
 */
export function handoffSeenBy(who: Who, first: number): Condition {
  const own = `($${first + 1} IN (coalesce(g.id, o.id, l.id), coalesce(v.id, d.id)) OR EXISTS (
    SELECT 1 FROM event turn WHERE turn.subject_id = h.id AND turn.subject = 'handoff' AND turn.account_id = $${first + 2}))`;
  return seenWith(who, 'handoff.read', {
    all: { sql: `e.agency_id = $${first}`, values: [who.agencyId] },
    own: { sql: `(e.agency_id = $${first} AND ${own})`, values: [who.agencyId, who.personId, who.accountId] },
  });
}

/** Which files somebody may see, as a condition on alias `f`: a freelancer those of own tasks, those just sent, and what went along with a handoff to them. */
export function fileSeenBy(who: Who, first: number): Condition {
  const own = `(f.added_by_id = $${first + 1} OR EXISTS (
    SELECT 1 FROM task_file x JOIN task_assignee a ON a.task_id = x.task_id WHERE x.file_id = f.id AND a.person_id = $${first + 1})
    OR EXISTS (SELECT 1 FROM handoff h WHERE h.receiver_id = $${first + 1} AND h.packet->'files' @> jsonb_build_array(jsonb_build_object('id', f.id))))`;
  return seenWith(who, 'file.read', {
    all: { sql: `f.agency_id = $${first}`, values: [who.agencyId] },
    own: { sql: `(f.agency_id = $${first} AND ${own})`, values: [who.agencyId, who.personId] },
  });
}

/**
 * Which events somebody may see, as a condition on alias `v`: staff the agency's, a freelancer
 * those of own tasks. What others logged is seen by those who read their time, what became of
 * webhooks by those who edit them: an address may hold a key.
 */
export function eventSeenBy(who: Who, first: number): Condition {
  const agency = `v.agency_id = $${first}${can(who, 'webhook.edit') ? '' : ` AND v.subject <> 'webhook'`}`;
  const ownTask = `v.subject = 'task' AND EXISTS (SELECT 1 FROM task_assignee a WHERE a.task_id = v.subject_id AND a.person_id = $${first + 1})`;
  const ownTime = `(v.kind NOT IN ('time-logged', 'time-corrected', 'time-removed') OR v.payload->>'personId' = $${first + 1}::uuid::text)`;
  const isTimeRead = reachOf(who, 'time.read') === 'all';
  return seenWith(who, 'history.read', {
    all: isTimeRead ? { sql: agency, values: [who.agencyId] } : { sql: `(${agency} AND ${ownTime})`, values: [who.agencyId, who.personId] },
    own: { sql: `(${agency} AND ${ownTask} AND ${ownTime})`, values: [who.agencyId, who.personId] },
  });
}
