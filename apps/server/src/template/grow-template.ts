import { Injectable } from '@nestjs/common';
import { composeTemplate, templateFromPlan } from '@crew/core';
import type { PlanEngagement } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { originsOf } from './read-source.ts';
import { cutTo, readPlanned } from './save-back.ts';
import { TemplateRepository, type TemplateDocument, type TemplateTaskDocument } from './template.repository.ts';

/** Grows a template by what this one engagement needs besides: phases of other templates, tasks of other engagements, tasks kept in the library. */
@Injectable()
export class GrowTemplate {
  private readonly templates: TemplateRepository;
  constructor(templates: TemplateRepository) {
    this.templates = templates;
  }

  /** The parts keep their ids, so that each can be left out again; nothing can be in it twice. */
  async run(
    manager: EntityManager,
    who: Who,
    { template, plan }: { readonly template: TemplateDocument; readonly plan: PlanEngagement },
  ): Promise<TemplateDocument> {
    let grown = template;
    for (const { templateId, phaseIds, behindPhaseId } of plan.addPhases ?? []) {
      const source = requireFound(await this.templates.find(manager, who.agencyId, { templateId }), 'template');
      for (const id of phaseIds) {
        if (!source.phases.some((phase) => phase.id === id))
          throw new Refusal('unknown-id', `A phase to add is not in “${source.name}”.`, { field: 'addPhases' });
        if (grown.phases.some((phase) => phase.id === id))
          throw new Refusal('invalid-input', 'A phase to add is in it already. Leave it out of what is added.', { field: 'addPhases' });
      }
      if (behindPhaseId !== undefined && behindPhaseId !== null && !grown.phases.some((phase) => phase.id === behindPhaseId))
        throw new Refusal('unknown-id', 'Phases to add come behind one that is not there. Choose another.', { field: 'addPhases' });
      grown = composeTemplate(grown, source, { phaseIds, behindId: behindPhaseId, idOf: (id) => id });
    }
    const roles = await this.templates.roleNames(manager, who.agencyId);
    const tasks: TemplateTaskDocument[] = [...grown.tasks];
    const put = (field: 'addTasks' | 'addKept', phaseId: string, added: readonly TemplateTaskDocument[]): void => {
      if (!grown.phases.some((phase) => phase.id === phaseId))
        throw new Refusal('unknown-id', 'A task to add goes into a phase that is not there. Choose another.', { field });
      if (added.some((task) => tasks.some((other) => other.id === task.id)))
        throw new Refusal('invalid-input', 'A task to add is in it already. Leave it out of what is added.', { field });
      tasks.push(...added);
    };
    for (const { taskId, phaseId } of plan.addTasks ?? [])
      put('addTasks', phaseId, await readTask(manager, who, { taskId, phaseId, roles }));
    for (const { templateId, phaseId } of plan.addKept ?? []) {
      const kept = requireFound(await this.templates.find(manager, who.agencyId, { templateId }), 'template');
      if (kept.kind !== 'task')
        throw new Refusal('invalid-input', `“${kept.name}” is more than a task. Add its phases instead.`, { field: 'addKept' });
      put(
        'addKept',
        phaseId,
        kept.tasks.map((task) => ({ ...task, phaseId })),
      );
    }
    // Beside the others of their phase: the number of a task follows its place.
    const placeOf = new Map(grown.phases.map((phase, index) => [phase.id, index]));
    tasks.sort((left, right) => (placeOf.get(left.phaseId) ?? 0) - (placeOf.get(right.phaseId) ?? 0));
    return { ...grown, tasks };
  }
}

/** A task of an engagement with its subtasks, made relative again. */
async function readTask(
  manager: EntityManager,
  who: Who,
  { taskId, phaseId, roles }: { readonly taskId: string; readonly phaseId: string; readonly roles: ReadonlyMap<string, string> },
): Promise<TemplateTaskDocument[]> {
  const sql = 'SELECT engagement_id AS "engagementId" FROM task WHERE id = $1 AND agency_id = $2';
  const { engagementId } = requireFound(await firstRow<{ engagementId: string }>(manager, sql, [taskId, who.agencyId]), 'task');
  const origins = await originsOf(manager, engagementId);
  const { content } = templateFromPlan(cutTo(await readPlanned(manager, who, engagementId, taskId), { taskId }), 'planned');
  if (content.tasks.length === 0)
    throw new Refusal('empty-template', 'A task to add was dropped in its engagement, so there is nothing to add.', { field: 'addTasks' });
  const groups = new Set(content.tasks.map((task) => task.parentId));
  return content.tasks.map((task) => ({
    ...task,
    phaseId,
    role: task.roleId === null ? null : (roles.get(task.roleId) ?? null),
    originId: origins.get(task.id) ?? null,
    isGroup: groups.has(task.id),
  }));
}
