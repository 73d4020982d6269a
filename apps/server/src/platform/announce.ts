import { topicsText, type Topic } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { rowsOf } from './database.ts';
import { touchedByRequest, windowOfRequest } from './request-context.ts';
import { isTrial } from './try-out.ts';

/** The channel on which processes tell each other that something changed. */
export const CHANGES = 'crew_changes';

/** What changed: topics and ids only, so that nothing is told to somebody who may not read it. */
export interface Announcement {
  readonly agencyId: string;
  /** As `topicsText` writes them. */
  readonly topics: string;
  /** The window that made the change: it knows. */
  readonly window: string | null;
}

/** Tells every open screen once the transaction is through; a change that is taken back is never told. */
export async function announceChange(
  manager: EntityManager,
  { agencyId, topics }: { readonly agencyId: string; readonly topics: readonly Topic[] },
): Promise<void> {
  if (isTrial(manager) || topics.length === 0) return;
  touchedByRequest(topics);
  const announcement: Announcement = { agencyId, topics: topicsText(topics), window: windowOfRequest() };
  await rowsOf(manager, 'SELECT pg_notify($1, $2)', [CHANGES, JSON.stringify(announcement)]);
}

/** As SQL, for a statement that also writes the change: agency, topics (as `topicsText` writes them) and window are SQL too. */
export const announcementOf = (agencyId: string, topics: string, window: string): string =>
  `json_build_object('agencyId', ${agencyId}::text, 'topics', ${topics}::text, 'window', ${window}::text)::text`;

/** The topics and the window that such a statement is given; null when there is nobody to tell. */
export function announcedBy(topics: readonly Topic[]): { readonly topics: string; readonly window: string | null } | null {
  if (topics.length === 0) return null;
  touchedByRequest(topics);
  return { topics: topicsText(topics), window: windowOfRequest() };
}
