import type { EntityManager } from 'typeorm';
import type { Who } from '../platform/rights.ts';
import { announceChange } from '../platform/announce.ts';
import { rowsOf } from '../platform/database.ts';

/** One field that changed. */
export interface Change {
  readonly field: string;
  readonly from: unknown;
  readonly to: unknown;
}

/** Something that happened, to be kept with its cause. */
export interface Happening {
  readonly engagementId: string | null;
  readonly subject: 'agency' | 'engagement' | 'phase' | 'task' | 'handoff' | 'template' | 'own-field' | 'time' | 'series';
  readonly subjectId: string;
  readonly kind: string;
  readonly changes?: readonly Change[];
}

/** Keeps who did what; part of the transaction that did it, so neither can be without the other. */
export async function recordEvent(
  manager: EntityManager,
  by: { readonly who: Who; readonly at: Date },
  happening: Happening,
): Promise<void> {
  await rowsOf(
    manager,
    `INSERT INTO event (agency_id, engagement_id, account_id, subject, subject_id, kind, changes, at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [
      by.who.agencyId,
      happening.engagementId,
      by.who.accountId,
      happening.subject,
      happening.subjectId,
      happening.kind,
      JSON.stringify(happening.changes ?? []),
      by.at,
    ],
  );
  await announceChange(manager, { agencyId: by.who.agencyId, engagementId: happening.engagementId });
}
