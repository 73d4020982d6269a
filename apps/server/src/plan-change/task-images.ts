import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import type { TaskRow } from '../task/task-fields.ts';

/** A task as it stands in the tables, with what hangs on it: enough to tell what a change did, and to bring it back. */
export interface TaskImage {
  readonly id: string;
  readonly row: TaskRow & { readonly version: number; readonly title: string; readonly is_group: boolean };
  /** In their order. */
  readonly assignees: readonly { readonly personId: string; readonly share: number }[];
  /** What it waits for, by id. */
  readonly after: readonly { readonly taskId: string; readonly type: string; readonly lag: number }[];
  /** Ids, in their order. */
  readonly files: readonly string[];
  readonly steps: readonly { readonly id: string; readonly title: string; readonly isDone: boolean }[];
}

const IMAGE = `
  SELECT t.id, to_jsonb(t) AS row,
    coalesce((SELECT jsonb_agg(jsonb_build_object('personId', a.person_id, 'share', a.share) ORDER BY a.position, a.person_id)
      FROM task_assignee a WHERE a.task_id = t.id), '[]') AS assignees,
    coalesce((SELECT jsonb_agg(jsonb_build_object('taskId', l.predecessor_id, 'type', l.type, 'lag', l.lag) ORDER BY l.predecessor_id)
      FROM task_link l WHERE l.successor_id = t.id), '[]') AS after,
    coalesce((SELECT jsonb_agg(x.file_id ORDER BY x.position) FROM task_file x WHERE x.task_id = t.id), '[]') AS files,
    coalesce((SELECT jsonb_agg(jsonb_build_object('id', s.id, 'title', s.title, 'isDone', s.is_done) ORDER BY s.position)
      FROM step s WHERE s.task_id = t.id), '[]') AS steps
  FROM task t`;

/** Every task of an engagement as it stands now. */
export const readTaskImages = (manager: EntityManager, engagementId: string): Promise<TaskImage[]> =>
  rowsOf<TaskImage>(manager, `${IMAGE} WHERE t.engagement_id = $1 ORDER BY t.number`, [engagementId]);

/** One task as it stands now, or null when it is gone. */
export const readTaskImage = (manager: EntityManager, taskId: string): Promise<TaskImage | null> =>
  firstRow<TaskImage>(manager, `${IMAGE} WHERE t.id = $1`, [taskId]);
