import type { IsoDay } from '@crew/core';
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { StartEngagement as Input, StartLine, StartStep } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import type { Actor, By } from '../platform/actor.ts';
import { GateCheck, Handoff } from '../handoff/handoff.entity.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import { isContactOf } from '../platform/sql-words.ts';
import type { Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { insertTasks } from '../task/insert-tasks.ts';
import type { NewTask } from '../task/task-images.ts';
import { refuseUnstartable } from '../template/refuse-unstartable.ts';
import { doersOf, DryRunTemplate, type ScheduledTemplate } from '../template/dry-run.ts';
import { newTaskOf } from '../template/new-task.ts';
import { ensureDeliverables } from './ensure-deliverables.ts';
import { Engagement, EngagementRole, Phase } from './engagement.entity.ts';

/** Makes an engagement from a template: phases, tasks, dependencies, gates, handoffs and people, all in one transaction. */
@Injectable()
export class StartEngagement {
  private readonly database: Database;
  private readonly dryRun: DryRunTemplate;
  private readonly clock: Clock;
  constructor(database: Database, dryRun: DryRunTemplate, clock: Clock) {
    this.database = database;
    this.dryRun = dryRun;
    this.clock = clock;
  }

  /** `tell` is called with the progress; nothing is there before all of it is. */
  run(who: Who, input: Input, tell: (line: StartLine) => void = () => undefined): Promise<{ id: string }> {
    return this.database.transaction(async (manager) => {
      await refuseUnstartable(manager, who, input.templateId);
      return this.within(manager, who, { input, tell });
    });
  }

  /** As `run`, inside a transaction that is already open. */
  async within(
    manager: EntityManager,
    who: Who,
    { input, tell, made }: { readonly input: Input; readonly tell?: (line: StartLine) => void; readonly made?: MadeBySeries },
  ): Promise<{ id: string }> {
    const { isOwn } = await requireClient(manager, who, input);
    const scheduled = await this.dryRun.schedule(manager, who, input);
    const dryRun = await this.dryRun.describe(manager, who, { plan: input, scheduled });
    const people = new Map(dryRun.roles.map((role) => [role.roleId, role.chosen?.id ?? null]));
    const now = this.clock.now();
    const making = new Making({
      ...{ manager, who, now, today: this.clock.today(), scheduled, people, isOwn },
      ...{ tell: tell ?? (() => undefined), isExpected: made !== undefined },
    });
    const engagementId = await making.engagement(input);
    making.tell('days', scheduled.template.tasks.length);
    const by = { actor: made?.actor ?? who, at: now };
    await refreshEngagement(manager, engagementId, { today: this.clock.today(), by, changed: [] });
    await record(manager, by, [
      {
        ...{ kind: 'engagement-started', engagementId, subject: 'engagement', subjectId: engagementId },
        payload: { seriesId: made?.seriesId ?? null },
      },
      ...making.phasesBegun().map((phaseId) => ({ kind: 'phase-started', engagementId, subject: 'phase', subjectId: phaseId }) as const),
    ]);
    return { id: engagementId };
  }
}

async function requireClient(manager: EntityManager, who: Who, input: Input): Promise<{ readonly isOwn: boolean }> {
  const client = await firstRow<{ hasContact: boolean; isOwn: boolean }>(
    manager,
    `SELECT ($3::uuid IS NULL OR EXISTS (SELECT 1 FROM contact WHERE contact.id = $3 AND contact.is_active AND ${isContactOf('contact', 'client.id')})) AS "hasContact", is_own AS "isOwn"
     FROM client WHERE id = $1 AND agency_id = $2`,
    [input.clientId, who.agencyId, input.contactId ?? null],
  );
  if (client === null) throw new Refusal('unknown-id', 'This client is not one of yours. Choose from the list.', { field: 'clientId' });
  if (!client.hasContact)
    throw new Refusal('unknown-id', 'This contact belongs to another client. Choose one of this client.', { field: 'contactId' });
  return client;
}

/** The series that makes an engagement: nobody is told of work they expect. */
export interface MadeBySeries {
  readonly seriesId: string;
  /** Whoever changed the series, or the job that goes on with it. */
  readonly actor: Actor;
}

interface MakingContext {
  readonly manager: EntityManager;
  readonly who: Who;
  readonly now: Date;
  readonly today: IsoDay;
  readonly scheduled: ScheduledTemplate;
  readonly people: ReadonlyMap<string, string | null>;
  /** In-house work: the client is the agency itself. */
  readonly isOwn: boolean;
  readonly tell: (line: StartLine) => void;
  /** It repeats: nobody is told of work they expect. */
  readonly isExpected: boolean;
}

/** Writes one engagement; template ids are mapped to fresh ones as it goes. */
class Making {
  private readonly context: MakingContext;
  private readonly phaseIds: ReadonlyMap<string, string>;
  private readonly taskIds: ReadonlyMap<string, string>;

  constructor(context: MakingContext) {
    this.context = context;
    this.phaseIds = new Map(context.scheduled.template.phases.map((phase) => [phase.id, randomUUID()]));
    this.taskIds = new Map(context.scheduled.template.tasks.map((task) => [task.id, randomUUID()]));
  }

  /** Reports progress, after so many tasks. */
  tell(step: StartStep, done: number): void {
    this.context.tell({ kind: 'making', step, done, of: this.context.scheduled.template.tasks.length });
  }

  /** The phases that begin with the engagement. */
  phasesBegun(): string[] {
    return this.context.scheduled.template.phases.filter((phase) => phase.afterPhaseId === null).map((phase) => this.phaseId(phase.id));
  }

  async engagement(input: Input): Promise<string> {
    const { manager, who, scheduled, now, people } = this.context;
    const id = randomUUID();
    await manager.insert(Engagement, {
      id,
      agencyId: who.agencyId,
      clientId: input.clientId,
      contactId: input.contactId ?? null,
      templateId: scheduled.source.origin?.templateId ?? null,
      templateVersion: scheduled.source.origin?.version ?? null,
      leadId: who.personId as string,
      name: input.name.trim(),
      state: input.likelihood === undefined || input.likelihood === 100 ? 'open' : 'proposal',
      likelihood: input.likelihood ?? 100,
      startDay: scheduled.start,
      promisedDay: scheduled.promise,
      lastNumber: 0,
      createdAt: now,
      baselineOn: this.context.today,
      baselineFinish: scheduled.schedule.finish,
      baselinePromise: scheduled.promise,
    });
    const roles = [...people].flatMap(([roleId, personId]) => (personId === null ? [] : [{ engagementId: id, roleId, personId }]));
    if (roles.length > 0) await manager.insert(EngagementRole, roles);
    this.tell('phases', 0);
    await this.phases(id);
    await this.tasks(id);
    await this.handoffs(id);
    return id;
  }

  private get by(): By {
    return { actor: this.context.who, at: this.context.now };
  }

  private phaseId(templatePhaseId: string): string {
    return this.phaseIds.get(templatePhaseId) as string;
  }

  private async phases(engagementId: string): Promise<void> {
    const { manager, scheduled } = this.context;
    const dates = new Map(scheduled.schedule.phases.map((phase) => [phase.id, phase]));
    const phases = scheduled.template.phases.map((phase, position) => {
      const planned = dates.get(phase.id) as { start: IsoDay; finish: IsoDay };
      const begins = phase.afterPhaseId === null;
      return {
        id: this.phaseId(phase.id),
        engagementId,
        templatePhaseId: phase.originId,
        position,
        name: phase.name,
        stateLine: phase.stateLine,
        roleId: phase.roleId,
        afterPhaseId: phase.afterPhaseId === null ? null : this.phaseId(phase.afterPhaseId),
        afterEdge: phase.afterEdge,
        afterLag: phase.afterLag,
        rounds: phase.rounds,
        state: begins ? 'running' : 'ahead',
        startedOn: begins ? planned.start : null,
        plannedStart: planned.start,
        plannedFinish: planned.finish,
        baselineStart: planned.start,
        baselineFinish: planned.finish,
      };
    });
    await manager.insert(Phase, phases);
    const checks = scheduled.template.phases.flatMap((phase) =>
      phase.checks.map((check, position) => ({
        phaseId: this.phaseId(phase.id),
        position,
        kind: check.kind,
        text: check.text,
        wants: [...(check.wants ?? [])],
      })),
    );
    if (checks.length > 0) await manager.insert(GateCheck, checks);
  }

  private async tasks(engagementId: string): Promise<void> {
    const { manager, scheduled, isExpected, people } = this.context;
    const deliverables = await ensureDeliverables(
      manager,
      engagementId,
      scheduled.template.tasks.flatMap((task) => task.deliverable ?? []),
    );
    const dates = new Map(scheduled.schedule.tasks.map((task) => [task.id, task]));
    const tasks = scheduled.template.tasks.map((task): NewTask => ({
      ...newTaskOf(task, {
        ...{ idOf: (id) => this.taskIds.get(id), phaseId: this.phaseId(task.phaseId), deliverables, isOwn: this.context.isOwn },
        ways: scheduled.template.ways,
      }),
      dates: dates.get(task.id) as { start: IsoDay; finish: IsoDay },
      assignees: doersOf(task, { chosen: people, crew: scheduled.load.people }).map((personId) => ({ personId })),
    }));
    const tell = (done: number): void => this.tell(done < tasks.length ? 'tasks' : 'people', done);
    await insertTasks(manager, this.by, { engagementId, tasks, isBaseline: true, isExpected, tell });
  }

  /** One joint for each pair of phases, and one that closes the engagement. */
  private async handoffs(engagementId: string): Promise<void> {
    const { manager, scheduled } = this.context;
    const followed = new Set(scheduled.template.phases.map((phase) => phase.afterPhaseId));
    const joints = scheduled.template.phases.flatMap((phase) =>
      phase.afterPhaseId === null ? [] : [{ from: phase.afterPhaseId, to: phase.id }],
    );
    const closing = scheduled.template.phases.filter((phase) => !followed.has(phase.id)).map((phase) => ({ from: phase.id, to: null }));
    await manager.insert(
      Handoff,
      [...joints, ...closing].map(({ from, to }) => ({
        engagementId,
        fromPhaseId: this.phaseId(from),
        toPhaseId: to === null ? null : this.phaseId(to),
      })),
    );
  }
}
