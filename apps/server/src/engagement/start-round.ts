import { Injectable } from '@nestjs/common';
import { estimateOfNextRound, tasksOfRound, type IsoDay } from '@crew/core';
import type { PlanChanged, PlanEffect, StartRound as Input } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import { requireCan, type Who } from '../platform/rights.ts';
import { tryOut } from '../platform/try-out.ts';
import { refuseOver } from './refuse-at-rest.ts';
import { ChangePlan, type OpenPlan } from '../plan-change/change-plan.ts';
import { decisionTask, decisionTitle } from '../plan-change/decision-task.ts';
import type { PlanOperation } from '../plan-change/plan-edit.ts';
import type { TaskImage } from '../task/task-images.ts';
import type { TaskWay } from '../task/task-fields.ts';

/**
 * Goes through a loop of the map: the tasks between its ends open again, with new days, their steps to
 * be done once more and the effort of one more round; their phase counts the round. One transaction,
 * undone as a whole.
 */
@Injectable()
export class StartRound {
  private readonly database: Database;
  private readonly plans: ChangePlan;
  private readonly clock: Clock;
  constructor(database: Database, plans: ChangePlan, clock: Clock) {
    this.database = database;
    this.plans = plans;
    this.clock = clock;
  }

  run(who: Who, engagementId: string, input: Input): Promise<PlanChanged> {
    return this.database.transaction((manager) => this.apply(manager, who, { engagementId, input }));
  }

  /** What it would do; nothing stays. */
  async preview(who: Who, engagementId: string, input: Input): Promise<PlanEffect> {
    return (await tryOut(this.database, (manager) => this.apply(manager, who, { engagementId, input }))).effect;
  }

  /** A task for whoever leads the engagement, with the effort shown; asked for once. */
  private async ask(manager: EntityManager, who: Who, { engagementId, input }: Asked): Promise<PlanChanged> {
    const next = await this.foresee(manager, who, { engagementId, input });
    if (!isBeyond(next))
      throw new Refusal('wrong-moment', `Round ${next.round} of “${next.phase}” is among those agreed with the client. Start it.`);
    const open = await this.plans.open(manager, who, engagementId);
    const text = roundQuestion(next);
    const isSame = ({ row }: TaskImage): boolean =>
      row.title === decisionTitle(text) && row['status'] !== 'done' && row['status'] !== 'dropped';
    const asked = open.plan.tasks.find(isSame);
    if (asked !== undefined) throw new Refusal('already-there', `The lead was asked already: see task ${String(asked.row['number'])}.`);
    const lead = await firstRow<{ id: string }>(manager, 'SELECT lead_id AS id FROM engagement WHERE id = $1', [engagementId]);
    const task = decisionTask(open, { text, personIds: lead === null ? [] : [lead.id], phaseId: next.phaseId });
    return this.plans.apply(manager, who, { open, edit: { operations: [{ kind: 'add-tasks', tasks: [task] }] } });
  }

  /** Which round would be next, how many were agreed, and the effort it would take, minutes. */
  async foresee(manager: EntityManager, who: Who, { engagementId, input }: Asked): Promise<NextRound> {
    const open = await this.plans.open(manager, who, engagementId);
    const { to, round } = roundOf(open, input);
    const phase = open.plan.phases.find(({ id }) => id === to.row.phase_id);
    const done = phase?.round ?? 1;
    const minutes = round.reduce(
      (sum, { row }) =>
        sum + (estimateOfNextRound({ estimate: row['estimate_minutes'] as number | null, logged: row.logged_minutes }, done) ?? 0),
      0,
    );
    return { phase: phase?.name ?? '', phaseId: to.row.phase_id, round: done + 1, agreed: phase?.rounds ?? null, minutes };
  }

  private async apply(manager: EntityManager, who: Who, { engagementId, input }: Asked): Promise<PlanChanged> {
    const open = await this.plans.open(manager, who, engagementId);
    await refuseOver(manager, engagementId);
    if (input.askLead === true) return this.ask(manager, who, { engagementId, input });
    const { to, way, round } = roundOf(open, input);
    if (!round.some(({ row }) => row['status'] !== 'queued'))
      throw new Refusal('wrong-moment', 'Nothing in this round has started, so there is nothing to do again.');
    const phase = open.plan.phases.find(({ id }) => id === to.row.phase_id);
    const done = phase?.round ?? 1;
    refuseBeyondAgreed(who, { phase: phase?.name ?? '', round: done + 1, agreed: phase?.rounds ?? null });
    const phases = new Set(round.map(({ row }) => row.phase_id));
    const over = open.plan.phases.filter(({ id, state }) => phases.has(id) && state === 'over').map(({ id }) => id);
    const changed = await this.plans.apply(manager, who, {
      open,
      edit: {
        operations: [
          ...round.map((image) => again(image, { done, today: open.today })),
          { kind: 'start-round', phaseId: to.row.phase_id, reruns: over },
        ],
      },
    });
    const payload = { round: done + 1, of: phase?.rounds ?? null, reason: way.reason };
    await record(manager, { actor: who, at: this.clock.now() }, [
      { kind: 'round-started', engagementId, subject: 'phase', subjectId: to.row.phase_id, payload },
    ]);
    return changed;
  }
}

const isBeyond = ({ round, agreed }: Pick<NextRound, 'round' | 'agreed'>): boolean => agreed !== null && round > agreed;

/** What a lead has to decide: which round it would be, how many were agreed, and its effort. */
export const roundQuestion = ({ phase, round, agreed, minutes }: NextRound): string =>
  `round ${round} of ${phase}, ${agreed === 1 ? 'one was' : `${agreed} were`} agreed; it takes about ${Math.round(minutes / 6) / 10} h`;

/** More rounds than were agreed with the client are for a lead to decide: somebody has to pay for them. */
function refuseBeyondAgreed(who: Who, { phase, round, agreed }: Pick<NextRound, 'phase' | 'round' | 'agreed'>): void {
  if (!isBeyond({ round, agreed })) return;
  requireCan(who, 'engagement.edit', {
    words: `This would be round ${round} of ${phase}, and ${agreed === 1 ? 'one round was' : `${agreed} rounds were`} agreed with the client. Ask the lead to decide about it.`,
  });
}

interface Asked {
  readonly engagementId: string;
  readonly input: Input;
}

/** The round that would follow, as it is known beforehand. */
export interface NextRound {
  readonly phase: string;
  readonly phaseId: string;
  readonly round: number;
  readonly agreed: number | null;
  readonly minutes: number;
}

/** The loop that is asked for, with the tasks between its ends. */
function roundOf(open: OpenPlan, input: Input): { readonly to: TaskImage; readonly way: TaskWay; readonly round: readonly TaskImage[] } {
  const { from, to, way } = findLoop(open, input);
  const links = open.plan.tasks.map(({ id, row, after }) => ({ id, parentId: row.parent_id, after: after.map(({ taskId }) => taskId) }));
  const ids = new Set(tasksOfRound(links, { fromId: from.id, toId: to.id }));
  return { to, way, round: open.plan.tasks.filter(({ id, row }) => ids.has(id) && !row.is_group && row['status'] !== 'dropped') };
}

function findLoop(
  { plan }: OpenPlan,
  { taskId, wayId }: Input,
): { readonly from: TaskImage; readonly to: TaskImage; readonly way: TaskWay } {
  const from = plan.tasks.find(({ id }) => id === taskId);
  const way = (from?.row['ways'] as readonly TaskWay[] | undefined)?.find(({ id }) => id === wayId);
  const to = plan.tasks.find(({ id }) => id === way?.toId);
  if (from === undefined || way === undefined || to === undefined)
    throw new Refusal('unknown-id', 'The process map of this engagement no longer has this loop. Reload to see what there is.', {
      field: 'wayId',
    });
  return { from, to, way };
}

/** A task that is to be done once more. Fixed days that are past no longer hold it. */
function again({ id, row, steps }: TaskImage, { done, today }: { readonly done: number; readonly today: IsoDay }): PlanOperation {
  const ahead = (day: unknown): IsoDay | null => (typeof day === 'string' && day >= today ? (day as IsoDay) : null);
  const estimate = row['estimate_minutes'] as number | null;
  return {
    ...{ kind: 'change-task', id },
    change: {
      values: {
        ...{ status: 'queued', waitingOn: null, waitingSince: null, realStart: null, doneOn: null, plannedWeek: null, carried: 0 },
        ...{ fixedDay: ahead(row['fixed_day']), notBefore: ahead(row['not_before']) },
        // A task that had not begun still has the effort of this round left.
        estimateMinutes: row['status'] === 'queued' ? estimate : estimateOfNextRound({ estimate, logged: row.logged_minutes }, done),
      },
      steps: steps.map((step) => ({ ...step, isDone: false })),
      isReopened: row['status'] === 'done',
    },
  };
}
