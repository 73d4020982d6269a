import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';

/** Time somebody worked on a task, as it is kept. */
export interface WorkedTime {
  readonly personId: string;
  readonly task: { readonly id: string; readonly engagementId: string; readonly isChargeable: boolean };
  readonly day: string;
  readonly minutes: number;
  readonly note: string;
}

/** Keeps an entry and adds it to its task; whoever calls has the task locked and refreshes the plan afterwards. */
export async function writeTime(manager: EntityManager, { personId, task, day, minutes, note }: WorkedTime): Promise<void> {
  await rowsOf(
    manager,
    `INSERT INTO time_entry (person_id, engagement_id, task_id, day, minutes, note, is_chargeable) VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [personId, task.engagementId, task.id, day, minutes, note, task.isChargeable],
  );
  await rowsOf(manager, 'UPDATE task SET logged_minutes = logged_minutes + $2 WHERE id = $1', [task.id, minutes]);
}
