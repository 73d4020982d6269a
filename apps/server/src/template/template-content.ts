import type { TemplateContent } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { templateFilesOf } from '../file/keep-files.ts';
import { firstRow, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';

/** The working copy of a template as one document: template $1 of agency $2. */
const CONTENT = `
  SELECT t.name, t.description,
    coalesce((SELECT json_agg(json_build_object('id', p.id, 'name', p.name, 'roleId', p.role_id, 'stateLine', p.state_line, 'rounds', p.rounds,
        'afterPhaseId', p.after_phase_id, 'afterEdge', p.after_edge, 'afterLag', p.after_lag,
        'checks', coalesce((SELECT json_agg(json_strip_nulls(json_build_object('kind', c.kind, 'text', c.text, 'wants', CASE WHEN c.wants <> '{}' THEN to_json(c.wants) END)) ORDER BY c.position)
          FROM template_check c WHERE c.phase_id = p.id), '[]'), 'sourceTemplateId', p.source_template_id) ORDER BY p.position)
      FROM template_phase p WHERE p.template_id = t.id), '[]') AS phases,
    coalesce((SELECT json_agg(json_build_object('id', k.id, 'phaseId', k.phase_id, 'parentId', k.parent_id, 'title', k.title,
        'description', k.description, 'kind', k.kind, 'roleId', k.role_id, 'personId', k.person_id, 'helperRoleIds', k.helper_role_ids,
        'helperPersonIds', k.helper_person_ids,
        'estimateMinutes', k.estimate_minutes, 'days', k.days, 'anchor', json_build_object('at', k.anchor_at, 'offset', k.anchor_offset),
        'after', coalesce((SELECT json_agg(json_build_object('taskId', l.predecessor_id, 'type', l.type, 'lag', l.lag) ORDER BY o.position, o.id)
          FROM template_dependency l JOIN template_task o ON o.id = l.predecessor_id WHERE l.successor_id = k.id), '[]'),
        'steps', coalesce((SELECT json_agg(s.title ORDER BY s.position) FROM template_step s WHERE s.task_id = k.id), '[]'),
        'priority', k.priority, 'labels', k.labels, 'deliverable', k.deliverable, 'pageLinks', k.page_links, 'files', ${templateFilesOf('template_task_file', 'k')},
        'customFields', k.custom_fields, 'outside', k.outside,
        'isShownToClient', k.is_shown_to_client, 'isChargeable', k.is_chargeable, 'sourceTemplateId', k.source_template_id) ORDER BY k.position, k.id)
      FROM template_task k JOIN template_phase p ON p.id = k.phase_id WHERE p.template_id = t.id), '[]') AS tasks,
    coalesce((SELECT json_agg(json_build_object('id', w.id, 'fromId', w.from_id, 'toId', w.to_id, 'ending', w.ending, 'reason', w.reason)
        ORDER BY w.position) FROM template_way w WHERE w.template_id = t.id), '[]') AS ways
  FROM template t WHERE t.id = $1 AND t.agency_id = $2`;

/** The working copy of a template, or null when the agency has no such template. */
export async function readContent(manager: EntityManager, agencyId: string, templateId: string): Promise<TemplateContent | null> {
  const content = await firstRow<TemplateContent>(manager, CONTENT, [templateId, agencyId]);
  return content === null ? null : { ...content, phases: content.phases.map(withSource), tasks: content.tasks.map(withSource) };
}

/** A part that was not taken from the library says nothing of it. */
function withSource<Part extends { readonly sourceTemplateId?: string | null }>(part: Part): Part & { readonly sourceTemplateId?: string } {
  const { sourceTemplateId, ...rest } = part;
  return (sourceTemplateId === null ? rest : part) as Part & { readonly sourceTemplateId?: string };
}

/** A version of a template as it was kept, or null when there is none. */
export async function readVersion(
  manager: EntityManager,
  agencyId: string,
  { templateId, version }: { readonly templateId: string; readonly version: number },
): Promise<TemplateContent | null> {
  const row = await firstRow<{ content: TemplateContent }>(
    manager,
    'SELECT v.content FROM template_version v JOIN template t ON t.id = v.template_id WHERE v.template_id = $1 AND t.agency_id = $2 AND v.version = $3',
    [templateId, agencyId, version],
  );
  return row?.content ?? null;
}

const WRITES: readonly (readonly [keyof TemplateContent | 'checks' | 'steps' | 'dependencies' | 'files', string])[] = [
  [
    'phases',
    `INSERT INTO template_phase (id, template_id, position, name, role_id, state_line, after_phase_id, after_edge, after_lag, rounds, source_template_id)
     SELECT (v->>'id')::uuid, $1, place - 1, trim(v->>'name'), (v->>'roleId')::uuid, trim(v->>'stateLine'), (v->>'afterPhaseId')::uuid,
       v->>'afterEdge', (v->>'afterLag')::int, (v->>'rounds')::int, (v->>'sourceTemplateId')::uuid FROM jsonb_array_elements($2::jsonb) WITH ORDINALITY AS e(v, place)`,
  ],
  [
    'checks',
    `INSERT INTO template_check (phase_id, position, kind, text, wants)
     SELECT (p->>'id')::uuid, place - 1, c->>'kind', c->>'text', ARRAY(SELECT jsonb_array_elements_text(coalesce(c->'wants', '[]')))
     FROM jsonb_array_elements($2::jsonb) AS p, jsonb_array_elements(p->'checks') WITH ORDINALITY AS e(c, place) WHERE $1::uuid IS NOT NULL`,
  ],
  [
    'tasks',
    `INSERT INTO template_task (id, phase_id, position, parent_id, title, description, kind, role_id, person_id, helper_role_ids, helper_person_ids, estimate_minutes, days,
       anchor_at, anchor_offset, priority, labels, deliverable, page_links, custom_fields, outside, is_shown_to_client, is_chargeable, source_template_id)
     SELECT (v->>'id')::uuid, (v->>'phaseId')::uuid, place - 1, (v->>'parentId')::uuid, trim(v->>'title'), v->>'description', v->>'kind',
       (v->>'roleId')::uuid, (v->>'personId')::uuid, ARRAY(SELECT jsonb_array_elements_text(v->'helperRoleIds'))::uuid[],
       ARRAY(SELECT jsonb_array_elements_text(v->'helperPersonIds'))::uuid[],
       (v->>'estimateMinutes')::int, (v->>'days')::int, v->'anchor'->>'at', (v->'anchor'->>'offset')::int, v->>'priority',
       ARRAY(SELECT jsonb_array_elements_text(v->'labels')), v->>'deliverable', v->'pageLinks', v->'customFields', nullif(v->'outside', 'null'::jsonb),
       (v->>'isShownToClient')::boolean, (v->>'isChargeable')::boolean, (v->>'sourceTemplateId')::uuid
     FROM jsonb_array_elements($2::jsonb) WITH ORDINALITY AS e(v, place) WHERE $1::uuid IS NOT NULL`,
  ],
  [
    'steps',
    `INSERT INTO template_step (task_id, position, title)
     SELECT (t->>'id')::uuid, place - 1, s FROM jsonb_array_elements($2::jsonb) AS t, jsonb_array_elements_text(t->'steps') WITH ORDINALITY AS e(s, place)
     WHERE $1::uuid IS NOT NULL`,
  ],
  [
    'files',
    `INSERT INTO template_task_file (task_id, file_id, position)
     SELECT (t->>'id')::uuid, (f->>'fileId')::uuid, place - 1
     FROM jsonb_array_elements($2::jsonb) AS t, jsonb_array_elements(t->'files') WITH ORDINALITY AS e(f, place) WHERE $1::uuid IS NOT NULL`,
  ],
  [
    'dependencies',
    `INSERT INTO template_dependency (successor_id, predecessor_id, type, lag)
     SELECT (t->>'id')::uuid, (l->>'taskId')::uuid, l->>'type', (l->>'lag')::int
     FROM jsonb_array_elements($2::jsonb) AS t, jsonb_array_elements(t->'after') AS l WHERE $1::uuid IS NOT NULL`,
  ],
  [
    'ways',
    `INSERT INTO template_way (id, template_id, position, from_id, to_id, ending, reason)
     SELECT (v->>'id')::uuid, $1, place - 1, (v->>'fromId')::uuid, (v->>'toId')::uuid, v->>'ending', trim(v->>'reason')
     FROM jsonb_array_elements($2::jsonb) WITH ORDINALITY AS e(v, place)`,
  ],
];

/**
 * Puts a content in the place of the working copy, whole. Parts keep their ids, so that tasks
 * made from them are known over all versions. The caller has checked the content.
 */
export async function writeContent(manager: EntityManager, templateId: string, content: TemplateContent): Promise<void> {
  await rowsOf(manager, 'DELETE FROM template_phase WHERE template_id = $1', [templateId]);
  await refuseForeignIds(manager, content);
  await rowsOf(manager, 'UPDATE template SET name = $2, description = $3 WHERE id = $1', [
    templateId,
    content.name.trim(),
    content.description,
  ]);
  const lists = { ...content, checks: content.phases, steps: content.tasks, files: content.tasks, dependencies: content.tasks };
  for (const [part, sql] of WRITES) await rowsOf(manager, sql, [templateId, JSON.stringify(lists[part])]);
}

/** What was deleted a moment ago is free again; any other id that is taken belongs to another template. */
async function refuseForeignIds(manager: EntityManager, { phases, tasks, ways }: TemplateContent): Promise<void> {
  const taken = await firstRow(
    manager,
    `SELECT 1 FROM template_phase WHERE id = ANY($1) UNION ALL SELECT 1 FROM template_task WHERE id = ANY($2)
     UNION ALL SELECT 1 FROM template_way WHERE id = ANY($3) LIMIT 1`,
    [phases, tasks, ways].map((parts) => parts.map((part) => part.id)),
  );
  if (taken !== null)
    throw new Refusal('unknown-id', 'A part has the id of a part of another template. Give copies ids of their own.', { field: 'content' });
}
