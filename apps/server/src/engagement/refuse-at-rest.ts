import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';

/** Refuses a change of the plan of an engagement that was closed without being finished, until it is reopened. */
export async function refuseAtRest(manager: EntityManager, engagementIds: readonly string[]): Promise<void> {
  const sql = `SELECT name FROM engagement WHERE id = ANY($1) AND state = 'dropped' ORDER BY name LIMIT 1`;
  const closed = await firstRow<{ name: string }>(manager, sql, [engagementIds]);
  if (closed !== null) throw atRest(closed.name);
}

/** Refuses what needs an engagement that runs, or may yet start: nothing new starts in a finished one. */
export async function refuseOver(manager: EntityManager, engagementId: string, field?: string): Promise<void> {
  const sql = `SELECT name FROM engagement WHERE id = $1 AND state NOT IN ('open', 'proposal')`;
  const over = await firstRow<{ name: string }>(manager, sql, [engagementId]);
  if (over !== null)
    throw new Refusal('wrong-moment', `“${over.name}” is over. Reopen it to continue.`, field === undefined ? {} : { field });
}

export const atRest = (name: string): Refusal =>
  new Refusal('wrong-moment', `“${name}” is closed. Reopen it to go on with its tasks and handoffs.`);
