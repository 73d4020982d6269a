import { Injectable } from '@nestjs/common';
import { can, type EditTask as Input, type PlanEffect, type TaskEdited } from '@crew/contract';
import { ChangePlan } from '../plan-change/change-plan.ts';
import { Database } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { ChangeStatus } from './change-status.ts';
import { TaskRepository } from './task.repository.ts';

/** What somebody with only their own tasks may change on them. */
const OWN_WORK: readonly (keyof Input)[] = ['status', 'waitingOn', 'fileIds', 'customFields'];

/** Changes one task in place: a change of the plan like any other, or, for a status alone, the short way. */
@Injectable()
export class EditTask {
  private readonly database: Database;
  private readonly tasks: TaskRepository;
  private readonly statuses: ChangeStatus;
  private readonly plans: ChangePlan;
  constructor(database: Database, tasks: TaskRepository, statuses: ChangeStatus, plans: ChangePlan) {
    this.database = database;
    this.tasks = tasks;
    this.statuses = statuses;
    this.plans = plans;
  }

  /**
   * A status alone is written at once with its figures, and the plan behind it follows by a job;
   * everything else answers what it moved and can be undone.
   */
  async run(who: Who, taskId: string, input: Input): Promise<TaskEdited> {
    if (!isStatusOnly(input)) {
      const { changeId, effect } = await this.plans.run(who, await this.engagementOf(who, taskId, input), {
        tasks: [{ ...input, id: taskId }],
      });
      return { task: await this.read(who, taskId), effect, changeId };
    }
    const changeId = await this.statuses.run(who, taskId, input);
    return { task: await this.read(who, taskId), effect: null, changeId };
  }

  /** What the edit would do; nothing stays. */
  async preview(who: Who, taskId: string, input: Input): Promise<PlanEffect> {
    return this.plans.preview(who, await this.engagementOf(who, taskId, input), { tasks: [{ ...input, id: taskId }] });
  }

  private async read(who: Who, taskId: string): Promise<TaskEdited['task']> {
    return requireFound(await this.tasks.findSheet(this.database.manager, who, taskId), 'task');
  }

  private async engagementOf(who: Who, taskId: string, input: Input): Promise<string> {
    const place = requireFound(await this.tasks.findPlace(this.database.manager, who, taskId), 'task');
    refuseBeyondOwnWork(who, input);
    return place;
  }
}

function refuseBeyondOwnWork(who: Who, input: Input): void {
  if (can(who, 'plan.edit')) return;
  const beyond = (Object.keys(input) as (keyof Input)[]).find(
    (field) => field !== 'version' && input[field] !== undefined && !OWN_WORK.includes(field),
  );
  if (beyond !== undefined)
    throw new Refusal('not-allowed', 'You can change status, files and custom fields of your own tasks. Ask a lead for the rest.', {
      field: beyond,
    });
}

/** The edit made most, and the only one that nobody asks to see the effect of first. */
const isStatusOnly = (input: Input): boolean =>
  input.status !== undefined &&
  (Object.keys(input) as (keyof Input)[]).every(
    (field) => input[field] === undefined || field === 'status' || field === 'waitingOn' || field === 'version',
  );
