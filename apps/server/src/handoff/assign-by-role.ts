import { holdsRole, isOpen } from '../platform/sql-words.ts';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { isJob, type By } from '../platform/actor.ts';
import { rowsOf } from '../platform/database.ts';

/**
 * Assigns the phase's tasks that nobody has to the engagement's person for their role, else to the
 * receiver; either only if they hold the role. Client tasks stay the client's.
 */
export async function assignByRole(
  manager: EntityManager,
  by: By,
  { engagementId, phaseId, receiverId }: { readonly engagementId: string; readonly phaseId: string; readonly receiverId: string | null },
): Promise<void> {
  const assigned = await rowsOf<{ taskId: string; personId: string; name: string }>(
    manager,
    `WITH assigned AS (
       INSERT INTO task_assignee (task_id, person_id, position, assigned_at, assigned_by_id, seen_at)
       SELECT t.id, coalesce(er.person_id, $2::uuid), 0, $4, $3, NULL
       FROM task t
       JOIN phase p ON p.id = t.phase_id
       LEFT JOIN engagement_role er ON er.engagement_id = t.engagement_id AND er.role_id = t.role_id AND ${holdsRole('er.person_id', 'er.role_id')}
       WHERE t.phase_id = $1 AND NOT t.is_group AND ${isOpen('t')} AND t.role_id IS NOT NULL
         AND NOT EXISTS (SELECT 1 FROM task_assignee a WHERE a.task_id = t.id)
         AND (er.person_id IS NOT NULL OR ${holdsRole('$2::uuid', 't.role_id')})
       RETURNING task_id, person_id)
     SELECT a.task_id AS "taskId", a.person_id AS "personId", w.name FROM assigned a JOIN person w ON w.id = a.person_id JOIN task t ON t.id = a.task_id
     ORDER BY t.number`,
    [phaseId, receiverId, isJob(by.actor) ? null : by.actor.personId, by.at],
  );
  await record(
    manager,
    by,
    assigned.map(({ taskId, personId, name }) => ({
      ...{ kind: 'task-assigned', engagementId, subject: 'task', subjectId: taskId, names: { [personId]: name } },
      changes: [{ field: 'assignees', from: [], to: [{ personId, share: 1 }] }],
    })),
  );
}
