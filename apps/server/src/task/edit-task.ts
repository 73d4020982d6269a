import { Injectable } from '@nestjs/common';
import type { EditTask as Input, PlanEffect, TaskEdited, TaskSheet } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { recordEvent, type Change } from '../event/record-event.ts';
import { Clock } from '../platform/clock.ts';
import { affectedRows, Database, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { readPlanFacts } from '../schedule/plan-facts.ts';
import { refreshPlan } from '../schedule/refresh-engagement.ts';
import { readLoadFacts } from '../workload/load-facts.ts';
import { ChangeStatus } from './change-status.ts';
import { changesBetween, isReopened, nextFields, type TaskFields } from './next-fields.ts';
import { planEffect } from './plan-effect.ts';
import { TaskRepository, type TaskToChange } from './task.repository.ts';

/** What somebody with only their own tasks may change on them. */
const OWN_WORK: readonly (keyof Input)[] = ['status', 'waitingOn'];

/**
 * Changes a task in place and everything that follows from it: the days of what comes after,
 * slack, percent, load. One transaction; a stale version changes nothing and says what is
 * there now. Asked as a preview, the same work is done and taken back.
 */
@Injectable()
export class EditTask {
  private readonly database: Database;
  private readonly tasks: TaskRepository;
  private readonly statuses: ChangeStatus;
  private readonly clock: Clock;
  constructor(database: Database, tasks: TaskRepository, statuses: ChangeStatus, clock: Clock) {
    this.database = database;
    this.tasks = tasks;
    this.statuses = statuses;
    this.clock = clock;
  }

  /**
   * A status alone is written at once with its figures, and the plan behind it follows by a job;
   * everything else answers what it moved.
   */
  async run(who: Who, taskId: string, input: Input): Promise<TaskEdited> {
    if (!isStatusOnly(input)) return this.database.transaction((manager) => this.edit(manager, who, { taskId, input }));
    await this.statuses.run(who, taskId, input);
    return { task: requireFound(await this.tasks.findSheet(this.database.manager, who, taskId), 'task'), effect: null };
  }

  /** What the edit would do; nothing stays. */
  async preview(who: Who, taskId: string, input: Input): Promise<PlanEffect> {
    const seen: { effect?: PlanEffect } = {};
    await this.database
      .transaction(async (manager) => {
        seen.effect = (await this.edit(manager, who, { taskId, input })).effect;
        throw new TakenBack();
      })
      .catch((error: unknown) => {
        if (!(error instanceof TakenBack)) throw error;
      });
    return seen.effect as PlanEffect;
  }

  private async edit(
    manager: EntityManager,
    who: Who,
    { taskId, input }: { readonly taskId: string; readonly input: Input },
  ): Promise<{ readonly task: TaskSheet; readonly effect: PlanEffect }> {
    const task = requireFound(await this.tasks.lock(manager, who, taskId), 'task');
    refuseBeyondOwnWork(who, input);
    if (task.version !== input.version) await this.tasks.refuseStale(manager, who, taskId);
    const today = this.clock.today();
    const before = await readPlanFacts(manager, task.engagementId);
    const window = { today, to: '9999-12-31' };
    const loadBefore = changesLoad(input) ? await readLoadFacts(manager, who.agencyId, window) : null;
    const next = nextFields(task, input, today);
    const fields = changesBetween(task, next);
    await this.writeFields(manager, task, next);
    const changes = [...fields, ...(await this.writeAssignees(manager, who, { task, input }))];
    const facts = { ...before, tasks: before.tasks.map((other) => (other.id === task.id ? { ...other, ...next } : other)) };
    const refreshed = await refreshPlan(manager, facts, { today, changed: movesPlan(changes) ? [task.id] : [] });
    if (changes.length > 0) {
      const happening = { engagementId: task.engagementId, subject: 'task', subjectId: task.id, kind: 'changed', changes } as const;
      await recordEvent(manager, { who, at: this.clock.now() }, happening);
    }
    const load = loadBefore === null ? null : { before: loadBefore, after: await readLoadFacts(manager, who.agencyId, window) };
    const effect = planEffect({ before, refreshed, load, today });
    return { task: requireFound(await this.tasks.findSheet(manager, who, taskId), 'task'), effect };
  }

  private async writeFields(manager: EntityManager, task: TaskToChange, next: TaskFields): Promise<void> {
    const count = await affectedRows(
      manager,
      `UPDATE task SET title = $2, description = $3, status = $4, waiting_on = $5, waiting_since = $6, days = $7, estimate_minutes = $8, fixed_day = $9,
         priority = $10, is_shown_to_client = $11, real_start = $12, done_on = $13, reopened = reopened + $14, version = version + 1
       WHERE id = $1 AND version = $15`,
      [
        task.id,
        next.title,
        next.description,
        next.status,
        next.waitingOn,
        next.waitingSince,
        next.days,
        next.estimateMinutes,
        next.fixedDay,
        next.priority,
        next.isShownToClient,
        next.realStart,
        next.doneOn,
        isReopened(task, next) ? 1 : 0,
        task.version,
      ],
    );
    if (count === 0) throw new Refusal('changed-meanwhile', 'Somebody changed this task at the same moment. Try once more.');
  }

  private async writeAssignees(
    manager: EntityManager,
    who: Who,
    { task, input }: { readonly task: TaskToChange; readonly input: Input },
  ): Promise<Change[]> {
    if (input.assigneeIds === undefined) return [];
    const wanted = [...new Set(input.assigneeIds)];
    if (wanted.join() === task.assigneeIds.join()) return [];
    const known = await rowsOf<{ id: string }>(manager, 'SELECT id FROM person WHERE agency_id = $1 AND is_active AND id = ANY($2)', [
      who.agencyId,
      wanted,
    ]);
    if (known.length < wanted.length)
      throw new Refusal('unknown-id', 'Somebody chosen is not of your crew. Choose from the list.', { field: 'assigneeIds' });
    await rowsOf(manager, 'DELETE FROM task_assignee WHERE task_id = $1 AND person_id <> ALL($2)', [task.id, wanted]);
    await rowsOf(
      manager,
      `INSERT INTO task_assignee (task_id, person_id, position, assigned_at, assigned_by_id, seen_at)
       SELECT $1, v.person_id, v.position - 1, $3, $4::uuid, CASE WHEN v.person_id = $4::uuid THEN $3::timestamptz END
       FROM unnest($2::uuid[]) WITH ORDINALITY AS v(person_id, position)
       ON CONFLICT (task_id, person_id) DO UPDATE SET position = excluded.position`,
      [task.id, wanted, this.clock.now(), who.personId],
    );
    return [{ field: 'assigneeIds', from: task.assigneeIds, to: wanted }];
  }
}

/** Ends a preview: the transaction goes back, the answer is kept. */
class TakenBack extends Error {}

function refuseBeyondOwnWork(who: Who, input: Input): void {
  if (who.access !== 'freelancer') return;
  const beyond = (Object.keys(input) as (keyof Input)[]).find(
    (field) => field !== 'version' && input[field] !== undefined && !OWN_WORK.includes(field),
  );
  if (beyond !== undefined)
    throw new Refusal('not-allowed', 'You can change the status of your own tasks. Ask a lead for the rest.', { field: beyond });
}

/** What overloads nobody does without reading the whole load. */
const changesLoad = (input: Input): boolean =>
  [input.days, input.fixedDay, input.estimateMinutes, input.assigneeIds].some((field) => field !== undefined);

/** The edit made most, and the only one that nobody asks to see the effect of first. */
const isStatusOnly = (input: Input): boolean =>
  input.status !== undefined &&
  (Object.keys(input) as (keyof Input)[]).every(
    (field) => input[field] === undefined || field === 'status' || field === 'waitingOn' || field === 'version',
  );

const MOVING = new Set(['status', 'days', 'fixedDay', 'estimateMinutes', 'waitingOn']);
const movesPlan = (changes: readonly Change[]): boolean => changes.some((change) => MOVING.has(change.field));
