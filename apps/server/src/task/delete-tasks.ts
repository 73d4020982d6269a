import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';
import { lockEngagements, lockPeople, lockTasks } from '../platform/locks.ts';

/** People who put these tasks into their week, or have a timer on them: their rows go along. */
const PEOPLE = `
  SELECT person_id AS id FROM desk_place WHERE task_id = ANY($1) UNION SELECT person_id FROM timer WHERE task_id = ANY($1)`;

/** Removes tasks of engagements that are locked, with all that hangs on them. */
export async function deleteTasks(manager: EntityManager, taskIds: readonly string[]): Promise<void> {
  if (taskIds.length === 0) return;
  await lockTasks(manager, taskIds, 'remove');
  await lockThoseOf(manager, taskIds);
  await rowsOf(manager, 'DELETE FROM task WHERE id = ANY($1)', [taskIds]);
}

/** Removes whole engagements that nobody has worked on. */
export async function deleteEngagements(manager: EntityManager, engagementIds: readonly string[]): Promise<void> {
  if (engagementIds.length === 0) return;
  await lockEngagements(manager, engagementIds, 'remove');
  const tasks = await rowsOf<{ id: string }>(manager, 'SELECT id FROM task WHERE engagement_id = ANY($1)', [engagementIds]);
  const taskIds = tasks.map(({ id }) => id);
  await lockTasks(manager, taskIds, 'remove');
  await lockThoseOf(manager, taskIds);
  await rowsOf(manager, 'DELETE FROM engagement WHERE id = ANY($1)', [engagementIds]);
}

async function lockThoseOf(manager: EntityManager, taskIds: readonly string[]): Promise<void> {
  const people = await rowsOf<{ id: string }>(manager, PEOPLE, [taskIds]);
  await lockPeople(
    manager,
    people.map(({ id }) => id),
  );
}
