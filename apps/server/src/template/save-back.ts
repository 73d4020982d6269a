import { calendarOf } from '../platform/sql-words.ts';
import { Injectable } from '@nestjs/common';
import { templateFromPlan, type PlannedEngagement, type PlannedPhase, type PlannedTask, type TemplateContent } from '@crew/core';
import type { SaveBack as Input, SavedBack } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { templateFilesOf } from '../file/keep-files.ts';
import { Database, firstRow } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { engagementSeenBy } from '../platform/visible.ts';
import { copyContent, KeepTemplate } from './keep-template.ts';

/** What repeats is planned once, however often it was done. */
const IS_FIRST = `NOT EXISTS (SELECT 1 FROM task x WHERE x.series_id = t.series_id AND x.series_day < t.series_day)`;

const ENGAGEMENT = `
  SELECT e.name, '' AS description,
    coalesce((SELECT json_agg(json_build_object('id', gen_random_uuid(), 'fromId', t.id, 'toId', w->>'toId', 'ending', w->>'ending', 'reason', w->>'reason') ORDER BY t.number)
      FROM task t CROSS JOIN LATERAL jsonb_array_elements(t.ways) w WHERE t.engagement_id = e.id), '[]') AS ways,
    coalesce((SELECT json_agg(json_build_object('id', f.id, 'name', f.name, 'kind', f.kind)) FROM custom_field f WHERE f.agency_id = e.agency_id), '[]') AS "customFields",
    (SELECT ${calendarOf('y')}
     FROM agency y WHERE y.id = e.agency_id) AS calendar,
    coalesce((SELECT json_agg(json_build_object('id', p.id, 'name', p.name, 'roleId', p.role_id, 'stateLine', p.state_line, 'rounds', p.rounds,
        'afterPhaseId', p.after_phase_id, 'afterEdge', p.after_edge, 'afterLag', p.after_lag, 'start', coalesce(p.started_on, p.planned_start),
        'checks', coalesce((SELECT json_agg(json_strip_nulls(json_build_object('kind', g.kind, 'text', g.text, 'wants', CASE WHEN g.wants <> '{}' THEN to_json(g.wants) END)) ORDER BY g.position) FROM gate_check g WHERE g.phase_id = p.id), '[]'))
        ORDER BY p.position) FROM phase p WHERE p.engagement_id = e.id), '[]') AS phases,
    coalesce((SELECT json_agg(json_build_object('id', t.id, 'phaseId', t.phase_id, 'parentId', t.parent_id, 'title', t.title, 'description', t.description,
        'kind', t.kind, 'roleId', t.role_id, 'estimateMinutes', t.estimate_minutes, 'days', t.days,
        'anchor', json_build_object('at', t.anchor_at, 'offset', t.anchor_offset),
        'after', coalesce((SELECT json_agg(json_build_object('taskId', l.predecessor_id, 'type', l.type, 'lag', l.lag)) FROM task_dependency l WHERE l.successor_id = t.id), '[]'),
        'steps', coalesce((SELECT json_agg(s.title ORDER BY s.position) FROM step s WHERE s.task_id = t.id), '[]'),
        'priority', t.priority, 'labels', t.labels, 'deliverable', d.name, 'pageLinks', t.page_links,
        'files', ${templateFilesOf('task_file', 't')}, 'customFields', t.custom_fields,
        'outside', CASE WHEN t.outside_maker IS NOT NULL THEN
          json_build_object('maker', t.outside_maker, 'turnaroundDays', t.outside_turnaround, 'bufferDays', t.outside_buffer) END,
        'isShownToClient', t.is_shown_to_client, 'isChargeable', t.is_chargeable, 'fixedDay', t.fixed_day, 'notBefore', t.not_before,
        'start', t.start_day, 'realStart', t.real_start, 'doneOn', t.done_on, 'loggedMinutes', t.logged_minutes, 'isDropped', t.status = 'dropped',
        'roleOfAssignee', (SELECT h.role_id FROM task_assignee a JOIN person_role h ON h.person_id = a.person_id
          WHERE a.task_id = t.id ORDER BY a.position, h.position LIMIT 1),
        'helperRoleIds', coalesce((SELECT json_agg(DISTINCT m.role_id) FROM task_assignee a JOIN person_role m ON m.person_id = a.person_id AND m.position = 0
          WHERE a.task_id = t.id AND a.position > 0), '[]')) ORDER BY t.position, t.number)
      FROM task t LEFT JOIN deliverable d ON d.id = t.deliverable_id WHERE t.engagement_id = e.id AND (t.id = $2 OR ${IS_FIRST})), '[]') AS tasks
  FROM engagement e WHERE e.id = $1`;

/** Turns an engagement, one of its phases or one of its tasks into a template. */
@Injectable()
export class SaveBack {
  private readonly database: Database;
  private readonly keeping: KeepTemplate;
  constructor(database: Database, keeping: KeepTemplate) {
    this.database = database;
    this.keeping = keeping;
  }

  run(who: Who, engagementId: string, input: Input): Promise<SavedBack> {
    return this.database.transaction(async (manager) => {
      const plan = cutTo(await readPlanned(manager, who, engagementId, input.taskId), input);
      const { content, notes } = templateFromPlan(plan, input.measure);
      if (content.tasks.length === 0)
        throw new Refusal('empty-template', 'There is no task in it that was not dropped, so there is nothing to save.', {
          field: 'phaseId',
        });
      const kind = input.taskId !== undefined ? 'task' : input.phaseId !== undefined ? 'phase' : 'engagement';
      const id = await this.keeping.write(manager, who, {
        kind,
        content: copyContent({ ...content, name: input.name.trim() }),
        note: `from “${plan.name}”`,
      });
      return { id, notes };
    });
  }
}

/** A plan as a template is made of it; refuses what is not the agency's. */
export async function readPlanned(manager: EntityManager, who: Who, engagementId: string, taskId?: string): Promise<PlannedEngagement> {
  const seen = engagementSeenBy(who, 3);
  return requireFound(
    await firstRow<PlannedEngagement>(manager, `${ENGAGEMENT} AND ${seen.sql}`, [engagementId, taskId ?? null, ...seen.values]),
    'engagement',
  );
}

/** All of it, one phase, or one task with its parts. */
export function cutTo(plan: PlannedEngagement, { phaseId, taskId }: Pick<Input, 'phaseId' | 'taskId'>): PlannedEngagement {
  if (taskId === undefined && phaseId === undefined) return plan;
  const task = plan.tasks.find((candidate) => candidate.id === taskId);
  const phase = plan.phases.find((candidate) => candidate.id === (task?.phaseId ?? phaseId));
  const isElsewhere = phaseId !== undefined && !plan.phases.some(({ id }) => id === phaseId);
  if (phase === undefined || isElsewhere || (taskId !== undefined && task === undefined))
    throw new Refusal('unknown-id', 'This part is not in the engagement. Choose one of its own.', {
      field: taskId === undefined ? 'phaseId' : 'taskId',
    });
  const alone: PlannedPhase = { ...phase, afterPhaseId: null, afterLag: 0 };
  if (task === undefined)
    return only(
      plan,
      [alone],
      plan.tasks.filter((other) => other.phaseId === phase.id),
    );
  const parts = new Set([task.id]);
  for (let size = 0; size < parts.size;) {
    size = parts.size;
    for (const other of plan.tasks) if (other.parentId !== null && parts.has(other.parentId)) parts.add(other.id);
  }
  const tasks = plan.tasks
    .filter((other) => parts.has(other.id))
    .map((other) => (other.id === task.id ? { ...other, parentId: null } : other));
  return only(plan, [{ ...alone, name: task.title, checks: [] }], tasks);
}

/** Part of a plan; dependencies that lead out of it are gone. */
function only(plan: PlannedEngagement, phases: readonly PlannedPhase[], tasks: readonly PlannedTask[]): PlannedEngagement {
  const ids = new Set(tasks.map((task) => task.id));
  const within = tasks.map((task) => ({
    ...task,
    after: task.after.filter((dependency: TemplateContent['tasks'][number]['after'][number]) => ids.has(dependency.taskId)),
  }));
  return { ...plan, phases, tasks: within };
}
