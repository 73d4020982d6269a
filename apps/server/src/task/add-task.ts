import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { AddTask as Input, PlanChanged, PlanEffect, TaskEdited } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { ChangePlan } from '../plan-change/change-plan.ts';
import { tryOut } from '../plan-change/try-out.ts';
import { insertTasks } from './insert-tasks.ts';
import { TaskRepository } from './task.repository.ts';

/** A new task at the end of a phase or under another task, placed by the planner: a change of the plan like any other. */
@Injectable()
export class AddTask {
  private readonly database: Database;
  private readonly tasks: TaskRepository;
  private readonly plans: ChangePlan;
  private readonly clock: Clock;
  constructor(database: Database, tasks: TaskRepository, plans: ChangePlan, clock: Clock) {
    this.database = database;
    this.tasks = tasks;
    this.plans = plans;
    this.clock = clock;
  }

  run(who: Who, engagementId: string, input: Input): Promise<TaskEdited> {
    return this.database.transaction(async (manager) => {
      const { id, changed } = await this.apply(manager, who, { engagementId, input });
      return { ...changed, task: requireFound(await this.tasks.findSheet(manager, who, id), 'task') };
    });
  }

  /** What adding it would do; nothing stays. */
  async preview(who: Who, engagementId: string, input: Input): Promise<PlanEffect> {
    return (await tryOut(this.database, (manager) => this.apply(manager, who, { engagementId, input }))).changed.effect;
  }

  private async apply(
    manager: EntityManager,
    who: Who,
    { engagementId, input }: { readonly engagementId: string; readonly input: Input },
  ): Promise<{ readonly id: string; readonly changed: PlanChanged }> {
    const id = randomUUID();
    const changed = await this.plans.apply(manager, who, {
      engagementId,
      tasks: [],
      prepare: async () => {
        await requirePhase(manager, engagementId, input.phaseId);
        const parent = input.parentId === undefined ? null : await requireParent(manager, engagementId, input.parentId);
        await insertTasks(
          manager,
          { actor: who, at: this.clock.now() },
          {
            engagementId,
            tasks: [
              {
                id,
                values: {
                  ...{ title: input.title.trim(), phaseId: parent?.phaseId ?? input.phaseId, parentId: input.parentId ?? null },
                  ...{ days: input.days ?? 1, estimateMinutes: input.estimateMinutes ?? null },
                },
              },
            ],
          },
        );
        return [];
      },
      alsoMoved: () => [id],
    });
    return { id, changed };
  }
}

async function requirePhase(manager: EntityManager, engagementId: string, phaseId: string): Promise<void> {
  const phase = await firstRow(manager, 'SELECT 1 FROM phase WHERE id = $1 AND engagement_id = $2', [phaseId, engagementId]);
  if (phase === null)
    throw new Refusal('unknown-id', 'This phase belongs to another engagement. Choose one of this one.', { field: 'phaseId' });
}

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
