import { Injectable } from '@nestjs/common';
import type { ChangeFollowed, FieldChange } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { Database } from '../platform/database.ts';
import { requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { eventSeenBy } from '../platform/visible.ts';

/** A change of somebody's, and whether the plan behind it has been computed. */
const CHANGE = (seen: string): string => `
  SELECT NOT EXISTS (SELECT 1 FROM event w JOIN engagement_summary s ON s.engagement_id = w.engagement_id
    WHERE w.batch_id = $1 AND w.subject_id = ANY(s.pending_task_ids)) AS "isPlanned"
  FROM event v WHERE v.batch_id = $1 AND ${seen} LIMIT 1`;

const MOVES = (seen: string): string => `
  SELECT v.subject_id AS id, t.title, v.changes FROM event v JOIN task t ON t.id = v.subject_id
  WHERE v.cause_id IN (SELECT c.id FROM event c WHERE c.batch_id = $1) AND v.kind = 'task-rescheduled' AND v.subject_id NOT IN (
    SELECT o.subject_id FROM event o WHERE o.batch_id = $1) AND ${seen} ORDER BY t.due_day, t.number`;

/** What a status moved: the plan behind it follows a moment later, and somebody who changed it is told then. */
@Injectable()
export class ReadFollowed {
  private readonly database: Database;
  constructor(database: Database) {
    this.database = database;
  }

  async run(who: Who, changeId: string): Promise<ChangeFollowed> {
    const seen = eventSeenBy(who, 2);
    const values = [changeId, ...seen.values];
    const change = await this.database.row<{ isPlanned: boolean }>(CHANGE(seen.sql), values);
    const { isPlanned } = requireFound(change, 'change');
    type Row = { id: string; title: string; changes: readonly FieldChange[] };
    const rows = isPlanned ? await this.database.rows<Row>(MOVES(seen.sql), values) : [];
    return { isPlanned, moves: rows.map(({ id, title, changes }) => ({ id, title, due: dueIn(changes) })) };
  }
}

/** The day it is due from now on; null where only its first day moved. */
const dueIn = (changes: readonly FieldChange[]): IsoDay | null =>
  (changes.find(({ field }) => field === 'dueDay')?.to as IsoDay | undefined) ?? null;
