import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { AddTask, TaskSheet } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record, type EventSaying } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { lockEngagement } from '../replan/change-plan.ts';
import { markGroups } from '../replan/write-changes.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { TaskRepository, type TaskToChange } from './task.repository.ts';

/** The task a new one becomes a part of; refuses one of another engagement, and one that is over. */
async function requireParent(manager: EntityManager, engagementId: string, parentId: string): Promise<{ readonly phaseId: string }> {
  const sql = `SELECT phase_id AS "phaseId", status, title FROM task WHERE id = $1 AND engagement_id = $2`;
  const parent = await firstRow<{ phaseId: string; status: string; title: string }>(manager, sql, [parentId, engagementId]);
  if (parent === null)
    throw new Refusal('unknown-id', 'The task to put it under is not in this engagement. Choose one of this plan.', { field: 'parentId' });
  if (parent.status === 'done' || parent.status === 'dropped')
    throw new Refusal('wrong-moment', `“${parent.title}” is over. Take it up again before it gets subtasks.`, { field: 'parentId' });
  return parent;
}

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

/** Adding tasks, and what belongs to one: steps, time, having been seen. */
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

  /** A new task at the end of a phase, placed by the planner. */
  addTask(who: Who, engagementId: string, input: AddTask): Promise<TaskSheet> {
    return this.database.transaction(async (manager) => {
      await lockEngagement(manager, who, engagementId);
      const sql = 'SELECT start_day AS "startDay" FROM engagement WHERE id = $1';
      const engagement = (await firstRow<{ startDay: string }>(manager, sql, [engagementId])) as { startDay: string };
      const phase = await firstRow(manager, 'SELECT 1 FROM phase WHERE id = $1 AND engagement_id = $2', [input.phaseId, engagementId]);
      if (phase === null)
        throw new Refusal('unknown-id', 'This phase belongs to another engagement. Choose one of this one.', { field: 'phaseId' });
      const parent = input.parentId === undefined ? null : await requireParent(manager, engagementId, input.parentId);
      const id = randomUUID();
      await rowsOf(
        manager,
        `WITH numbered AS (UPDATE engagement SET last_number = last_number + 1 WHERE id = $2 RETURNING last_number, agency_id)
         INSERT INTO task (id, agency_id, engagement_id, phase_id, number, position, title, days, estimate_minutes, start_day, due_day, expected_day, parent_id)
         SELECT $1, agency_id, $2, $3, last_number, 1000 + last_number, $4, $5, $6, $7, $7, $7, $8 FROM numbered`,
        [
          ...[id, engagementId, parent?.phaseId ?? input.phaseId, input.title.trim(), input.days ?? 1],
          ...[input.estimateMinutes ?? null, engagement.startDay, input.parentId ?? null],
        ],
      );
      if (parent !== null) await markGroups(manager, engagementId);
      await this.settle(manager, who, {
        ...{ id, engagementId, changed: [id], made: [id] },
        event: { kind: 'task-added', payload: { seriesId: null } },
      });
      return requireFound(await this.tasks.findSheet(manager, who, id), 'task');
    });
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
    { task, event }: { readonly task: TaskToChange; readonly event: TaskEvent },
  ): Promise<TaskSheet> {
    const { id, engagementId } = task;
    await rowsOf(
      manager,
      `UPDATE task SET steps_all = s.total, steps_done = s.done
       FROM (SELECT count(*)::int AS total, (count(*) FILTER (WHERE is_done))::int AS done FROM step WHERE task_id = $1) s WHERE task.id = $1`,
      [id],
    );
    await this.settle(manager, who, { id, engagementId, event, changed: [] });
    return requireFound(await this.tasks.findSheet(manager, who, id), 'task');
  }

  private async settle(
    manager: EntityManager,
    who: Who,
    what: {
      readonly id: string;
      readonly engagementId: string;
      readonly event: TaskEvent;
      readonly changed: readonly string[];
      readonly made?: readonly string[];
    },
  ): Promise<void> {
    const { id, engagementId, event, changed, made = [] } = what;
    const by = { actor: who, at: this.clock.now() };
    await record(manager, by, [{ ...event, engagementId, subject: 'task', subjectId: id }]);
    await refreshEngagement(manager, engagementId, { today: this.clock.today(), by, changed, made });
  }
}

type TaskEvent = EventSaying<'task-added' | 'step-added' | 'step-changed'>;
