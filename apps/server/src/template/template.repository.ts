import { CLIENT } from '../platform/sql-words.ts';
import { Injectable } from '@nestjs/common';
import type { TemplateContent, TemplatePhase, TemplateTask } from '@crew/core';
import type { TemplateKind, TemplateSummary, TemplateUses, TemplateVersionLine } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import { readContent, readVersion } from './template-content.ts';

/** What is known of a template beside its content. */
export interface TemplateFacts {
  readonly id: string;
  readonly kind: TemplateKind;
  readonly version: number;
  readonly revision: number;
  readonly isChanged: boolean;
  readonly isArchived: boolean;
  readonly usedTimes: number;
}

/** A template with everything in it and the names of its roles, as one document. */
export interface TemplateDocument extends TemplateFacts, Pick<TemplateContent, 'name' | 'description' | 'ways'> {
  readonly phases: readonly TemplatePhaseDocument[];
  readonly tasks: readonly TemplateTaskDocument[];
}

/** A part of a document, with the part of a template it counts as made from; null when that is none. */
interface Documented {
  readonly role: string | null;
  readonly originId: string | null;
}

export interface TemplatePhaseDocument extends TemplatePhase, Documented {}

export interface TemplateTaskDocument extends TemplateTask, Documented {
  /** Whether it has subtasks: then they decide its days and effort. */
  readonly isGroup: boolean;
}

/** Engagements that have tasks of the template in hand, whatever they began from; and templates that took it or a task of it. */
const HAVE_ITS_TASKS = `SELECT DISTINCT x.engagement_id FROM task x JOIN template_task k ON k.id = x.template_task_id
  JOIN template_phase q ON q.id = k.phase_id WHERE q.template_id = t.id`;
const TOOK_IT = `SELECT q.template_id FROM template_phase q WHERE q.source_template_id = t.id
  UNION SELECT q.template_id FROM template_task k JOIN template_phase q ON q.id = k.phase_id WHERE k.source_template_id = t.id`;
const USED_TIMES = `CASE t.kind WHEN 'engagement' THEN (SELECT count(*)::int FROM engagement e WHERE e.template_id = t.id)
  ELSE (SELECT count(*)::int FROM (${HAVE_ITS_TASKS}) h) + (SELECT count(*)::int FROM (${TOOK_IT}) o) END`;

const FACTS = `
  SELECT t.id, t.kind, t.version, t.revision, t.is_changed AS "isChanged", t.is_archived AS "isArchived",
    ${USED_TIMES} AS "usedTimes"
  FROM template t WHERE t.id = $1 AND t.agency_id = $2`;

const SUMMARIES = `
  SELECT t.id, t.kind, t.name, t.description, t.version, t.is_changed AS "isChanged", t.is_archived AS "isArchived",
    ${USED_TIMES} AS "usedTimes",
    (SELECT max(e.created_at) FROM engagement e WHERE e.template_id = t.id) AS "lastUsed",
    coalesce((SELECT json_agg(json_build_object('name', p.name, 'tasks', p.tasks, 'days', p.days) ORDER BY p.position)
      FROM (SELECT p.position, p.name, count(k.id)::int AS tasks, coalesce(sum(k.days), 0)::int AS days
            FROM template_phase p LEFT JOIN template_task k ON k.phase_id = p.id WHERE p.template_id = t.id GROUP BY p.id) p), '[]') AS phases,
    (SELECT count(*)::int FROM template_task k JOIN template_phase p ON p.id = k.phase_id WHERE p.template_id = t.id) AS "taskCount",
    (SELECT coalesce(sum(k.estimate_minutes), 0)::int FROM template_task k JOIN template_phase p ON p.id = k.phase_id
     WHERE p.template_id = t.id AND NOT EXISTS (SELECT 1 FROM template_task c WHERE c.parent_id = k.id)) AS "effortMinutes",
    (SELECT coalesce(string_agg(k.title, ' '), '') FROM template_task k JOIN template_phase p ON p.id = k.phase_id WHERE p.template_id = t.id) AS words
  FROM template t WHERE t.agency_id = $1
  ORDER BY array_position(ARRAY['engagement', 'phase', 'task'], t.kind), t.name`;

/** Which content of a template: a version, the newest one, or the working copy. */
export type Which = number | 'newest' | 'working';

@Injectable()
export class TemplateRepository {
  /** What is known of a template, or null when the agency has none with this id. */
  facts(manager: EntityManager, agencyId: string, templateId: string): Promise<TemplateFacts | null> {
    return firstRow<TemplateFacts>(manager, FACTS, [templateId, agencyId]);
  }

  /** The content of a template, or null. */
  async content(
    manager: EntityManager,
    agencyId: string,
    what: { readonly templateId: string; readonly which: Which },
  ): Promise<TemplateContent | null> {
    const { templateId, which } = what;
    if (which === 'working') return readContent(manager, agencyId, templateId);
    if (which !== 'newest') return readVersion(manager, agencyId, { templateId, version: which });
    const facts = await this.facts(manager, agencyId, templateId);
    return facts === null ? null : readVersion(manager, agencyId, { templateId, version: facts.version });
  }

  /** One template as a document, the newest version unless another is asked for; null when there is none. */
  async find(
    manager: EntityManager,
    agencyId: string,
    what: { readonly templateId: string; readonly which?: Which },
  ): Promise<TemplateDocument | null> {
    const facts = await this.facts(manager, agencyId, what.templateId);
    const content = facts === null ? null : await this.content(manager, agencyId, { which: 'newest', ...what });
    if (facts === null || content === null) return null;
    const origins = new Map([...content.phases, ...content.tasks].map((part) => [part.id, part.id]));
    return documentOf(content, { facts, roles: await this.roleNames(manager, agencyId), origins });
  }

  async roleNames(manager: EntityManager, agencyId: string): Promise<ReadonlyMap<string, string>> {
    const rows = await rowsOf<{ id: string; name: string }>(manager, 'SELECT id, name FROM role WHERE agency_id = $1', [agencyId]);
    return new Map(rows.map((row) => [row.id, row.name]));
  }

  /** The library, engagement templates first. */
  list(manager: EntityManager, agencyId: string): Promise<TemplateSummary[]> {
    return rowsOf<TemplateSummary>(manager, SUMMARIES, [agencyId]);
  }

  /** The versions of a template, the newest first, with how many engagements began from each. */
  versions(manager: EntityManager, agencyId: string, templateId: string): Promise<TemplateVersionLine[]> {
    return rowsOf<TemplateVersionLine>(
      manager,
      `SELECT v.version, v.note, v.made_at AS "madeAt", p.name AS "madeBy",
         (SELECT count(*)::int FROM engagement e WHERE e.template_id = v.template_id AND e.template_version = v.version) AS "usedTimes"
       FROM template_version v JOIN template t ON t.id = v.template_id LEFT JOIN account a ON a.id = v.made_by_id LEFT JOIN person p ON p.id = a.person_id
       WHERE v.template_id = $1 AND t.agency_id = $2 ORDER BY v.version DESC`,
      [templateId, agencyId],
    );
  }

  /** Where a template is used: in engagements that began from it or took parts of it, running ones first, and in other templates. */
  async uses(manager: EntityManager, agencyId: string, templateId: string): Promise<TemplateUses> {
    const engagements = await rowsOf<TemplateUses['engagements'][number]>(
      manager,
      `SELECT e.id, e.name, e.state, CASE WHEN e.template_id = t.id THEN e.template_version END AS version, e.start_day AS start,
         ${CLIENT} AS client
       FROM template t JOIN engagement e ON e.template_id = t.id OR e.id IN (${HAVE_ITS_TASKS}) JOIN client c ON c.id = e.client_id
       WHERE t.id = $1 AND t.agency_id = $2 ORDER BY e.state IN ('proposal', 'open') DESC, e.start_day DESC LIMIT 100`,
      [templateId, agencyId],
    );
    const templates = await rowsOf<TemplateUses['templates'][number]>(
      manager,
      `SELECT o.id, o.name, o.kind FROM template t JOIN template o ON o.id IN (${TOOK_IT})
       WHERE t.id = $1 AND t.agency_id = $2 AND NOT o.is_archived ORDER BY o.name`,
      [templateId, agencyId],
    );
    return { engagements, templates };
  }
}

/** A content as a document: with the names of its roles and where its parts come from. */
export function documentOf(
  content: TemplateContent,
  known: {
    readonly facts: TemplateFacts;
    readonly roles: ReadonlyMap<string, string>;
    readonly origins: ReadonlyMap<string, string | null>;
  },
): TemplateDocument {
  const groups = new Set(content.tasks.map((task) => task.parentId));
  const documented = ({ id, roleId }: { readonly id: string; readonly roleId: string | null }): Documented => ({
    role: roleId === null ? null : (known.roles.get(roleId) ?? null),
    originId: known.origins.get(id) ?? null,
  });
  return {
    ...known.facts,
    ...content,
    phases: content.phases.map((phase) => ({ ...phase, ...documented(phase) })),
    tasks: inOrder(content).map((task) => ({ ...task, ...documented(task), isGroup: groups.has(task.id) })),
  };
}

/** Tasks phase by phase, parts right behind what they are parts of. */
function inOrder({ phases, tasks }: Pick<TemplateContent, 'phases' | 'tasks'>): TemplateTask[] {
  const below = (phaseId: string, parentId: string | null): TemplateTask[] =>
    tasks.filter((task) => task.phaseId === phaseId && task.parentId === parentId).flatMap((task) => [task, ...below(phaseId, task.id)]);
  return phases.flatMap((phase) => below(phase.id, null));
}
