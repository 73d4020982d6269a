import type { EntityManager } from 'typeorm';
import { rowsOf } from './database.ts';
import { isTrial } from './try-out.ts';

/** The channel on which processes tell each other that something changed. */
export const CHANGES = 'crew_changes';

/** What changed: ids only, so that nothing is told to somebody who may not read it. */
export interface Announcement {
  readonly agencyId: string;
  readonly engagementId: string | null;
}

/** Tells every open screen once the transaction is through; a change that is taken back is never told. */
export async function announceChange(manager: EntityManager, what: Announcement): Promise<void> {
  if (isTrial(manager)) return;
  await rowsOf(manager, 'SELECT pg_notify($1, $2)', [CHANGES, JSON.stringify(what)]);
}

/** The same as SQL, for a change that is written in one statement. */
export const announcementOf = (agencyId: string, engagementId: string): string =>
  `json_build_object('agencyId', ${agencyId}::text, 'engagementId', ${engagementId}::text)::text`;
