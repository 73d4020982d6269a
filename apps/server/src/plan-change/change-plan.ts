import { Injectable } from '@nestjs/common';
import { addDays, compileCalendar, type Calendar, type IsoDay } from '@crew/core';
import { LOOK_AHEAD_DAYS, type ChangePlan as Input, type PlanChanged, type PlanEffect } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf, record, type NewEvent } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { tryOut } from '../platform/try-out.ts';
import { refuseAtRest } from '../engagement/refuse-at-rest.ts';
import { engagementSeenBy } from '../platform/visible.ts';
import { readPlanFacts, type PlanFacts } from '../schedule/plan-facts.ts';
import { refreshPlan } from '../schedule/refresh-engagement.ts';
import { TaskRepository } from '../task/task.repository.ts';
import { readLoadFacts } from '../load/load-facts.ts';
import { applyEdit } from './apply-edit.ts';
import { changesLoad } from './changes-load.ts';
import { editOfChanges } from './edit-of-changes.ts';
import type { PlanEdit } from './plan-edit.ts';
import { planEffect } from './plan-effect.ts';
import { readPlanImage, type PlanImage } from './plan-image.ts';
import { refuseUnknown } from './refuse-unknown.ts';
import { writePlan } from './write-plan.ts';

/** A plan that is locked and read: what an edit of it is computed from. */
export interface OpenPlan {
  readonly plan: PlanImage;
  readonly facts: PlanFacts;
  readonly calendar: Calendar;
  readonly today: IsoDay;
}

/**
 * Changes any number of tasks of one plan together, with everything that follows: days of later tasks,
 * slack, briefs, load. One transaction, all or nothing; a stale version changes nothing and says what
 * is there now. An edit is a value, computed from the plan without writing; one writer saves the
 * result. A preview does the same work and rolls it back, so the two cannot disagree.
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
    return this.database.transaction((manager) => this.applyChanges(manager, who, { engagementId, tasks: input.tasks }));
  }

  /** What the change would do; nothing stays. */
  async preview(who: Who, engagementId: string, input: Input): Promise<PlanEffect> {
    return (await tryOut(this.database, (manager) => this.applyChanges(manager, who, { engagementId, tasks: input.tasks }))).effect;
  }

  /** As `run`, inside a transaction that is already open. */
  async applyChanges(
    manager: EntityManager,
    who: Who,
    { engagementId, tasks }: Pick<Input, 'tasks'> & { readonly engagementId: string },
  ): Promise<PlanChanged> {
    const open = await this.open(manager, who, engagementId);
    const versions = new Map(open.plan.tasks.map(({ id, row }) => [id, row.version]));
    const stale = tasks.find(({ id, version }) => versions.has(id) && versions.get(id) !== version);
    if (stale !== undefined) await this.tasks.refuseStale(manager, who, stale.id);
    const wishes = tasks.flatMap(({ id, notBefore }) => (typeof notBefore === 'string' ? [{ id, notBefore }] : []));
    return this.apply(manager, who, { open, edit: { operations: editOfChanges(tasks, open), wishes } });
  }

  /** Locks the plan of an engagement that may be seen, and reads it. */
  async open(manager: EntityManager, who: Who, engagementId: string): Promise<OpenPlan> {
    await lockEngagement(manager, who, engagementId);
    const facts = await readPlanFacts(manager, engagementId);
    const calendar = unwrap(compileCalendar(facts.calendar));
    return { plan: await readPlanImage(manager, engagementId), facts, calendar, today: this.clock.today() };
  }

  /** Does an edit of an open plan; answers what followed. */
  async apply(
    manager: EntityManager,
    who: Who,
    { open, edit }: { readonly open: OpenPlan; readonly edit: PlanEdit },
  ): Promise<PlanChanged> {
    const { plan: before, facts, today } = open;
    const after = applyEdit(before, edit);
    await refuseUnknown(manager, who, { before, after });
    const window = { today, to: '9999-12-31', comingTo: addDays(today, LOOK_AHEAD_DAYS) };
    const loadBefore = changesLoad(before, after) ? await readLoadFacts(manager, who.agencyId, window) : null;
    const by = { actor: who, at: this.clock.now() };
    const events = await writePlan(manager, by, { before, after });
    await record(manager, by, events);
    const there = new Set(before.tasks.map(({ id }) => id));
    const made = after.tasks.map(({ id }) => id).filter((id) => !there.has(id));
    const refreshed = await refreshPlan(manager, await readPlanFacts(manager, before.engagementId), {
      ...{ today, by, made, changed: [...movedBy(events), ...made] },
    });
    const load = loadBefore === null ? null : { before: loadBefore, after: await readLoadFacts(manager, who.agencyId, window) };
    const effect = planEffect({ before: facts, refreshed, load, today, wishes: edit.wishes ?? [] });
    // New tasks did not move: they have their first days.
    return { changeId: changeIdOf(manager), effect: { ...effect, moves: effect.moves.filter((move) => there.has(move.id)) } };
  }
}

/** Locks an engagement that may be seen and is not at rest: two edits of one plan wait for each other. */
export async function lockEngagement(manager: EntityManager, who: Who, engagementId: string): Promise<void> {
  const seen = engagementSeenBy(who, 2);
  const sql = `SELECT e.id FROM engagement e WHERE e.id = $1 AND ${seen.sql}`;
  requireFound(await firstRow(manager, sql, [engagementId, ...seen.values]), 'engagement');
  // Gone between the two is gone.
  requireFound((await lockEngagements(manager, [engagementId]))[0], 'engagement');
  await refuseAtRest(manager, [engagementId]);
}

/** The tasks whose days may follow from what was changed; what was deleted moves those that waited for it. */
const movedBy = (events: readonly NewEvent[]): string[] =>
  events
    .filter(({ kind, changes }) => kind === 'task-deleted' || (changes ?? []).some(({ field }) => MOVING.has(field)))
    .map(({ subjectId }) => subjectId);

const MOVING = new Set([
  'status',
  'days',
  'fixedDay',
  'notBefore',
  'estimateMinutes',
  'waitingOn',
  'after',
  'phaseId',
  'parentId',
  'anchor',
]);
