import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';

/** Who has worked on which engagement: logged time on it, or was given work of it that began. */
const WORKED = `
  (SELECT person_id, engagement_id FROM time_entry
   UNION SELECT a.person_id, t.engagement_id FROM task_assignee a JOIN task t ON t.id = a.task_id WHERE t.real_start IS NOT NULL)`;

const KNOWN = `
  SELECT x.person_id AS "personId", array_agg(DISTINCT e.id) || array_agg(DISTINCT e.client_id) AS known
  FROM ${WORKED} x JOIN engagement e ON e.id = x.engagement_id WHERE e.agency_id = $1 GROUP BY x.person_id`;

/** The engagements and clients each of the crew has worked for, by their ids. */
export async function readKnown(manager: EntityManager, agencyId: string): Promise<ReadonlyMap<string, readonly string[]>> {
  const rows = await rowsOf<{ personId: string; known: readonly string[] }>(manager, KNOWN, [agencyId]);
  return new Map(rows.map((row) => [row.personId, row.known]));
}

const PAST = `
  SELECT x.person_id AS "personId", count(DISTINCT e.id)::int AS engagements
  FROM ${WORKED} x JOIN engagement e ON e.id = x.engagement_id WHERE e.client_id = $1 GROUP BY x.person_id`;

/** How many engagements of a client each person has worked on; of no client nobody has. */
export async function readPastEngagements(manager: EntityManager, clientId: string | null): Promise<ReadonlyMap<string, number>> {
  if (clientId === null) return new Map();
  const rows = await rowsOf<{ personId: string; engagements: number }>(manager, PAST, [clientId]);
  return new Map(rows.map((row) => [row.personId, row.engagements]));
}
