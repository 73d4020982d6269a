import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { checkTemplate, diffTemplates, type TemplateContent } from '@crew/core';
import type { KeepVersion, MakeTemplate, SaveTemplate, TemplateContentView, TemplateKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record, type EventSaying } from '../activity/record.ts';
import { refuseTwice, requireCustomFields } from '../field/keep-custom-fields.ts';
import { requireFiles } from '../file/keep-files.ts';
import { addSeriesJobs } from '../platform/job-names.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockKept } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { Template } from './template.entity.ts';
import { readContent, writeContent } from './template-content.ts';
import { TemplateRepository, type TemplateFacts } from './template.repository.ts';

/** A template about to be kept. */
export interface NewTemplate {
  readonly kind: TemplateKind;
  readonly content: TemplateContent;
  readonly note: string;
}

/** Making, saving, versioning, copying and archiving templates. Engagements start from versions, which never change. */
@Injectable()
export class KeepTemplate {
  private readonly database: Database;
  private readonly templates: TemplateRepository;
  private readonly clock: Clock;
  constructor(database: Database, templates: TemplateRepository, clock: Clock) {
    this.database = database;
    this.templates = templates;
    this.clock = clock;
  }

  /** The working copy with what is wrong with it. */
  async read(who: Who, templateId: string): Promise<TemplateContentView> {
    return this.view(this.database.manager, who, templateId);
  }

  /** A new template: empty but for one phase, or a copy of another's newest version. */
  make(who: Who, input: MakeTemplate): Promise<string> {
    return this.database.transaction(async (manager) => {
      const content = await this.firstContent(manager, who, input);
      const kind = input.copyOf === undefined ? (input.kind ?? 'engagement') : await this.kindOf(manager, who, input.copyOf);
      return this.write(manager, who, { kind, content, note: '' });
    });
  }

  /** Keeps a new template and its first version, inside a transaction that is already open. */
  async write(manager: EntityManager, who: Who, { kind, content, note }: NewTemplate): Promise<string> {
    refuseFaults(content);
    await refuseTakenName(manager, who, { kind, name: content.name, besides: null });
    const { identifiers } = await manager.insert(Template, {
      agencyId: who.agencyId,
      kind,
      name: content.name.trim(),
      description: content.description,
    });
    const templateId = (identifiers[0] as { id: string }).id;
    await writeContent(manager, templateId, content);
    await this.keepVersion(manager, who, { templateId, version: 1, note });
    await this.record(manager, who, templateId, { kind: 'template-added' });
    return templateId;
  }

  /** Saves the working copy, whole; a stale one is refused with what is there now. */
  save(who: Who, templateId: string, input: SaveTemplate): Promise<TemplateContentView> {
    return this.database.transaction(async (manager) => {
      await this.saveContent(manager, who, { templateId, input });
      return this.view(manager, who, templateId);
    });
  }

  /** Makes the working copy the next version: engagements start from it from now on. */
  keep(who: Who, templateId: string, input: KeepVersion): Promise<TemplateContentView> {
    return this.database.transaction(async (manager) => {
      const facts = await this.lock(manager, who, { templateId, revision: input.revision });
      await this.keepNext(manager, who, { facts, templateId, note: input.note?.trim() ?? '' });
      return this.view(manager, who, templateId);
    });
  }

  /** Changes the working copy and keeps it as the next version, in one go; what `change` refuses changes nothing. */
  saveAsVersion(
    who: Who,
    templateId: string,
    step: {
      readonly revision: number;
      readonly note: string;
      readonly change: (manager: EntityManager, view: TemplateContentView) => Promise<SaveTemplate['content']>;
    },
  ): Promise<TemplateContentView> {
    return this.database.transaction(async (manager) => {
      await this.lock(manager, who, { templateId, revision: step.revision });
      const content = await step.change(manager, await this.view(manager, who, templateId));
      await this.saveContent(manager, who, { templateId, input: { revision: step.revision, content } });
      const facts = requireFound(await this.templates.facts(manager, who.agencyId, templateId), 'template');
      await this.keepNext(manager, who, { facts, templateId, note: step.note });
      return this.view(manager, who, templateId);
    });
  }

  private async saveContent(
    manager: EntityManager,
    who: Who,
    { templateId, input }: { readonly templateId: string; readonly input: SaveTemplate },
  ): Promise<void> {
    const facts = await this.lock(manager, who, { templateId, revision: input.revision });
    const content = input.content as TemplateContent;
    refuseFaults(content);
    await refuseTakenName(manager, who, { kind: facts.kind, name: content.name, besides: templateId });
    await this.requireKnown(manager, who, { content, templateId });
    await writeContent(manager, templateId, content);
    const kept = await this.templates.content(manager, who.agencyId, { templateId, which: 'newest' });
    const now = await readContent(manager, who.agencyId, templateId);
    await rowsOf(manager, 'UPDATE template SET revision = revision + 1, is_changed = $2 WHERE id = $1', [
      templateId,
      kept === null || now === null || diffTemplates(kept, now).length > 0,
    ]);
    await this.record(manager, who, templateId, { kind: 'template-saved' });
  }

  private async keepNext(
    manager: EntityManager,
    who: Who,
    { facts, templateId, note }: { readonly facts: TemplateFacts; readonly templateId: string; readonly note: string },
  ): Promise<void> {
    if (!facts.isChanged) throw new Refusal('wrong-moment', `Nothing has changed since version ${facts.version}.`);
    await this.keepVersion(manager, who, { templateId, version: facts.version + 1, note });
    await rowsOf(manager, 'UPDATE template SET version = version + 1, revision = revision + 1, is_changed = false WHERE id = $1', [
      templateId,
    ]);
    await this.record(manager, who, templateId, { kind: 'template-version-added', payload: { version: facts.version + 1, note } });
  }

  /** Takes a template out of the library, or puts it back; what was made from it stays. */
  archive(who: Who, templateId: string, isArchived: boolean): Promise<void> {
    return this.database.transaction(async (manager) => {
      const sql = 'UPDATE template SET is_archived = $3 WHERE id = $1 AND agency_id = $2 RETURNING id';
      requireFound(await firstRow(manager, sql, [templateId, who.agencyId, isArchived]), 'template');
      await this.record(manager, who, templateId, { kind: isArchived ? 'template-archived' : 'template-restored' });
    });
  }

  private async firstContent(manager: EntityManager, who: Who, input: MakeTemplate): Promise<TemplateContent> {
    if (input.copyOf === undefined) return emptyContent(input.name.trim());
    const source = await this.templates.content(manager, who.agencyId, { templateId: input.copyOf, which: 'newest' });
    return copyContent({ ...requireFound(source, 'template'), name: input.name.trim() });
  }

  private async kindOf(manager: EntityManager, who: Who, templateId: string): Promise<TemplateKind> {
    return requireFound(await this.templates.facts(manager, who.agencyId, templateId), 'template').kind;
  }

  private async view(manager: EntityManager, who: Who, templateId: string): Promise<TemplateContentView> {
    const facts = requireFound(await this.templates.facts(manager, who.agencyId, templateId), 'template');
    const content = requireFound(await readContent(manager, who.agencyId, templateId), 'template');
    return { ...facts, content: content as TemplateContentView['content'] };
  }

  /** Locks a template and compares the revision that was read with what is there now. */
  private async lock(
    manager: EntityManager,
    who: Who,
    { templateId, revision }: { readonly templateId: string; readonly revision: number },
  ): Promise<TemplateFacts> {
    await lockKept(manager, 'template', templateId);
    const facts = requireFound(await this.templates.facts(manager, who.agencyId, templateId), 'template');
    if (facts.revision !== revision) {
      const current = await this.view(manager, who, templateId);
      throw new Refusal('changed-meanwhile', 'Somebody changed this template since you opened it. Compare both versions and choose one.', {
        details: { current },
      });
    }
    return facts;
  }

  private async keepVersion(
    manager: EntityManager,
    who: Who,
    { templateId, version, note }: { readonly templateId: string; readonly version: number; readonly note: string },
  ): Promise<void> {
    const content = await readContent(manager, who.agencyId, templateId);
    await rowsOf(
      manager,
      'INSERT INTO template_version (template_id, version, content, note, made_at, made_by_id) VALUES ($1, $2, $3, $4, $5, $6)',
      [templateId, version, JSON.stringify(content), note, this.clock.now(), who.accountId],
    );
    await addSeriesJobs(manager, { agencyId: who.agencyId, templateId });
  }

  /** Refuses roles, people, sources, files and custom fields of another agency, and values that do not fit. */
  private async requireKnown(
    manager: EntityManager,
    who: Who,
    { content, templateId }: { readonly content: TemplateContent; readonly templateId: string },
  ): Promise<void> {
    const roles = await this.templates.roleNames(manager, who.agencyId);
    const named = [
      ...content.phases.map((phase) => phase.roleId),
      ...content.tasks.flatMap((task) => [task.roleId, ...task.helperRoleIds]),
    ];
    if (named.some((id) => id !== null && !roles.has(id)))
      throw new Refusal('unknown-id', 'A role is not one of yours. Choose from the list.', { field: 'content' });
    const people = [
      ...new Set(content.tasks.flatMap(({ personId, helperPersonIds }) => [...(personId === null ? [] : [personId]), ...helperPersonIds])),
    ];
    const known = await rowsOf(manager, 'SELECT 1 FROM person WHERE agency_id = $1 AND id = ANY($2)', [who.agencyId, people]);
    if (known.length < people.length)
      throw new Refusal('unknown-id', 'Somebody chosen is not on your crew. Choose from the list.', { field: 'content' });
    const sources = [...new Set([...content.phases, ...content.tasks].flatMap(({ sourceTemplateId }) => sourceTemplateId ?? []))];
    const there = await rowsOf(manager, 'SELECT 1 FROM template WHERE agency_id = $1 AND id = ANY($2)', [who.agencyId, sources]);
    if (there.length < sources.length)
      throw new Refusal('unknown-id', 'A part was taken from a template that is not yours. Take it from your library.', {
        field: 'content',
      });
    await requireFiles(
      manager,
      who,
      content.tasks.flatMap((task) => task.files),
    );
    for (const task of content.tasks) refuseTwice(task.customFields, `tasks[${task.id}].customFields`);
    const before = (await readContent(manager, who.agencyId, templateId))?.tasks.flatMap((task) => task.customFields) ?? [];
    const entries = content.tasks.flatMap((task) => task.customFields);
    await requireCustomFields(manager, who, { entries, before, at: 'content' });
  }

  private record(manager: EntityManager, who: Who, templateId: string, event: TemplateEvent): Promise<void> {
    return record(manager, { actor: who, at: this.clock.now() }, [
      { ...event, engagementId: null, subject: 'template', subjectId: templateId },
    ]);
  }
}

type TemplateEvent = EventSaying<
  'template-added' | 'template-saved' | 'template-version-added' | 'template-archived' | 'template-restored'
>;

/** Refuses with the first fault at its place, and all of them as data. */
export function refuseFaults(content: TemplateContent): void {
  const faults = checkTemplate(content);
  const [first] = faults;
  if (first === undefined) return;
  throw new Refusal(
    first.at === 'phases' ? 'empty-template' : first.at === 'tasks' ? 'waits-in-a-loop' : 'faulty-template',
    first.message,
    {
      field: first.at,
      details: { faults },
    },
  );
}

async function refuseTakenName(
  manager: EntityManager,
  who: Who,
  { kind, name, besides }: { readonly kind: string; readonly name: string; readonly besides: string | null },
): Promise<void> {
  const taken = await firstRow(
    manager,
    'SELECT 1 FROM template WHERE agency_id = $1 AND kind = $2 AND name = $3 AND id IS DISTINCT FROM $4::uuid',
    [who.agencyId, kind, name.trim(), besides],
  );
  if (taken !== null)
    throw new Refusal('already-there', `There is a template “${name.trim()}” already. Give this one another name.`, { field: 'name' });
}

function emptyContent(name: string): TemplateContent {
  const phase = { id: randomUUID(), name: 'First phase', roleId: null, stateLine: 'Just begun', rounds: null };
  return {
    name,
    description: '',
    phases: [
      { ...phase, afterPhaseId: null, afterEdge: 'finish', afterLag: 0, checks: [{ kind: 'tasks-done', text: 'Our tasks are done' }] },
    ],
    tasks: [],
    ways: [],
  };
}

/** The same content with ids of its own. */
export function copyContent(content: TemplateContent): TemplateContent {
  const ids = new Map([...content.phases, ...content.tasks, ...content.ways].map((part) => [part.id, randomUUID() as string]));
  const own = (id: string): string => ids.get(id) ?? id;
  const ownOrNull = (id: string | null): string | null => (id === null ? null : own(id));
  return {
    ...content,
    phases: content.phases.map((phase) => ({ ...phase, id: own(phase.id), afterPhaseId: ownOrNull(phase.afterPhaseId) })),
    tasks: content.tasks.map((task) => ({
      ...task,
      id: own(task.id),
      phaseId: own(task.phaseId),
      parentId: ownOrNull(task.parentId),
      after: task.after.map((dependency) => ({ ...dependency, taskId: own(dependency.taskId) })),
    })),
    ways: content.ways.map((way) => ({ ...way, id: own(way.id), fromId: own(way.fromId), toId: ownOrNull(way.toId) })),
  };
}
