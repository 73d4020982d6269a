import { Injectable } from '@nestjs/common';
import { can, type EventKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { EventToUndo, UndoesOwn, WentBack } from '../activity/undoable.ts';
import { rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { KeepLabels, lockPlans, type LabelsWritten } from './keep-labels.ts';

export const LABEL_EVENTS: readonly EventKind[] = ['label-changed'];

/** Undoes a change of a label on the tasks it was made on, where they still carry what it gave them. */
@Injectable()
export class UndoLabels implements UndoesOwn {
  private readonly labels: KeepLabels;
  constructor(labels: KeepLabels) {
    this.labels = labels;
  }

  async run(manager: EntityManager, who: Who, events: readonly EventToUndo[]): Promise<WentBack> {
    if (!can(who, 'label.edit')) throw new Refusal('not-allowed', 'Only a lead can undo this. Ask one of them.');
    const kept: WentBack['kept'][number][] = [];
    let isAny = false;
    for (const { subjectId, changes, payload } of events) {
      const { from, to } = changes[0] as { readonly from: string | null; readonly to: string | null };
      const { taskIds, merged } = payload as unknown as LabelsWritten;
      const tasks = await rowsOf<{ id: string; engagementId: string }>(
        manager,
        'SELECT id, engagement_id AS "engagementId" FROM task WHERE id = ANY($1::uuid[]) AND agency_id = $2',
        [taskIds, who.agencyId],
      );
      await lockPlans(manager, tasks);
      const both = new Set(merged);
      const alone = taskIds.filter((id) => !both.has(id));
      const renamed = await this.labels.write(manager, { from: to, to: from, taskIds: alone });
      // Those that carried both keep the one, and get the other back.
      const added = await this.labels.write(manager, { from: null, to: from, taskIds: merged });
      const written = { taskIds: [...renamed.taskIds, ...added.taskIds], merged: [] };
      if (written.taskIds.length < tasks.length) kept.push({ subjectId, title: from ?? to ?? '', field: 'label' });
      if (written.taskIds.length === 0) continue;
      await this.labels.record(manager, who, { from: to, to: from, written });
      isAny = true;
    }
    return { isAny, kept };
  }
}
