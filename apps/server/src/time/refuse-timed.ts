import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';

/** Refuses to take out tasks somebody's timer is on: what it counted would be lost. */
export async function refuseTimed(manager: EntityManager, taskIds: readonly string[]): Promise<void> {
  if (taskIds.length === 0) return;
  const found = await firstRow<{ name: string; title: string }>(
    manager,
    'SELECT p.name, t.title FROM timer m JOIN person p ON p.id = m.person_id JOIN task t ON t.id = m.task_id WHERE m.task_id = ANY($1) LIMIT 1',
    [taskIds],
  );
  if (found !== null)
    throw new Refusal(
      'still-used',
      `The timer of ${found.name} is on “${found.title}”; taking it out would lose it. Stop the timer first.`,
      {
        field: 'isDeleted',
      },
    );
}
