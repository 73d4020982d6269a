import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { CustomFieldDefinition, CustomFieldValue, TemplateContent, TemplateFile, TemplateOutside, TemplateTask } from '@crew/core';
import type { AnchorAt, CheckKind, DependencyType, Priority, TaskKind, TemplateKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Role } from '../crew/crew.entity.ts';
import { insertCustomField, readCustomFields } from '../field/keep-custom-fields.ts';
import { KeepFiles } from '../file/keep-files.ts';
import { Database } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { KeepTemplate } from './keep-template.ts';

/** A task of a template being made; dependencies name other tasks by title. */
export interface TaskDraft {
  readonly title: string;
  readonly role?: string;
  readonly helpers?: readonly string[];
  readonly hours?: number;
  readonly days: number;
  readonly kind?: TaskKind;
  readonly anchor?: readonly [AnchorAt, number];
  readonly after?: readonly (string | { readonly task: string; readonly type?: DependencyType; readonly lag?: number })[];
  readonly steps?: readonly string[];
  readonly priority?: Priority;
  readonly labels?: readonly string[];
  readonly deliverable?: string;
  readonly pageLinks?: TemplateTask['pageLinks'];
  /** Names of files of the draft. */
  readonly files?: readonly string[];
  /** Custom fields of the draft by name, with what stands in them. */
  readonly own?: Readonly<Record<string, CustomFieldValue>>;
  readonly outside?: TemplateOutside;
  readonly isShownToClient?: boolean;
  readonly description?: string;
  readonly subtasks?: readonly TaskDraft[];
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
  /** Custom fields its tasks have; those the agency does not have yet are made. */
  readonly fields?: readonly CustomFieldDefinition[];
  readonly files?: readonly { readonly name: string; readonly text: string }[];
  /** Ways out by titles: back to a task, or to an ending. */
  readonly ways?: readonly { readonly from: string; readonly to?: string; readonly ending?: string; readonly reason: string }[];
}

/** Keeps a template written by hand, with names for roles and titles for dependencies: the examples are made so. */
@Injectable()
export class CreateTemplate {
  private readonly database: Database;
  private readonly keeping: KeepTemplate;
  private readonly files: KeepFiles;
  constructor(database: Database, keeping: KeepTemplate, files: KeepFiles) {
    this.database = database;
    this.keeping = keeping;
    this.files = files;
  }

  run(who: Who, draft: TemplateDraft): Promise<string> {
    return this.database.transaction((manager) => this.write(manager, who, draft));
  }

  /** As `run`, inside a transaction that is already open. */
  async write(manager: EntityManager, who: Who, draft: TemplateDraft): Promise<string> {
    const roles = await manager.findBy(Role, { agencyId: who.agencyId });
    const content = toContent(draft, {
      roleIds: new Map(roles.map((role) => [role.name, role.id])),
      fieldIds: await this.fieldsFor(manager, who, draft),
      files: await this.filesFor(manager, who, draft),
    });
    return this.keeping.write(manager, who, { kind: draft.kind, content, note: '' });
  }

  private async fieldsFor(manager: EntityManager, who: Who, draft: TemplateDraft): Promise<ReadonlyMap<string, string>> {
    const ids = new Map([...(await readCustomFields(manager, who.agencyId)).values()].map((field) => [field.name, field.id]));
    for (const field of draft.fields ?? []) if (!ids.has(field.name)) ids.set(field.name, await insertCustomField(manager, who, field));
    return ids;
  }

  private async filesFor(manager: EntityManager, who: Who, draft: TemplateDraft): Promise<ReadonlyMap<string, TemplateFile>> {
    const files = new Map<string, TemplateFile>();
    for (const { name, text } of draft.files ?? []) {
      const kept = await this.files.keep(manager, who, { name, type: 'text/plain', from: { content: Buffer.from(text) } });
      files.set(name, { fileId: kept.id, name, bytes: kept.bytes });
    }
    return files;
  }
}

/** What the names of a draft stand for. */
interface Named {
  readonly roleIds: ReadonlyMap<string, string>;
  readonly fieldIds: ReadonlyMap<string, string>;
  readonly files: ReadonlyMap<string, TemplateFile>;
}

const allOf = (tasks: readonly TaskDraft[]): TaskDraft[] => tasks.flatMap((task) => [task, ...allOf(task.subtasks ?? [])]);

function toContent(draft: TemplateDraft, named: Named): TemplateContent {
  const idOf = idsOf(draft);
  const phaseIds = draft.phases.map(() => randomUUID() as string);
  const resolve = { ...named, idOf };
  return {
    name: draft.name,
    description: draft.description,
    phases: draft.phases.map((phase, index) => ({
      id: phaseIds[index] as string,
      name: phase.name,
      roleId: idOfRole(named, phase.role),
      stateLine: phase.stateLine,
      rounds: phase.rounds ?? null,
      afterPhaseId: phaseIds[index - 1] ?? null,
      afterEdge: 'finish',
      afterLag: phase.lag ?? 0,
      checks: (phase.checks ?? []).map(([kind, text]) => ({ kind, text })),
    })),
    tasks: draft.phases.flatMap((phase, index) => toTasks(phase.tasks, { phaseId: phaseIds[index] as string, parentId: null }, resolve)),
    ways: (draft.ways ?? []).map((way) => ({
      id: randomUUID(),
      fromId: idOf(way.from),
      toId: way.to === undefined ? null : idOf(way.to),
      ending: way.ending ?? null,
      reason: way.reason,
    })),
  };
}

/** The id each task of the draft is given, by its title. */
function idsOf(draft: TemplateDraft): (title: string) => string {
  const all = draft.phases.flatMap((phase) => allOf(phase.tasks));
  const ids = new Map(all.map((task) => [task.title, randomUUID() as string]));
  return (title) => ids.get(title) ?? title;
}

function idOfRole({ roleIds }: Named, name: string | undefined): string | null {
  if (name === undefined) return null;
  const id = roleIds.get(name);
  if (id === undefined) throw new Refusal('unknown-id', `There is no role “${name}”. Add it to the crew first.`, { field: 'role' });
  return id;
}

type Where = Pick<TemplateTask, 'phaseId' | 'parentId'>;
type Resolve = Named & { readonly idOf: (title: string) => string };

function toTasks(drafts: readonly TaskDraft[], where: Where, resolve: Resolve): TemplateTask[] {
  return drafts.flatMap((draft) => {
    const task = toTask(draft, where, resolve);
    return [task, ...toTasks(draft.subtasks ?? [], { ...where, parentId: task.id }, resolve)];
  });
}

function toTask(task: TaskDraft, where: Where, resolve: Resolve): TemplateTask {
  const { idOf, fieldIds, files } = resolve;
  return {
    id: idOf(task.title),
    ...where,
    title: task.title,
    description: task.description ?? '',
    kind: task.kind ?? 'work',
    roleId: idOfRole(resolve, task.role),
    personId: null,
    helperPersonIds: [],
    helperRoleIds: (task.helpers ?? []).map((name) => idOfRole(resolve, name) as string),
    estimateMinutes: task.hours === undefined ? null : Math.round(task.hours * 60),
    days: task.days,
    anchor: { at: task.anchor?.[0] ?? 'phase-start', offset: task.anchor?.[1] ?? 0 },
    after: (task.after ?? []).map((dependency) => {
      const { task: title, type = 'FS', lag = 0 } = typeof dependency === 'string' ? { task: dependency } : dependency;
      return { taskId: idOf(title), type, lag };
    }),
    steps: task.steps ?? [],
    priority: task.priority ?? 'normal',
    labels: task.labels ?? [],
    deliverable: task.deliverable ?? null,
    pageLinks: task.pageLinks ?? [],
    files: (task.files ?? []).map((name) => files.get(name) as TemplateFile),
    customFields: Object.entries(task.own ?? {}).map(([name, value]) => ({ fieldId: fieldIds.get(name) ?? name, value })),
    outside: task.outside ?? null,
    isShownToClient: task.isShownToClient ?? task.kind === 'client',
    isChargeable: true,
  };
}
