import { Injectable } from '@nestjs/common';
import type { EditTask } from '@crew/contract';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { PlanBehind } from '../jobs/plan-behind.ts';
import { figuresAfter, figuresOf, type Figures } from './figures-after.ts';
import { changesBetween, nextFields, type TaskFields } from './next-fields.ts';
import { TaskRepository, type TaskStanding } from './task.repository.ts';

/** Somebody else may write to the same engagement between our read and our write; three in a row is a fault to tell. */
const TRIES = 3;

/**
 * The change made most. The task is read without a lock, its share added to the figures that
 * are kept (or all of them summed anew, where adding would not be right); one statement then
 * writes task, figures, event and what is pending, only if nothing was changed in between.
 * The job for the plan behind it is asked for once that is through.
 */
@Injectable()
export class ChangeStatus {
  private readonly database: Database;
  private readonly tasks: TaskRepository;
  private readonly behind: PlanBehind;
  private readonly clock: Clock;
  constructor(database: Database, tasks: TaskRepository, behind: PlanBehind, clock: Clock) {
    this.database = database;
    this.tasks = tasks;
    this.behind = behind;
    this.clock = clock;
  }

  /** Refuses with `changed-meanwhile` and the task as it is when `input.version` is stale. */
  async run(who: Who, taskId: string, input: Pick<EditTask, 'version' | 'status' | 'waitingOn'>): Promise<void> {
    for (let tried = 0; tried < TRIES; tried++) {
      if (await this.tryOnce(who, taskId, input)) return;
    }
    throw new Refusal('changed-meanwhile', 'This engagement is being changed by others at this moment. Try once more.');
  }

  private async tryOnce(who: Who, taskId: string, input: Pick<EditTask, 'version' | 'status' | 'waitingOn'>): Promise<boolean> {
    const { manager } = this.database;
    const task = requireFound(await this.tasks.findStanding(manager, who, taskId), 'task');
    if (task.version !== input.version) await this.tasks.refuseStale(manager, who, taskId);
    const today = this.clock.today();
    if (task.isGroup)
      throw new Refusal('wrong-moment', `The subtasks of “${task.title}” decide its status. Change it on them.`, { field: 'status' });
    const next = nextFields(task, input, today);
    const changes = changesBetween(task, next);
    if (changes.length === 0) return true;
    const figures = figuresAfter(task.standing, task, { next, today }) ?? (await this.sumAnew(task, { next, today }));
    const by = { accountId: who.accountId, agencyId: who.agencyId, at: this.clock.now() };
    const isWritten = await this.tasks.writeStatus(manager, { task, next, changes, figures, by });
    if (isWritten) this.behind.ask(task.engagementId);
    return isWritten;
  }

  private async sumAnew(task: TaskStanding, { next, today }: { readonly next: TaskFields; readonly today: string }): Promise<Figures> {
    const others = await this.tasks.listForSummary(this.database.manager, task.engagementId);
    const tasks = others.map((other) => (other.id === task.id ? { ...other, ...next } : other));
    return figuresOf(tasks, { phaseId: task.phaseId, today });
  }
}
