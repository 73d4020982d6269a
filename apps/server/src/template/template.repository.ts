import { Injectable } from '@nestjs/common';
import type { AnchorAt, CheckKind, Priority, TaskKind, TemplateKind, TemplateSummary } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';

/** A template with everything in it, as one document. */
export interface TemplateDocument {
  readonly id: string;
  readonly kind: TemplateKind;
  readonly name: string;
  readonly description: string;
  readonly version: number;
  readonly usedTimes: number;
  readonly phases: readonly TemplatePhaseDocument[];
  readonly tasks: readonly TemplateTaskDocument[];
}

export interface TemplatePhaseDocument {
  readonly id: string;
  readonly name: string;
  readonly roleId: string | null;
  readonly role: string | null;
  readonly stateLine: string;
  readonly rounds: number | null;
  readonly afterPhaseId: string | null;
  readonly afterEdge: 'finish' | 'start';
  readonly afterLag: number;
  readonly checks: readonly { readonly kind: CheckKind; readonly text: string }[];
}

export interface TemplateTaskDocument {
  readonly id: string;
  readonly phaseId: string;
  readonly title: string;
  readonly description: string;
  readonly kind: TaskKind;
  readonly roleId: string | null;
  readonly role: string | null;
  readonly estimateMinutes: number | null;
  readonly days: number;
  readonly anchorAt: AnchorAt;
  readonly anchorOffset: number;
  readonly priority: Priority;
  readonly isShownToClient: boolean;
  readonly isChargeable: boolean;
  readonly steps: readonly string[];
  readonly after: readonly { readonly taskId: string; readonly type: 'FS' | 'SS' | 'FF' | 'SF'; readonly lag: number }[];
}

const DOCUMENT = `
  SELECT t.id, t.kind, t.name, t.description, t.version,
    (SELECT count(*)::int FROM engagement e WHERE e.template_id = t.id) AS "usedTimes",
    coalesce((SELECT json_agg(json_build_object('id', p.id, 'name', p.name, 'roleId', p.role_id, 'role', r.name, 'stateLine', p.state_line,
        'rounds', p.rounds, 'afterPhaseId', p.after_phase_id, 'afterEdge', p.after_edge, 'afterLag', p.after_lag,
        'checks', coalesce((SELECT json_agg(json_build_object('kind', c.kind, 'text', c.text) ORDER BY c.position)
          FROM template_check c WHERE c.phase_id = p.id), '[]')) ORDER BY p.position)
      FROM template_phase p LEFT JOIN role r ON r.id = p.role_id WHERE p.template_id = t.id), '[]') AS phases,
    coalesce((SELECT json_agg(json_build_object('id', k.id, 'phaseId', k.phase_id, 'title', k.title, 'description', k.description, 'kind', k.kind,
        'roleId', k.role_id, 'role', r.name, 'estimateMinutes', k.estimate_minutes, 'days', k.days, 'anchorAt', k.anchor_at,
        'anchorOffset', k.anchor_offset, 'priority', k.priority, 'isShownToClient', k.is_shown_to_client, 'isChargeable', k.is_chargeable,
        'steps', coalesce((SELECT json_agg(s.title ORDER BY s.position) FROM template_step s WHERE s.task_id = k.id), '[]'),
        'after', coalesce((SELECT json_agg(json_build_object('taskId', l.predecessor_id, 'type', l.type, 'lag', l.lag))
          FROM template_link l WHERE l.successor_id = k.id), '[]')) ORDER BY p.position, k.position)
      FROM template_task k JOIN template_phase p ON p.id = k.phase_id LEFT JOIN role r ON r.id = k.role_id
      WHERE p.template_id = t.id), '[]') AS tasks
  FROM template t WHERE t.id = $1 AND t.agency_id = $2`;

const SUMMARIES = `
  SELECT t.id, t.kind, t.name, t.description, t.version,
    (SELECT count(*)::int FROM engagement e WHERE e.template_id = t.id) AS "usedTimes",
    coalesce((SELECT json_agg(json_build_object('name', p.name, 'tasks', p.tasks, 'days', p.days) ORDER BY p.position)
      FROM (SELECT p.position, p.name, count(k.id)::int AS tasks, coalesce(sum(k.days), 0)::int AS days
            FROM template_phase p LEFT JOIN template_task k ON k.phase_id = p.id WHERE p.template_id = t.id GROUP BY p.id) p), '[]') AS phases,
    (SELECT count(*)::int FROM template_task k JOIN template_phase p ON p.id = k.phase_id WHERE p.template_id = t.id) AS "taskCount",
    (SELECT coalesce(sum(k.estimate_minutes), 0)::int FROM template_task k JOIN template_phase p ON p.id = k.phase_id
     WHERE p.template_id = t.id) AS "effortMinutes"
  FROM template t WHERE t.agency_id = $1
  ORDER BY array_position(ARRAY['engagement', 'phase', 'task'], t.kind), t.name`;

@Injectable()
export class TemplateRepository {
  /** One template as a document, or null when the agency has no such template. */
  find(manager: EntityManager, agencyId: string, templateId: string): Promise<TemplateDocument | null> {
    return firstRow<TemplateDocument>(manager, DOCUMENT, [templateId, agencyId]);
  }

  /** The library, engagement templates first. */
  list(manager: EntityManager, agencyId: string): Promise<TemplateSummary[]> {
    return rowsOf<TemplateSummary>(manager, SUMMARIES, [agencyId]);
  }
}
