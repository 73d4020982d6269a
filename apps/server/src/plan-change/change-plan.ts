import { Injectable } from '@nestjs/common';
import type { ChangePlan as Input, PlanChanged, PlanEffect, TaskChange } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf, record, type NewEvent } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { engagementSeenBy } from '../platform/visible.ts';
import { readPlanFacts } from '../schedule/plan-facts.ts';
import { refreshPlan } from '../schedule/refresh-engagement.ts';
import { deleteTasks } from '../task/delete-tasks.ts';
import { refuseTimed } from '../time/refuse-timed.ts';
import { TaskRepository, type TaskToChange } from '../task/task.repository.ts';
import { readLoadFacts } from '../workload/load-facts.ts';
import { nextPlan, type NextPlan } from './next-plan.ts';
import { planEffect } from './plan-effect.ts';
import { phasesChanged, readPhaseImages } from './phase-images.ts';
import { tryOut } from './try-out.ts';
import { taskEvents } from './task-events.ts';
import { readTaskImages } from './task-images.ts';
import {
  carryParts,
  markGroups,
  placeTasks,
  requireDeliverables,
  requireOwnValues,
  untieParts,
  writeAssignees,
  writeFields,
  writeFiles,
  writeLinks,
  type Writing,
} from './write-changes.ts';

/** A change of one engagement's plan. */
export interface PlanChange {
  readonly engagementId: string;
  readonly tasks: readonly TaskChange[];
  /** Makes tasks and more before the rest, and answers further changes; what it makes is undone with them. */
  readonly prepare?: () => Promise<readonly TaskChange[]>;
  /** Tasks that `prepare` made begin on another day by what no change of a task says, such as another anchor. */
  readonly alsoMoved?: () => readonly string[];
  /** Does what can only be done once the tasks are changed, before the plan is computed. */
  readonly settle?: () => Promise<void>;
}

/**
 * Changes any number of tasks of one plan together, with everything that follows: days of what
 * comes after, slack, briefs, load. One transaction, all or nothing; a stale version changes
 * nothing and says what is there now. What was touched is kept as it was, for undo. Asked
 * as a preview, the same work is done and taken back, so the two cannot disagree.
 */
@Injectable()
export class ChangePlan {
  private readonly database: Database;
  private readonly tasks: TaskRepository;
  private readonly clock: Clock;
  constructor(database: Database, tasks: TaskRepository, clock: Clock) {
    this.database = database;
    this.tasks = tasks;
    this.clock = clock;
  }

  run(who: Who, engagementId: string, input: Input): Promise<PlanChanged> {
    return this.database.transaction((manager) => this.apply(manager, who, { engagementId, tasks: input.tasks }));
  }

  /** What the change would do; nothing stays. */
  async preview(who: Who, engagementId: string, input: Input): Promise<PlanEffect> {
    return (await tryOut(this.database, (manager) => this.apply(manager, who, { engagementId, tasks: input.tasks }))).effect;
  }

  /** As `run`, inside a transaction that is already open. */
  async apply(manager: EntityManager, who: Who, change: PlanChange): Promise<PlanChanged> {
    const { engagementId } = change;
    const writing: Writing = { engagementId, who, at: this.clock.now() };
    await lockEngagement(manager, who, engagementId);
    const imagesBefore = await readTaskImages(manager, engagementId);
    const phasesBefore = change.prepare === undefined ? null : await readPhaseImages(manager, engagementId);
    const asked = [...change.tasks, ...((await change.prepare?.()) ?? [])];
    const tasks = await this.lockTasks(manager, who, { engagementId, tasks: asked });
    const today = this.clock.today();
    const window = { today, to: '9999-12-31' };
    const factsBefore = await readPlanFacts(manager, engagementId);
    const loadBefore = asked.some(changesLoad) ? await readLoadFacts(manager, who.agencyId, window) : null;
    const next = nextPlan(asked, { facts: factsBefore, tasks, today });
    await write(manager, writing, next);
    await change.settle?.();
    const imagesWritten = await readTaskImages(manager, engagementId);
    const by = { actor: who, at: writing.at };
    const there = new Set(imagesBefore.map((image) => image.id));
    const events = await taskEvents(manager, { engagementId, before: imagesBefore, after: imagesWritten });
    const phases = phasesBefore === null ? null : phasesChanged(phasesBefore, await readPhaseImages(manager, engagementId));
    await record(manager, by, [
      ...events,
      ...(phases === null
        ? []
        : [{ kind: 'phases-changed', engagementId, subject: 'engagement', subjectId: engagementId, payload: phases } as const]),
    ]);
    const refreshed = await refreshPlan(manager, await readPlanFacts(manager, engagementId), {
      ...{ today, by },
      changed: [...movedBy(events), ...(change.alsoMoved?.() ?? [])],
      made: imagesWritten.map(({ id }) => id).filter((id) => !there.has(id)),
    });
    const load = loadBefore === null ? null : { before: loadBefore, after: await readLoadFacts(manager, who.agencyId, window) };
    const effect = planEffect({ before: factsBefore, refreshed, load, today, asked });
    // What has just been made did not move: it has its first days.
    return { changeId: changeIdOf(manager), effect: { ...effect, moves: effect.moves.filter((move) => there.has(move.id)) } };
  }

  /** The tasks as they are, locked; refuses unknown ones, one named twice, and stale versions with the task as it is now. */
  private async lockTasks(
    manager: EntityManager,
    who: Who,
    { engagementId, tasks }: PlanChange,
  ): Promise<ReadonlyMap<string, TaskToChange>> {
    const ids = tasks.map((task) => task.id);
    if (new Set(ids).size < ids.length)
      throw new Refusal('invalid-input', 'A task is named twice. Give all its changes at once.', { field: 'tasks' });
    const rows = await this.tasks.lockMany(manager, engagementId, ids);
    const known = new Map(rows.map((row) => [row.id, row]));
    for (const { id, version } of tasks) {
      const row = known.get(id);
      if (row === undefined)
        throw new Refusal('unknown-id', 'A task is not in this engagement, or gone. Read the plan again.', { field: 'tasks' });
      if (row.version !== version) await this.tasks.refuseStale(manager, who, id);
    }
    return known;
  }
}

/** Locks an engagement that may be seen: two edits of one plan wait for each other. */
export async function lockEngagement(manager: EntityManager, who: Who, engagementId: string): Promise<void> {
  const seen = engagementSeenBy(who, 2);
  const sql = `SELECT e.id FROM engagement e WHERE e.id = $1 AND ${seen.sql}`;
  requireFound(await firstRow(manager, sql, [engagementId, ...seen.values]), 'engagement');
  // Gone between the two is gone.
  requireFound((await lockEngagements(manager, [engagementId]))[0], 'engagement');
}

async function write(manager: EntityManager, writing: Writing, { tasks, deletedIds }: NextPlan): Promise<void> {
  await requireDeliverables(manager, writing, tasks);
  await requireOwnValues(manager, writing, tasks);
  await refuseTimed(manager, deletedIds);
  await deleteTasks(manager, deletedIds);
  await writeFields(manager, tasks);
  await carryParts(manager, tasks);
  await untieParts(manager, tasks);
  await placeTasks(manager, writing, tasks);
  await markGroups(manager, writing.engagementId);
  await writeLinks(manager, writing, tasks);
  await writeAssignees(manager, writing, tasks);
  await writeFiles(manager, writing, tasks);
}

/** The tasks whose days may follow from what was changed; what was deleted moves those that waited for it. */
const movedBy = (events: readonly NewEvent[]): string[] =>
  events
    .filter(({ kind, changes }) => kind === 'task-deleted' || (changes ?? []).some(({ field }) => MOVING.has(field)))
    .map(({ subjectId }) => subjectId);

/** What overloads nobody does without reading the whole load. */
const changesLoad = (change: TaskChange): boolean =>
  [change.days, change.fixedDay, change.notBefore, change.shiftDays, change.estimateMinutes, change.assigneeIds, change.after].some(
    (field) => field !== undefined,
  );

const MOVING = new Set(['status', 'days', 'fixedDay', 'notBefore', 'estimateMinutes', 'waitingOn', 'after', 'phaseId', 'parentId']);
