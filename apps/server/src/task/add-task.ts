import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { AddTask as Input, PlanChanged, PlanEffect, TaskEdited } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Database } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { ChangePlan, type OpenPlan } from '../plan-change/change-plan.ts';
import type { PlanOperation } from '../plan-change/plan-edit.ts';
import type { PlanImage } from '../plan-change/plan-image.ts';
import { tryOut } from '../platform/try-out.ts';
import { isOpen } from '../schedule/summarise.ts';
import { valuesOf } from './task-fields.ts';
import type { TaskImage } from './task-images.ts';
import { TaskRepository } from './task.repository.ts';

/** A new task at the end of a phase or under another task, placed by the planner: a change of the plan like any other. */
@Injectable()
export class AddTask {
  private readonly database: Database;
  private readonly tasks: TaskRepository;
  private readonly plans: ChangePlan;
  constructor(database: Database, tasks: TaskRepository, plans: ChangePlan) {
    this.database = database;
    this.tasks = tasks;
    this.plans = plans;
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
    const open = await this.plans.open(manager, who, engagementId);
    const changed = await this.plans.apply(manager, who, { open, edit: { operations: [additionOf(input, { id, ...open })] } });
    return { id, changed };
  }
}

function additionOf(input: Input, { id, plan }: Pick<OpenPlan, 'plan'> & { readonly id: string }): PlanOperation {
  const { title, days = 1, estimateMinutes = null, parentId = null } = input;
  if (!plan.phases.some((phase) => phase.id === input.phaseId))
    throw new Refusal('unknown-id', 'This phase belongs to another engagement. Choose one of this one.', { field: 'phaseId' });
  const phaseId = parentId === null ? input.phaseId : requireParent(plan, parentId).row.phase_id;
  return { kind: 'add-tasks', tasks: [{ id, values: { title: title.trim(), phaseId, parentId, days, estimateMinutes } }] };
}

/** The task a new one becomes a part of; refuses one of another engagement, and one that is over. */
function requireParent(plan: PlanImage, parentId: string): TaskImage {
  const parent = plan.tasks.find((task) => task.id === parentId);
  if (parent === undefined)
    throw new Refusal('unknown-id', 'The task to put it under is not in this engagement. Choose one of this plan.', { field: 'parentId' });
  if (!isOpen(valuesOf(parent.row)))
    throw new Refusal('wrong-moment', `“${parent.row.title}” is over. Reopen it before you add subtasks.`, { field: 'parentId' });
  return parent;
}
