import { isDeepStrictEqual } from 'node:util';
import type { EventKind, FieldChange, FieldKept } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import { mergeChanges } from './fields-to-undo.ts';
import type { BatchEvent } from './undo-change.ts';

/** The fields of an engagement that an edit changes, by column. */
const COLUMNS: Readonly<Record<string, string>> = {
  ...{ name: 'name', promise: 'promised_day', leadId: 'lead_id', contactId: 'contact_id', likelihood: 'likelihood', state: 'state' },
  closedOn: 'closed_on',
};

const EDITING = new Set<EventKind>(['engagement-changed', 'engagement-accepted', 'engagement-completed']);

/** What went back of an engagement itself. */
export interface EngagementUndone {
  readonly changes: readonly FieldChange[];
  /** Tasks anchored to a promise that went back. */
  readonly moved: readonly string[];
  readonly kept: readonly Omit<FieldKept, 'by'>[];
}

/** Puts fields of an engagement back where they have the value the change gave them. */
export async function undoEngagement(
  manager: EntityManager,
  engagementId: string,
  events: readonly BatchEvent[],
): Promise<EngagementUndone> {
  const edited = events.filter(({ kind }) => EDITING.has(kind));
  if (edited.length === 0) return { changes: [], moved: [], kept: [] };
  const changes = mergeChanges(edited.flatMap((event) => event.changes)).filter(({ field }) => field in COLUMNS);
  const sql = `SELECT name, promised_day AS promise, lead_id AS "leadId", contact_id AS "contactId", likelihood, state, closed_on AS "closedOn" FROM engagement WHERE id = $1`;
  const now = (await firstRow<Record<string, unknown>>(manager, sql, [engagementId])) as Record<string, unknown>;
  const back = changes.filter(({ field, to }) => isDeepStrictEqual(now[field], to));
  const kept = changes.filter(({ field, from, to }) => !isDeepStrictEqual(now[field], to) && !isDeepStrictEqual(now[field], from));
  // All at once: its state and the day it was closed on go together.
  if (back.length > 0)
    await rowsOf(
      manager,
      `UPDATE engagement SET ${back.map(({ field }, index) => `${COLUMNS[field]} = $${index + 2}`).join(', ')}, version = version + 1 WHERE id = $1`,
      [engagementId, ...back.map(({ from }) => from)],
    );
  const anchored = back.some(({ field }) => field === 'promise')
    ? await rowsOf<{ id: string }>(manager, `SELECT id FROM task WHERE engagement_id = $1 AND anchor_at = 'before-promise'`, [engagementId])
    : [];
  return {
    changes: back.map(({ field, from, to }) => ({ field, from: to, to: from })),
    moved: anchored.map(({ id }) => id),
    kept: kept.map(({ field }) => ({ subjectId: engagementId, title: String(now['name']), field })),
  };
}
