import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { schedule } from '@crew/core';
import type { AnchorAt, CheckKind, Priority, TaskKind, TemplateKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Role } from '../crew/crew.entity.ts';
import { recordEvent } from '../event/record-event.ts';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { Refusal, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { Template, TemplateCheck, TemplateLink, TemplatePhase, TemplateStep, TemplateTask } from './template.entity.ts';

/** A task of a template being made; ties name other tasks by title. */
export interface TaskDraft {
  readonly title: string;
  readonly role?: string;
  readonly hours?: number;
  readonly days: number;
  readonly kind?: TaskKind;
  readonly anchor?: readonly [AnchorAt, number];
  readonly after?: readonly (string | { readonly task: string; readonly type?: 'FS' | 'SS' | 'FF' | 'SF'; readonly lag?: number })[];
  readonly steps?: readonly string[];
  readonly priority?: Priority;
  readonly isShownToClient?: boolean;
  readonly description?: string;
}

/** A phase of a template being made; each follows the one before it. */
export interface PhaseDraft {
  readonly name: string;
  readonly role?: string;
  readonly stateLine: string;
  readonly rounds?: number;
  readonly lag?: number;
  readonly checks?: readonly (readonly [CheckKind, string])[];
  readonly tasks: readonly TaskDraft[];
}

export interface TemplateDraft {
  readonly kind: TemplateKind;
  readonly name: string;
  readonly description: string;
  readonly phases: readonly PhaseDraft[];
}

/** Keeps a new template, all of it or nothing; names of roles and ties are checked first. */
@Injectable()
export class CreateTemplate {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  run(who: Who, draft: TemplateDraft): Promise<string> {
    return this.database.transaction((manager) => this.write(manager, who, draft));
  }

  /** As `run`, inside a transaction that is already open. */
  async write(manager: EntityManager, who: Who, draft: TemplateDraft): Promise<string> {
    if (draft.phases.length === 0)
      throw new Refusal('empty-template', 'A template needs at least one phase. Add one.', { field: 'phases' });
    refuseLoops(draft);
    const roles = await manager.findBy(Role, { agencyId: who.agencyId });
    const roleIds = new Map(roles.map((role) => [role.name, role.id]));
    const { identifiers } = await manager.insert(Template, {
      agencyId: who.agencyId,
      kind: draft.kind,
      name: draft.name,
      description: draft.description,
    });
    const templateId = (identifiers[0] as { id: string }).id;
    await writePhases(manager, { draft, templateId, roleIds });
    await recordEvent(
      manager,
      { who, at: this.clock.now() },
      { engagementId: null, subject: 'template', subjectId: templateId, kind: 'created' },
    );
    return templateId;
  }
}

const tieOf = (tie: NonNullable<TaskDraft['after']>[number]) => (typeof tie === 'string' ? { task: tie } : tie);

function refuseLoops(draft: TemplateDraft): void {
  const tasks = draft.phases.flatMap((phase, index) =>
    phase.tasks.map((task) => ({
      id: task.title,
      phase: String(index),
      days: task.days,
      after: (task.after ?? []).map(tieOf).map((tie) => ({ task: tie.task, type: tie.type ?? ('FS' as const), lag: tie.lag ?? 0 })),
    })),
  );
  const phases = draft.phases.map((phase, index) => ({
    id: String(index),
    ...(index === 0 ? {} : { after: { phase: String(index - 1), edge: 'finish' as const, lag: phase.lag ?? 0 } }),
  }));
  unwrap(schedule({ calendar: { week: [1, 1, 1, 1, 1, 0, 0], closed: [] }, start: '2026-01-05', phases, tasks }));
}

interface Writing {
  readonly draft: TemplateDraft;
  readonly templateId: string;
  readonly roleIds: ReadonlyMap<string, string>;
}

async function writePhases(manager: EntityManager, { draft, templateId, roleIds }: Writing): Promise<void> {
  const roleId = (name: string | undefined): string | null => {
    if (name === undefined) return null;
    const id = roleIds.get(name);
    if (id === undefined) throw new Refusal('unknown-id', `There is no role “${name}”. Add it to the crew first.`, { field: 'role' });
    return id;
  };
  const taskIds = new Map(draft.phases.flatMap((phase) => phase.tasks.map((task) => [task.title, randomUUID()] as const)));
  const idOf = (title: string): string => taskIds.get(title) as string;
  const phaseIds = draft.phases.map(() => randomUUID());
  await manager.insert(
    TemplatePhase,
    draft.phases.map((phase, position) => ({
      id: phaseIds[position] as string,
      templateId,
      position,
      name: phase.name,
      roleId: roleId(phase.role),
      stateLine: phase.stateLine,
      rounds: phase.rounds ?? null,
      afterPhaseId: phaseIds[position - 1] ?? null,
      afterLag: phase.lag ?? 0,
    })),
  );
  const tasks = draft.phases.flatMap((phase, place) =>
    phase.tasks.map((task, position) => ({
      id: idOf(task.title),
      phaseId: phaseIds[place] as string,
      position,
      title: task.title,
      description: task.description ?? '',
      kind: task.kind ?? 'work',
      roleId: roleId(task.role),
      estimateMinutes: task.hours === undefined ? null : Math.round(task.hours * 60),
      days: task.days,
      anchorAt: task.anchor?.[0] ?? 'phase-start',
      anchorOffset: task.anchor?.[1] ?? 0,
      priority: task.priority ?? 'normal',
      isShownToClient: task.isShownToClient ?? task.kind === 'client',
    })),
  );
  if (tasks.length > 0) await manager.insert(TemplateTask, tasks);
  const all = draft.phases.flatMap((phase) => phase.tasks);
  const steps = all.flatMap((task) => (task.steps ?? []).map((title, position) => ({ taskId: idOf(task.title), position, title })));
  if (steps.length > 0) await manager.insert(TemplateStep, steps);
  const links = all.flatMap((task) =>
    (task.after ?? []).map(tieOf).map((tie) => ({
      successorId: idOf(task.title),
      predecessorId: idOf(tie.task),
      type: tie.type ?? 'FS',
      lag: tie.lag ?? 0,
    })),
  );
  if (links.length > 0) await manager.insert(TemplateLink, links);
  const checks = draft.phases.flatMap((phase, place) =>
    (phase.checks ?? []).map(([kind, text], position) => ({ phaseId: phaseIds[place] as string, position, kind, text })),
  );
  if (checks.length > 0) await manager.insert(TemplateCheck, checks);
}
