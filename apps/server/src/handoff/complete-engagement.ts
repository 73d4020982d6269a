import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { CompleteEngagement as Input, PlanChanged, PlanEffect, TaskChange } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { lockVersion } from '../engagement/edit-engagement.ts';
import { refuseOver } from '../engagement/refuse-at-rest.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { tryOut } from '../platform/try-out.ts';
import { ChangePlan, type OpenPlan } from '../plan-change/change-plan.ts';
import { editOfChanges } from '../plan-change/edit-of-changes.ts';
import { copiedValues } from '../task/task-fields.ts';
import type { NewTask, TaskImage } from '../task/task-images.ts';
import { gateOf, judgeGate, type GateRow } from './gate-facts.ts';

const RUNNING = `SELECT p.id, p.name, ${gateOf('p')} AS gate FROM phase p WHERE p.engagement_id = $1 AND p.state = 'running' ORDER BY p.position`;

interface RunningPhase {
  readonly id: string;
  readonly name: string;
  readonly gate: GateRow;
}

const isOpenTask = ({ row }: TaskImage): boolean => row['status'] !== 'done' && row['status'] !== 'dropped';

/**
 * Completes an engagement in one step: ends what is still running today, with no handing off and picking up.
 * Tasks that are still open stay as they are, are set done, or go on in another engagement with what is
 * left of their effort. Gates that are not clear want a reason. One transaction, undone as a whole.
 */
@Injectable()
export class CompleteEngagement {
  private readonly database: Database;
  private readonly plans: ChangePlan;
  private readonly clock: Clock;
  constructor(database: Database, plans: ChangePlan, clock: Clock) {
    this.database = database;
    this.plans = plans;
    this.clock = clock;
  }

  run(who: Who, id: string, input: Input): Promise<PlanChanged> {
    return this.database.transaction((manager) => this.apply(manager, who, { id, input }));
  }

  /** What it would move elsewhere; nothing stays, and no reason is asked for yet. */
  async preview(who: Who, id: string, input: Input): Promise<PlanEffect> {
    return (await tryOut(this.database, (manager) => this.apply(manager, who, { id, input, isTried: true }))).effect;
  }

  private async apply(
    manager: EntityManager,
    who: Who,
    { id, input, isTried = false }: { readonly id: string; readonly input: Input; readonly isTried?: boolean },
  ): Promise<PlanChanged> {
    const targetId = input.openTasks === 'move' ? targetOf(id, input) : null;
    await lockBoth(manager, who, targetId === null ? [id] : [id, targetId]);
    const { state, name } = await lockVersion(manager, who, { id, version: input.version });
    if (state !== 'open')
      throw new Refusal(
        'wrong-moment',
        `“${name}” is ${state === 'proposal' ? 'still a proposal' : 'over already'}, so it cannot be completed.`,
      );
    const running = await rowsOf<RunningPhase>(manager, RUNNING, [id]);
    const reason = input.reason?.trim() ?? null;
    if (!isTried) refuseGates(running, input);
    const open = await this.plans.open(manager, who, id);
    const left = open.plan.tasks.filter((image) => isOpenTask(image) && !image.row.is_group);
    const moved = targetId === null ? null : await this.move(manager, who, { left, open, targetId });
    const changes = left.map((image): TaskChange => ({
      ...{ id: image.id, version: image.row.version, status: targetId === null ? 'done' : 'dropped' },
    }));
    const at = this.clock.now();
    const on = this.clock.today();
    const ended = await this.plans.apply(manager, who, {
      open,
      edit: {
        operations: [
          ...(input.openTasks === 'leave' ? [] : editOfChanges(changes, open)),
          { kind: 'end-phases', phaseIds: running.map((phase) => phase.id), on, at: at.toISOString(), personId: who.personId as string },
        ],
      },
    });
    await rowsOf(manager, `UPDATE engagement SET state = 'finished', closed_on = $2, version = version + 1 WHERE id = $1`, [id, on]);
    await record(manager, { actor: who, at }, [
      {
        ...{ kind: 'engagement-completed', engagementId: id, subject: 'engagement', subjectId: id, payload: { reason } },
        changes: [
          { field: 'state', from: state, to: 'finished' },
          { field: 'closedOn', from: null, to: on },
        ],
      },
    ]);
    return { changeId: ended.changeId, effect: (moved ?? ended).effect };
  }

  /** Open tasks go on in the phase of another engagement that runs, with what they are a part of. */
  private async move(
    manager: EntityManager,
    who: Who,
    { left, open, targetId }: { readonly left: readonly TaskImage[]; readonly open: OpenPlan; readonly targetId: string },
  ): Promise<PlanChanged> {
    const target = await this.plans.open(manager, who, targetId);
    await refuseOver(manager, targetId, 'moveTo');
    const phase = target.plan.phases.find(({ state }) => state === 'running') ?? target.plan.phases.find(({ state }) => state === 'ahead');
    if (phase === undefined) throw new Refusal('wrong-moment', 'The other engagement is over. Choose one that runs.', { field: 'moveTo' });
    return this.plans.apply(manager, who, {
      open: target,
      edit: { operations: [{ kind: 'add-tasks', tasks: goingOn(left, { all: open.plan.tasks, phaseId: phase.id }) }] },
    });
  }
}

/** Both are locked at once, in their order; either that is not there is refused before. */
async function lockBoth(manager: EntityManager, { agencyId }: Who, ids: readonly string[]): Promise<void> {
  const found = await rowsOf(manager, 'SELECT 1 FROM engagement WHERE id = ANY($1) AND agency_id = $2', [ids, agencyId]);
  const locked = found.length === ids.length ? await lockEngagements(manager, ids) : [];
  requireFound(locked.length === ids.length ? ids : null, 'engagement');
}

function targetOf(id: string, { moveTo }: Input): string {
  if (moveTo === undefined) throw new Refusal('invalid-input', 'Choose the engagement the open tasks move to.', { field: 'moveTo' });
  if (moveTo === id) throw new Refusal('invalid-input', 'The open tasks are in this engagement. Choose another.', { field: 'moveTo' });
  return moveTo;
}

/** A gate as it is once no task is open. */
const withoutOpen = (gate: GateRow): GateRow => ({
  ...gate,
  open: [],
  whole: gate.whole.map((task) => ({ ...task, isOpen: false, openSteps: 0 })),
});

/** Tasks that are not left open hold no gate. */
function refuseGates(running: readonly RunningPhase[], { openTasks, reason }: Input): void {
  const missing = running.flatMap(({ gate }) => {
    const results = judgeGate(openTasks === 'leave' ? gate : withoutOpen(gate));
    return gate.checks.filter((_, index) => results[index]?.isClear === false).map(({ text }) => text);
  });
  if (missing.length > 0 && (reason === undefined || reason.trim() === ''))
    throw new Refusal('gate-not-clear', `Not clear yet: ${missing.join('; ')}. Clear it, or give a reason to complete anyway.`, {
      field: 'reason',
    });
}

/** Tasks as they go on elsewhere: the same people and steps, and the effort that is left of them. */
function goingOn(
  left: readonly TaskImage[],
  { all, phaseId }: { readonly all: readonly TaskImage[]; readonly phaseId: string },
): NewTask[] {
  const byId = new Map(all.map((image) => [image.id, image]));
  const going = new Set<TaskImage>();
  for (const image of left)
    for (let at: TaskImage | undefined = image; at !== undefined; at = byId.get(at.row.parent_id ?? '')) going.add(at);
  const images = all.filter((image) => going.has(image));
  const idOf = new Map(images.map(({ id }) => [id, randomUUID() as string]));
  return images.map((image): NewTask => {
    const values = copiedValues(image.row);
    const estimate = values.estimateMinutes ?? null;
    return {
      id: idOf.get(image.id) as string,
      values: {
        ...values,
        title: image.row.title,
        ...{ phaseId, deliverableId: null, parentId: idOf.get(image.row.parent_id ?? '') ?? null },
        estimateMinutes: estimate === null ? null : Math.max(0, estimate - image.row.logged_minutes),
      },
      steps: image.steps.filter(({ isDone }) => !isDone).map(({ title }) => title),
      fileIds: image.files,
      assignees: image.assignees,
      after: image.after.flatMap((dependency) => {
        const taskId = idOf.get(dependency.taskId);
        return taskId === undefined ? [] : [{ ...dependency, taskId }];
      }),
    };
  });
}
