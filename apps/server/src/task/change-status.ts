import { Injectable } from '@nestjs/common';
import type { EditTask } from '@crew/contract';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { percentOf, summarise } from '../schedule/summarise.ts';
import { changesBetween, nextFields } from './next-fields.ts';
import { TaskRepository } from './task.repository.ts';

/** Somebody else may write to the same engagement between our read and our write; three in a row is a fault to tell. */
const TRIES = 3;

/**
 * The change made most. The facts are read without a lock and the figures computed by the
 * core's rules; one statement then writes task, summary, event and the job for the plan
 * behind it, and only if nothing was changed in between.
 */
@Injectable()
export class ChangeStatus {
  private readonly database: Database;
  private readonly tasks: TaskRepository;
  private readonly clock: Clock;
  constructor(database: Database, tasks: TaskRepository, clock: Clock) {
    this.database = database;
    this.tasks = tasks;
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
    const task = requireFound(await this.tasks.findAmongOthers(manager, who, taskId), 'task');
    if (task.version !== input.version) await this.tasks.refuseStale(manager, who, taskId);
    const today = this.clock.today();
    const next = nextFields(task, input, today);
    const changes = changesBetween(task, next);
    if (changes.length === 0) return true;
    const tasks = task.tasks.map((other) => (other.id === task.id ? { ...other, ...next } : other));
    return this.tasks.writeStatus(manager, {
      task,
      next,
      changes,
      figures: summarise(tasks, today),
      phasePercent: percentOf(tasks.filter((other) => other.phaseId === task.phaseId)),
      by: { accountId: who.accountId, agencyId: who.agencyId, at: this.clock.now() },
    });
  }
}
