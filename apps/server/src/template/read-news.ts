import { Injectable } from '@nestjs/common';
import { diffTemplates, type TemplateContent, type TemplateDifference } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import { requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { engagementSeenBy } from '../platform/visible.ts';
import { readPlanFacts, type PlanFacts, type TaskFacts } from '../schedule/plan-facts.ts';
import type { PhaseHere, Shape } from './phase-shape.ts';
import { originsOf } from './read-source.ts';
import { TemplateRepository } from './template.repository.ts';

/** Everything that is weighed before a change of a template is brought into an engagement. */
export interface News {
  readonly templateId: string;
  readonly from: number;
  readonly to: number;
  readonly before: TemplateContent;
  readonly after: TemplateContent;
  readonly differences: readonly TemplateDifference[];
  readonly facts: PlanFacts;
  /** The engagement's tasks and phases by those of the template they were made from. */
  readonly taskOf: ReadonlyMap<string, TaskFacts>;
  readonly phaseOf: ReadonlyMap<string, string>;
  readonly shape: Shape;
}

/** The phases of engagement $1, and how much of each is its own: what was begun, added here, or taken from the library. */
export const PHASES_HERE = `
  SELECT p.id, p.name, p.template_phase_id AS "originId", p.state, p.after_phase_id AS "afterPhaseId", p.after_edge AS "afterEdge", p.after_lag AS "afterLag",
    (SELECT h.state FROM handoff h WHERE h.to_phase_id = p.id) AS joint,
    (SELECT count(*)::int FROM task t WHERE t.phase_id = p.id
      AND (t.template_task_id IS NULL OR t.logged_minutes > 0 OR t.real_start IS NOT NULL OR EXISTS (
        SELECT 1 FROM template_task k JOIN template_phase q ON q.id = k.phase_id JOIN engagement e ON e.id = p.engagement_id
        WHERE k.id = t.template_task_id AND q.template_id IS DISTINCT FROM e.template_id))) AS "ownTasks"
  FROM phase p WHERE p.engagement_id = $1 ORDER BY p.position`;

/** Reads what is new in the template of an engagement. */
@Injectable()
export class ReadNews {
  private readonly templates: TemplateRepository;
  constructor(templates: TemplateRepository) {
    this.templates = templates;
  }

  /** Null when the engagement is of no template, or of its newest version. */
  async run(manager: EntityManager, who: Who, engagementId: string): Promise<News | null> {
    const seen = engagementSeenBy(who, 2);
    const origin = requireFound(
      await firstRow<{ readonly templateId: string | null; readonly version: number | null }>(
        manager,
        `SELECT e.template_id AS "templateId", e.template_version AS version FROM engagement e WHERE e.id = $1 AND ${seen.sql}`,
        [engagementId, ...seen.values],
      ),
      'engagement',
    );
    if (origin.templateId === null || origin.version === null) return null;
    const { templateId, version } = origin;
    const template = await this.templates.facts(manager, who.agencyId, templateId);
    if (template === null || template.version <= version) return null;
    const read = (which: number) => this.templates.content(manager, who.agencyId, { templateId, which });
    const [before, after] = [await read(version), await read(template.version)];
    if (before === null || after === null) return null;
    const facts = await readPlanFacts(manager, engagementId);
    const origins = await originsOf(manager, engagementId);
    const byOrigin = <Part extends { readonly id: string }>(parts: readonly Part[]): [string, Part][] =>
      parts.flatMap((part): [string, Part][] => {
        const from = origins.get(part.id) ?? null;
        return from === null ? [] : [[from, part]];
      });
    return {
      ...{ templateId, from: version, to: template.version, before, after, facts },
      differences: diffTemplates(before, after),
      taskOf: new Map(byOrigin(facts.tasks)),
      phaseOf: new Map(byOrigin(facts.phases).map(([from, phase]) => [from, phase.id])),
      shape: { here: await rowsOf<PhaseHere>(manager, PHASES_HERE, [engagementId]), after },
    };
  }
}
