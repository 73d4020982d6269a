import type { Who } from './rights.ts';

/** A piece of SQL with the values of its placeholders. */
export interface Condition {
  readonly sql: string;
  readonly values: readonly unknown[];
}

/**
 * Which engagements somebody may see, as a condition on alias `e`; placeholders start at
 * `first`. Staff see the agency's, a freelancer those with a task of theirs, a client its own.
 */
export function engagementSeenBy(who: Who, first: number): Condition {
  if (who.access === 'client')
    return { sql: `(e.agency_id = $${first} AND e.client_id = $${first + 1})`, values: [who.agencyId, who.clientId] };
  if (who.access === 'freelancer') {
    const own = `EXISTS (SELECT 1 FROM task mine JOIN task_assignee a ON a.task_id = mine.id WHERE mine.engagement_id = e.id AND a.person_id = $${first + 1})`;
    return { sql: `(e.agency_id = $${first} AND ${own})`, values: [who.agencyId, who.personId] };
  }
  return { sql: `e.agency_id = $${first}`, values: [who.agencyId] };
}

/** Which tasks somebody may see, as a condition on alias `t`. A freelancer sees own tasks only; clients see tasks elsewhere. */
export function taskSeenBy(who: Who, first: number): Condition {
  if (who.access === 'client') return { sql: 'false', values: [] };
  if (who.access === 'freelancer') {
    const own = `EXISTS (SELECT 1 FROM task_assignee a WHERE a.task_id = t.id AND a.person_id = $${first + 1})`;
    return { sql: `(t.agency_id = $${first} AND ${own})`, values: [who.agencyId, who.personId] };
  }
  return { sql: `t.agency_id = $${first}`, values: [who.agencyId] };
}

/**
 * Which events somebody may see, as a condition on alias `v`: staff the agency's, a freelancer
 * those of own tasks, a client none.
 */
export function eventSeenBy(who: Who, first: number): Condition {
  if (who.access === 'client') return { sql: 'false', values: [] };
  if (who.access === 'freelancer') {
    const own = `EXISTS (SELECT 1 FROM task_assignee a WHERE a.task_id = v.subject_id AND a.person_id = $${first + 1})`;
    return { sql: `(v.agency_id = $${first} AND v.subject = 'task' AND ${own})`, values: [who.agencyId, who.personId] };
  }
  return { sql: `v.agency_id = $${first}`, values: [who.agencyId] };
}
