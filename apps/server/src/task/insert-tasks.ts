import type { EntityManager } from 'typeorm';
import type { By } from '../platform/actor.ts';
import { firstRow, rowsOf } from '../platform/database.ts';
import { newImages, type NewTask, type TaskImage, type TaskPlace } from './task-images.ts';
import { insertTaskImages } from './write-task-images.ts';

/** Tasks that are made together in one engagement. */
export interface NewTasks {
  readonly engagementId: string;
  readonly tasks: readonly NewTask[];
  /** Whether their first days are those of the plan as promised. */
  readonly isBaseline?: boolean;
  /** Whether they were to be expected: then they are new to nobody. */
  readonly isExpected?: boolean;
  /** Hears after how many of them it goes on with the rest. */
  readonly tell?: (done: number) => void;
}

/**
 * Makes tasks of a plan that is new or that repeats; a change of a plan makes its own
 * (`plan-change/`), of the same `NewTask` and through the same statements. Who left the crew gets
 * nothing. The engagement must be locked; whoever calls records the events and refreshes the plan.
 */
export async function insertTasks(manager: EntityManager, by: By, { engagementId, tasks, isBaseline, ...more }: NewTasks): Promise<void> {
  if (tasks.length === 0) return;
  const place = await takeNumbers(manager, engagementId, tasks.length);
  const images = await withoutLeavers(manager, newImages(tasks, { ...place, isBaseline: isBaseline === true }));
  const { isExpected = false, tell } = more;
  await insertTaskImages(manager, by, { images, isExpected, ...(tell === undefined ? {} : { tell }) });
}

async function takeNumbers(manager: EntityManager, engagementId: string, count: number): Promise<TaskPlace> {
  const row = await firstRow<TaskPlace>(
    manager,
    `UPDATE engagement SET last_number = last_number + $2 WHERE id = $1
     RETURNING id AS "engagementId", agency_id AS "agencyId", start_day AS "startDay", last_number - $2 + 1 AS "firstNumber"`,
    [engagementId, count],
  );
  return row as TaskPlace;
}

async function withoutLeavers(manager: EntityManager, images: readonly TaskImage[]): Promise<TaskImage[]> {
  const named = [...new Set(images.flatMap(({ assignees }) => assignees.map(({ personId }) => personId)))];
  const rows = await rowsOf<{ id: string }>(manager, 'SELECT id FROM person WHERE is_active AND id = ANY($1)', [named]);
  const active = new Set(rows.map(({ id }) => id));
  return images.map((image) => ({ ...image, assignees: image.assignees.filter(({ personId }) => active.has(personId)) }));
}
