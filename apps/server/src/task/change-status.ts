import type { IsoDay } from '@crew/core';
import { Injectable } from '@nestjs/common';
import type { EditTask } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { atRest } from '../engagement/refuse-at-rest.ts';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { doneBefore } from '../platform/request-context.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { PlanBehind } from '../schedule/plan-behind.ts';
import { figuresAfter, figuresOf, type Figures } from './figures-after.ts';
import { changesBetween, nextFields, type TaskFields } from './next-fields.ts';
import { statusWritten, TaskRepository, type StatusWritten, type TaskStanding } from './task.repository.ts';

/**
 * The change made most. The task is read without a lock, its share added to the figures that
 * are kept (or all of them summed anew, where adding would not be right); one statement then
 * writes task, figures, event and what is pending, only if nothing was changed in between.
 * When something was, on another task of the engagement or by another process, it is done
 * again with the engagement locked: nobody is refused for what others do elsewhere.
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

  /** Answers the id that undoes it, or null when nothing changed. Refuses with `changed-meanwhile` and the task as it is when `input.version` is stale. */
  async run(who: Who, taskId: string, input: Input): Promise<string | null> {
    const { manager } = this.database;
    const read = (): Promise<TaskStanding> => this.read(manager, who, taskId);
    const task = await read();
    const written = await this.database.inTurn(task.engagementId, async (hasWaited) =>
      this.write(manager, who, { task: hasWaited ? await read() : task, input }),
    );
    const { changeId } =
      written.kind === 'too-late' ? await this.database.transaction((locked) => this.within(locked, who, { taskId, input })) : written;
    if (changeId !== null) this.behind.ask(task.engagementId);
    return changeId;
  }

  /** As `run`, inside a transaction; the engagement is locked. Whoever calls asks for the plan behind it once that is through. */
  async within(
    manager: EntityManager,
    who: Who,
    { taskId, input }: { readonly taskId: string; readonly input: Input },
  ): Promise<{ readonly changeId: string | null }> {
    requireFound(await this.tasks.lock(manager, who, taskId), 'task');
    const written = await this.write(manager, who, { task: await this.read(manager, who, taskId), input });
    if (written.kind === 'too-late')
      throw new Error(`the figures of task ${taskId} were changed by somebody who had not locked its engagement`);
    return written;
  }

  private async read(manager: EntityManager, who: Who, taskId: string): Promise<TaskStanding> {
    return requireFound(await this.tasks.findStanding(manager, who, taskId), 'task');
  }

  private async write(
    manager: EntityManager,
    who: Who,
    { task, input }: { readonly task: TaskStanding; readonly input: Input },
  ): Promise<Written> {
    if (task.version !== input.version) {
      const kept = await doneBefore(manager, who.accountId);
      if (kept !== null) return kept.value as StatusWritten;
      await this.tasks.refuseStale(manager, who, task.id);
    }
    if (task.closedName !== null) throw atRest(task.closedName);
    const today = this.clock.today();
    if (task.isGroup)
      throw new Refusal('wrong-moment', `The subtasks of “${task.title}” decide its status. Change it on them.`, { field: 'status' });
    const next = nextFields(task, input, today);
    const changes = changesBetween(task, next);
    if (changes.length === 0) return SAME;
    const figures = figuresAfter(task.standing, task, { next, today }) ?? (await this.sumAnew(manager, task, { next, today }));
    const changeId = await this.tasks.writeStatus(manager, { task, next, changes, figures, who, at: this.clock.now() });
    return changeId === null ? { kind: 'too-late', changeId } : statusWritten(changeId);
  }

  private async sumAnew(
    manager: EntityManager,
    task: TaskStanding,
    { next, today }: { readonly next: TaskFields; readonly today: IsoDay },
  ): Promise<Figures> {
    const others = await this.tasks.listForSummary(manager, task.engagementId);
    const tasks = others.map((other) => (other.id === task.id ? { ...other, ...next } : other));
    return figuresOf(tasks, { phaseId: task.phaseId, today });
  }
}

type Input = Pick<EditTask, 'version' | 'status' | 'waitingOn'>;

/** The result of writing a status; `too-late` wrote nothing. */
type Written = StatusWritten | { readonly kind: 'same' | 'too-late'; readonly changeId: null };
const SAME: Written = { kind: 'same', changeId: null };
