import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';

/** A task as it stands in the tables, with what hangs on it: enough to put it back. */
export interface TaskImage {
  readonly id: string;
  readonly row: Readonly<Record<string, unknown>> & { readonly version: number; readonly title: string };
  readonly assignees: readonly object[];
  readonly links: readonly object[];
  readonly steps: readonly object[];
  /** Left out of what was kept before tasks had files. */
  readonly files?: readonly object[];
}

const IMAGES = `
  SELECT t.id, to_jsonb(t) AS row,
    coalesce((SELECT jsonb_agg(to_jsonb(a) - 'is_open' - 'seen_at' ORDER BY a.position) FROM task_assignee a WHERE a.task_id = t.id), '[]') AS assignees,
    coalesce((SELECT jsonb_agg(to_jsonb(l) ORDER BY l.predecessor_id) FROM task_link l WHERE l.successor_id = t.id), '[]') AS links,
    coalesce((SELECT jsonb_agg(to_jsonb(s) ORDER BY s.position) FROM step s WHERE s.task_id = t.id), '[]') AS steps,
    coalesce((SELECT jsonb_agg(to_jsonb(x) ORDER BY x.position) FROM task_file x WHERE x.task_id = t.id), '[]') AS files
  FROM task t WHERE t.engagement_id = $1 ORDER BY t.id`;

/** Every task of an engagement as it stands now. */
export const readTaskImages = (manager: EntityManager, engagementId: string): Promise<TaskImage[]> =>
  rowsOf<TaskImage>(manager, IMAGES, [engagementId]);

/** The images that differ, as they were and as they are; what came or went stands on one side only. */
export function differingImages(
  before: readonly TaskImage[],
  after: readonly TaskImage[],
): { readonly before: TaskImage[]; readonly after: TaskImage[] } {
  const textOf = (images: readonly TaskImage[]): Map<string, string> => new Map(images.map((image) => [image.id, JSON.stringify(image)]));
  const [then, now] = [textOf(before), textOf(after)];
  const differs = (image: TaskImage): boolean => then.get(image.id) !== now.get(image.id);
  return { before: before.filter(differs), after: after.filter(differs) };
}
