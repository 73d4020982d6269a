import { Injectable } from '@nestjs/common';
import type { TaskSheet } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record, type EventSaying } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { TaskRepository, type TaskToChange } from './task.repository.ts';

/**
 * Marks what nobody is changing at this moment and answers the rest: whoever opens their desk
 * has no lock of the plans it is made of, so must not wait for two of them at once.
 */
const MARK_FREE_SEEN = `
  WITH fresh AS MATERIALIZED (
    SELECT task_id FROM task_assignee WHERE person_id = $1 AND seen_at IS NULL AND ($3::uuid[] IS NULL OR task_id = ANY($3))),
  free AS MATERIALIZED (
    SELECT a.task_id FROM task_assignee a JOIN fresh USING (task_id) WHERE a.person_id = $1 FOR NO KEY UPDATE OF a SKIP LOCKED),
  marked AS (UPDATE task_assignee a SET seen_at = $2 FROM free WHERE a.person_id = $1 AND a.task_id = free.task_id RETURNING a.task_id)
  SELECT task_id AS "taskId" FROM fresh WHERE task_id NOT IN (SELECT task_id FROM marked)`;
const MARK_ONE_SEEN = 'UPDATE task_assignee SET seen_at = $2 WHERE person_id = $1 AND task_id = $3 AND seen_at IS NULL';

/** What belongs to a task: steps, and having been seen. */
@Injectable()
export class TaskParts {
  private readonly database: Database;
  private readonly tasks: TaskRepository;
  private readonly clock: Clock;
  constructor(database: Database, tasks: TaskRepository, clock: Clock) {
    this.database = database;
    this.tasks = tasks;
    this.clock = clock;
  }

  addStep(who: Who, taskId: string, title: string): Promise<TaskSheet> {
    return this.database.transaction(async (manager) => {
      const task = requireFound(await this.tasks.lock(manager, who, taskId), 'task');
      const step = (await firstRow<{ stepId: string; title: string }>(
        manager,
        `INSERT INTO step (task_id, position, title) SELECT $1, coalesce(max(position), -1) + 1, $2 FROM step WHERE task_id = $1
         RETURNING id AS "stepId", title`,
        [taskId, title.trim()],
      )) as { stepId: string; title: string };
      return this.finishStep(manager, who, { task, event: { kind: 'step-added', payload: step } });
    });
  }

  editStep(who: Who, stepId: string, isDone: boolean): Promise<TaskSheet> {
    return this.database.transaction(async (manager) => {
      const sql = 'SELECT task_id AS "taskId", title, is_done AS "isDone" FROM step WHERE id = $1';
      const find = async () =>
        requireFound(await firstRow<{ taskId: string; title: string; isDone: boolean }>(manager, sql, [stepId]), 'step');
      const task = requireFound(await this.tasks.lock(manager, who, (await find()).taskId), 'step');
      const step = await find();
      await rowsOf(manager, 'UPDATE step SET is_done = $2 WHERE id = $1', [stepId, isDone]);
      const changes = [{ field: 'isDone', from: step.isDone, to: isDone }];
      return this.finishStep(manager, who, { task, event: { kind: 'step-changed', payload: { stepId, title: step.title }, changes } });
    });
  }

  /** Marks what is new to somebody as seen. */
  async markSeen(who: Who, taskIds: readonly string[] | null): Promise<void> {
    const at = this.clock.now();
    const busy = await this.database.rows<{ taskId: string }>(MARK_FREE_SEEN, [who.personId, at, taskIds]);
    // One row at a time, each for itself: who holds nothing else can wait for anybody.
    for (const { taskId } of busy) await this.database.rows(MARK_ONE_SEEN, [who.personId, at, taskId]);
  }

  private async finishStep(
    manager: EntityManager,
    who: Who,
    { task, event }: { readonly task: TaskToChange; readonly event: StepEvent },
  ): Promise<TaskSheet> {
    const { id, engagementId } = task;
    await rowsOf(
      manager,
      `UPDATE task SET steps_all = s.total, steps_done = s.done
       FROM (SELECT count(*)::int AS total, (count(*) FILTER (WHERE is_done))::int AS done FROM step WHERE task_id = $1) s WHERE task.id = $1`,
      [id],
    );
    const by = { actor: who, at: this.clock.now() };
    await record(manager, by, [{ ...event, engagementId, subject: 'task', subjectId: id }]);
    await refreshEngagement(manager, engagementId, { today: this.clock.today(), by, changed: [] });
    return requireFound(await this.tasks.findSheet(manager, who, id), 'task');
  }
}

type StepEvent = EventSaying<'step-added' | 'step-changed'>;
