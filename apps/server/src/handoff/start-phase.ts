import type { IsoDay } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import type { By } from '../platform/actor.ts';
import { rowsOf } from '../platform/database.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { assignByRole } from './assign-by-role.ts';

/**
 * Starts a phase today, unless it has started: its tasks that nobody has get their people, and all of them
 * their days from today. The engagement is locked. Answers whether it started now.
 */
export async function startPhase(
  manager: EntityManager,
  by: By,
  phase: { readonly engagementId: string; readonly phaseId: string; readonly receiverId: string | null; readonly today: IsoDay },
): Promise<boolean> {
  const { engagementId, phaseId, receiverId, today } = phase;
  const begin = `UPDATE phase SET state = 'running', started_on = $2, finished_on = NULL WHERE id = $1 AND state = 'ahead' RETURNING id`;
  const begun = await rowsOf<{ id: string }>(manager, begin, [phaseId, today]);
  await record(
    manager,
    by,
    begun.map(({ id }) => ({
      ...{ kind: 'phase-started', engagementId, subject: 'phase', subjectId: id },
      changes: [{ field: 'startedOn', from: null, to: today }],
    })),
  );
  await assignByRole(manager, by, { engagementId, phaseId, receiverId });
  const tasks = await rowsOf<{ id: string }>(manager, 'SELECT id FROM task WHERE phase_id = $1', [phaseId]);
  await refreshEngagement(manager, engagementId, { today, by, changed: tasks.map((task) => task.id) });
  return begun.length > 0;
}
