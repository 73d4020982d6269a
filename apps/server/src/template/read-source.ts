import { Injectable } from '@nestjs/common';
import { templateFromPlan } from '@crew/core';
import type { DryRun, PlanEngagement } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import { holdsRole } from '../platform/sql-words.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { readPlanned } from './save-back.ts';
import { documentOf, TemplateRepository, type TemplateDocument, type TemplateFacts, type Which } from './template.repository.ts';

/** What an engagement is made from: a template, or another engagement made relative again. */
export interface Source {
  readonly document: TemplateDocument;
  /** The template and version it counts as being of; a copy is of the one its original is of. */
  readonly origin: { readonly templateId: string; readonly version: number } | null;
  readonly copyOf: DryRun['copyOf'];
  /** Who did the work of each role there. */
  readonly people: ReadonlyMap<string, string>;
  /** What could not be carried over as it was, each as a sentence. */
  readonly notes: readonly string[];
}

interface Original {
  readonly clientId: string;
  readonly templateId: string | null;
  readonly version: number | null;
  readonly people: Readonly<Record<string, string>> | null;
}

const ORIGINAL = `
  SELECT e.client_id AS "clientId", e.template_id AS "templateId", e.template_version AS version,
    (SELECT json_object_agg(r.role_id, r.person_id) FROM engagement_role r
     WHERE r.engagement_id = e.id AND ${holdsRole('r.person_id', 'r.role_id')}) AS people
  FROM engagement e WHERE e.id = $1`;

const PEOPLE_OF_TASKS = `
  SELECT t.id, array_agg(a.person_id ORDER BY a.position) AS people FROM task t JOIN task_assignee a ON a.task_id = t.id
  WHERE t.engagement_id = $1 GROUP BY t.id`;

/** Reads what an engagement is made from. */
@Injectable()
export class ReadSource {
  private readonly templates: TemplateRepository;
  constructor(templates: TemplateRepository) {
    this.templates = templates;
  }

  async run(manager: EntityManager, who: Who, { plan, which }: { readonly plan: PlanEngagement; readonly which: Which }): Promise<Source> {
    const { templateId, copyOf } = plan;
    if (copyOf !== undefined && templateId !== undefined)
      throw new Refusal('invalid-input', 'It is made from a template or as a copy, not both. Choose one.', { field: 'copyOf' });
    if (copyOf !== undefined) return this.copy(manager, who, copyOf);
    const document = requireFound(
      await this.templates.find(manager, who.agencyId, { templateId: templateId as string, which }),
      'template',
    );
    const origin = { templateId: document.id, version: document.version };
    return { document, origin, copyOf: null, people: new Map(), notes: [] };
  }

  /** Anchors instead of days, as it was planned; the same people as far as they are still there. */
  private async copy(manager: EntityManager, who: Who, engagementId: string): Promise<Source> {
    const planned = await readPlanned(manager, who, engagementId);
    const { content, notes } = templateFromPlan(planned, 'planned');
    const original = (await firstRow<Original>(manager, ORIGINAL, [engagementId])) as Original;
    const people = new Map(Object.entries(original.people ?? {}));
    const rows = await rowsOf<{ id: string; people: readonly string[] }>(manager, PEOPLE_OF_TASKS, [engagementId]);
    const doers = new Map(rows.map((row) => [row.id, row.people]));
    const facts: TemplateFacts = {
      ...{ id: original.templateId ?? engagementId, kind: 'engagement', version: original.version ?? 1, revision: 1 },
      ...{ isChanged: false, isArchived: false, usedTimes: 0 },
    };
    // Whoever does a task in place of the one with the role is named, and so is who helps; the others follow their roles.
    const tasks = content.tasks.map((task) => {
      const [personId = null, ...helperPersonIds] = doers.get(task.id) ?? [];
      const isByRole = task.roleId !== null && people.get(task.roleId) === personId;
      return { ...task, personId: isByRole ? null : personId, helperRoleIds: [], helperPersonIds };
    });
    const origins = await originsOf(manager, engagementId);
    const document = documentOf({ ...content, tasks }, { facts, roles: await this.templates.roleNames(manager, who.agencyId), origins });
    const { templateId, version } = original;
    return {
      ...{ document, people, notes, copyOf: { id: engagementId, name: planned.name, clientId: original.clientId } },
      origin: templateId === null || version === null ? null : { templateId, version },
    };
  }
}

/** From which part of a template each part of an engagement was made. */
export async function originsOf(manager: EntityManager, engagementId: string): Promise<ReadonlyMap<string, string | null>> {
  const rows = await rowsOf<{ id: string; origin: string | null }>(
    manager,
    `SELECT id, template_task_id AS origin FROM task WHERE engagement_id = $1
     UNION ALL SELECT id, template_phase_id FROM phase WHERE engagement_id = $1`,
    [engagementId],
  );
  return new Map(rows.map(({ id, origin }) => [id, origin]));
}
