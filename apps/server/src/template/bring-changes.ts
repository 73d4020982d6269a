import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { diffTemplates, mergeLists, type TemplateContent, type TemplateDifference, type TemplateTask } from '@crew/core';
import type { PlanChanged, TaskChange, TemplateNews, TemplateNewsLine, TemplateTaskInput } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { recordEvent } from '../event/record-event.ts';
import { templateFilesOf } from '../file/keep-files.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { engagementSeenBy } from '../platform/visible.ts';
import { ChangePlan } from '../replan/change-plan.ts';
import { readPlanFacts, type PlanFacts, type TaskFacts } from '../schedule/plan-facts.ts';
import { CompareVersions } from './compare-versions.ts';
import { TemplateRepository } from './template.repository.ts';

const LISTS = `SELECT t.links, t.own_fields AS "ownFields", ${templateFilesOf('task_file', 't')} AS files FROM task t WHERE t.id = $1`;

interface Origin {
  readonly templateId: string | null;
  readonly version: number | null;
}

/** Everything that is weighed before something is brought in. */
interface News {
  readonly templateId: string;
  readonly from: number;
  readonly to: number;
  readonly before: TemplateContent;
  readonly after: TemplateContent;
  readonly differences: readonly TemplateDifference[];
  readonly facts: PlanFacts;
  readonly taskOf: ReadonlyMap<string, TaskFacts>;
  readonly phaseOf: ReadonlyMap<string, string>;
}

/** Brings chosen changes of a template into an engagement that began from an older version of it. */
@Injectable()
export class BringChanges {
  private readonly database: Database;
  private readonly templates: TemplateRepository;
  private readonly comparing: CompareVersions;
  private readonly plans: ChangePlan;
  private readonly clock: Clock;
  constructor(database: Database, templates: TemplateRepository, comparing: CompareVersions, plans: ChangePlan, clock: Clock) {
    this.database = database;
    this.templates = templates;
    this.comparing = comparing;
    this.plans = plans;
    this.clock = clock;
  }

  /** What is new in the template since the engagement began, and which of it can be brought in. */
  async read(who: Who, engagementId: string): Promise<TemplateNews> {
    const { manager } = this.database;
    const news = await this.news(manager, who, engagementId);
    if (news === null) return { from: null, to: null, lines: [] };
    const lines = await this.comparing.describe(manager, who, news);
    return {
      from: news.from,
      to: news.to,
      lines: lines.map((line, place): TemplateNewsLine => ({
        ...line,
        hindrance: hindranceOf(news.differences[place] as TemplateDifference, news),
      })),
    };
  }

  /** Brings in the chosen ones, all or none; from then on the engagement counts as being of the newest version. */
  run(who: Who, engagementId: string, ids: readonly string[]): Promise<PlanChanged> {
    return this.database.transaction(async (manager) => {
      const news = requireFound(await this.news(manager, who, engagementId), 'newer version');
      const chosen = news.differences.filter((difference) => ids.includes(difference.id));
      if (chosen.length < new Set(ids).size)
        throw new Refusal('unknown-id', 'A change is not in the newest version any more. Read them again.', { field: 'ids' });
      for (const difference of chosen) {
        const hindrance = hindranceOf(difference, news);
        if (hindrance !== null)
          throw new Refusal('wrong-moment', `“${difference.name}” cannot be brought in: ${hindrance}.`, { field: 'ids' });
      }
      const bringing = new Bringing(manager, who, { news, chosen, at: this.clock.now() });
      const changed = await this.plans.apply(manager, who, { engagementId, tasks: [], prepare: () => bringing.prepare() });
      await rowsOf(manager, 'UPDATE engagement SET template_version = $2, version = version + 1 WHERE id = $1', [engagementId, news.to]);
      const changes = [{ field: 'templateVersion', from: news.from, to: news.to }];
      await recordEvent(
        manager,
        { who, at: this.clock.now() },
        { engagementId, subject: 'engagement', subjectId: engagementId, kind: 'template-brought', changes },
      );
      return changed;
    });
  }

  private async news(manager: EntityManager, who: Who, engagementId: string): Promise<News | null> {
    const seen = engagementSeenBy(who, 2);
    const origin = requireFound(
      await firstRow<Origin>(
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
    return {
      templateId,
      from: version,
      to: template.version,
      before,
      after,
      differences: diffTemplates(before, after),
      facts,
      ...(await originsOf(manager, facts)),
    };
  }
}

/** Which task and which phase of the engagement came from which of the template. */
async function originsOf(manager: EntityManager, facts: PlanFacts): Promise<Pick<News, 'taskOf' | 'phaseOf'>> {
  const byId = new Map(facts.tasks.map((task) => [task.id, task]));
  const tasks = await rowsOf<{ id: string; origin: string }>(
    manager,
    'SELECT id, template_task_id AS origin FROM task WHERE engagement_id = $1 AND template_task_id IS NOT NULL',
    [facts.engagementId],
  );
  const phases = await rowsOf<{ id: string; origin: string }>(
    manager,
    'SELECT id, template_phase_id AS origin FROM phase WHERE engagement_id = $1 AND template_phase_id IS NOT NULL',
    [facts.engagementId],
  );
  return {
    taskOf: new Map(tasks.flatMap(({ id, origin }) => (byId.has(id) ? [[origin, byId.get(id) as TaskFacts] as const] : []))),
    phaseOf: new Map(phases.map(({ id, origin }) => [origin, id])),
  };
}

/** Why a change cannot be brought in, or null when it can. */
function hindranceOf(difference: TemplateDifference, news: News): string | null {
  const { part, kind, id } = difference;
  if (part === 'way' || part === 'template') return 'it concerns only what is started from now on';
  if (part === 'phase') {
    if (kind !== 'changed' || id.startsWith('order of')) return 'phases come and go only in what is started from now on';
    return news.phaseOf.has(id) ? null : 'this phase was left out here';
  }
  if (kind === 'added') {
    const task = news.after.tasks.find((candidate) => candidate.id === id) as TemplateTask;
    const phase = news.facts.phases.find((candidate) => candidate.id === news.phaseOf.get(task.phaseId));
    if (phase === undefined) return 'its phase is not part of this engagement';
    return phase.state === 'over' ? `${phase.name} is over` : null;
  }
  const task = news.taskOf.get(id);
  if (task === undefined) return 'this task is not part of this engagement';
  if (task.status === 'done' || task.status === 'dropped') return 'it is over here';
  return kind === 'removed' && task.realStart !== null ? 'it is under way here' : null;
}

/** Writes what was chosen; the changes of tasks go on as a change of the plan. */
class Bringing {
  private readonly manager: EntityManager;
  private readonly who: Who;
  private readonly news: News;
  private readonly chosen: readonly TemplateDifference[];
  private readonly at: Date;
  /** Tasks of the engagement by the template's, new ones included. */
  private readonly idOf: Map<string, string>;

  constructor(
    manager: EntityManager,
    who: Who,
    what: { readonly news: News; readonly chosen: readonly TemplateDifference[]; readonly at: Date },
  ) {
    this.manager = manager;
    this.who = who;
    this.news = what.news;
    this.chosen = what.chosen;
    this.at = what.at;
    this.idOf = new Map([...what.news.taskOf].map(([origin, task]) => [origin, task.id]));
  }

  /** Phases and new tasks first; then what changes on tasks, to be taken with everything that follows. */
  async prepare(): Promise<TaskChange[]> {
    for (const difference of this.of('phase', 'changed')) await this.changePhase(difference.id);
    await this.addTasks(this.of('task', 'added').map((difference) => this.taskOf(difference.id)));
    const versions = await rowsOf<{ id: string; version: number }>(this.manager, 'SELECT id, version FROM task WHERE engagement_id = $1', [
      this.news.facts.engagementId,
    ]);
    const versionOf = new Map(versions.map((row) => [row.id, row.version]));
    const changes: TaskChange[] = [];
    for (const difference of [...this.of('task', 'added'), ...this.of('task', 'changed')]) {
      const id = this.idOf.get(difference.id) as string;
      changes.push({ id, version: versionOf.get(id) as number, ...(await this.changesOf(difference)) });
    }
    for (const difference of this.of('task', 'removed')) {
      const id = this.idOf.get(difference.id) as string;
      changes.push({ id, version: versionOf.get(id) as number, status: 'dropped' });
    }
    return changes;
  }

  private of(part: TemplateDifference['part'], kind: TemplateDifference['kind']): TemplateDifference[] {
    return this.chosen.filter((difference) => difference.part === part && difference.kind === kind);
  }

  private taskOf(id: string): TemplateTask {
    return this.news.after.tasks.find((task) => task.id === id) as TemplateTask;
  }

  private async changePhase(origin: string): Promise<void> {
    const phase = this.news.after.phases.find((candidate) => candidate.id === origin);
    const id = this.news.phaseOf.get(origin);
    if (phase === undefined || id === undefined) return;
    await rowsOf(this.manager, 'UPDATE phase SET name = $2, state_line = $3, role_id = $4, rounds = $5 WHERE id = $1', [
      id,
      phase.name,
      phase.stateLine,
      phase.roleId,
      phase.rounds,
    ]);
    const texts = phase.checks.map((check) => check.text);
    // A word that was given stays given, whatever the template says now.
    await rowsOf(this.manager, 'DELETE FROM gate_check WHERE phase_id = $1 AND given_at IS NULL AND text <> ALL($2)', [id, texts]);
    await rowsOf(
      this.manager,
      `INSERT INTO gate_check (phase_id, position, kind, text)
       SELECT $1, v.position, v.kind, v.text FROM jsonb_to_recordset($2) AS v(position int, kind text, text text)
       WHERE NOT EXISTS (SELECT 1 FROM gate_check g WHERE g.phase_id = $1 AND g.text = v.text)`,
      [id, JSON.stringify(phase.checks.map((check, position) => ({ ...check, position })))],
    );
  }

  private async addTasks(tasks: readonly TemplateTask[]): Promise<void> {
    if (tasks.length === 0) return;
    for (const task of tasks) this.idOf.set(task.id, randomUUID());
    const { engagementId, startDay } = this.news.facts;
    const numbered = await firstRow<{ last: number }>(
      this.manager,
      'UPDATE engagement SET last_number = last_number + $2 WHERE id = $1 RETURNING last_number AS last',
      [engagementId, tasks.length],
    );
    const first = (numbered?.last ?? tasks.length) - tasks.length + 1;
    const rows = tasks.map((task, place) => ({
      id: this.idOf.get(task.id),
      phase_id: this.news.phaseOf.get(task.phaseId),
      parent_id: task.parentId === null ? null : (this.idOf.get(task.parentId) ?? null),
      template_task_id: task.id,
      number: first + place,
      title: task.title,
      kind: task.kind,
      role_id: task.roleId,
      days: task.days,
      anchor_at: task.anchor.at,
      anchor_offset: task.anchor.offset,
      is_chargeable: task.isChargeable,
    }));
    await rowsOf(
      this.manager,
      `INSERT INTO task (id, agency_id, engagement_id, phase_id, parent_id, template_task_id, number, position, title, kind, role_id, days, anchor_at,
         anchor_offset, is_chargeable, start_day, due_day, expected_day)
       SELECT v.id, $2, $3, v.phase_id, v.parent_id, v.template_task_id, v.number, 1000 + v.number, v.title, v.kind, v.role_id, v.days, v.anchor_at,
         v.anchor_offset, v.is_chargeable, $4, $4, $4
       FROM jsonb_to_recordset($1) AS v(id uuid, phase_id uuid, parent_id uuid, template_task_id uuid, number int, title text, kind text, role_id uuid,
         days int, anchor_at text, anchor_offset int, is_chargeable boolean)`,
      [JSON.stringify(rows), this.who.agencyId, engagementId, startDay],
    );
    await rowsOf(
      this.manager,
      `INSERT INTO task_assignee (task_id, person_id, position, assigned_at, assigned_by_id)
       SELECT t.id, r.person_id, 0, $2, $3 FROM task t JOIN engagement_role r ON r.engagement_id = t.engagement_id AND r.role_id = t.role_id
       WHERE t.id = ANY($1)`,
      [rows.map((row) => row.id), this.at, this.who.personId],
    );
  }

  /** The fields of a task that differ, as an edit of the engagement's task; new steps are added, none is taken away. */
  private async changesOf({ id, kind, fields }: TemplateDifference): Promise<Omit<TaskChange, 'id' | 'version'>> {
    const task = this.taskOf(id) as TemplateTask & TemplateTaskInput;
    const differs = (field: keyof TemplateTask): boolean => kind === 'added' || fields.some((other) => other.field === field);
    if (differs('steps')) await this.addSteps(this.idOf.get(id) as string, task.steps);
    const lists = ['links', 'files', 'ownFields'].some((field) => differs(field as keyof TemplateTask)) ? await this.listsOf(task) : {};
    return {
      ...(differs('title') ? { title: task.title } : {}),
      ...(differs('description') ? { description: task.description } : {}),
      ...(differs('days') ? { days: task.days } : {}),
      ...(differs('estimateMinutes') ? { estimateMinutes: task.estimateMinutes } : {}),
      ...(differs('priority') ? { priority: task.priority } : {}),
      ...(differs('labels') ? { labels: [...task.labels] } : {}),
      ...(differs('isShownToClient') ? { isShownToClient: task.isShownToClient } : {}),
      ...(differs('outside') ? { outside: task.outside === null ? null : { ...task.outside, state: 'to-brief' as const } } : {}),
      ...(differs('after') ? { after: this.tiesOf(task) } : {}),
      ...lists,
    };
  }

  /** Links, files and own fields: what was done with them here weighs more than what the template says. */
  private async listsOf(task: TemplateTask): Promise<Pick<TaskChange, 'links' | 'fileIds' | 'ownFields'>> {
    const before = this.news.before.tasks.find((other) => other.id === task.id);
    const here = (await firstRow<Pick<TemplateTask, 'links' | 'files' | 'ownFields'>>(this.manager, LISTS, [
      this.idOf.get(task.id),
    ])) as Pick<TemplateTask, 'links' | 'files' | 'ownFields'>;
    const states = <Item>(read: (from: Pick<TemplateTask, 'links' | 'files' | 'ownFields'>) => readonly Item[]) => ({
      before: before === undefined ? [] : read(before),
      after: read(task),
      here: read(here),
    });
    const files = mergeLists(
      states((from) => from.files),
      { keyOf: (file) => file.fileId, isSame: () => true },
    );
    return {
      links: mergeLists(
        states((from) => from.links),
        { keyOf: (link) => link.url, isSame: (left, right) => left.title === right.title },
      ),
      fileIds: files.map((file) => file.fileId),
      ownFields: mergeLists(
        states((from) => from.ownFields),
        { keyOf: (entry) => entry.fieldId, isSame: (left, right) => left.value === right.value },
      ),
    };
  }

  /** The template's ties between tasks that are here, and those the engagement made by itself. */
  private tiesOf(task: TemplateTask): NonNullable<TaskChange['after']> {
    const wanted = task.after.flatMap((tie) => {
      const taskId = this.idOf.get(tie.taskId);
      return taskId === undefined ? [] : [{ taskId, type: tie.type, lag: tie.lag }];
    });
    const old = this.news.before.tasks.find((other) => other.id === task.id)?.after.map((tie) => this.idOf.get(tie.taskId)) ?? [];
    const own = (this.news.taskOf.get(task.id)?.after ?? [])
      .filter((tie) => !old.includes(tie.task) && !wanted.some((other) => other.taskId === tie.task))
      .map((tie) => ({ taskId: tie.task, type: tie.type, lag: tie.lag }));
    return [...wanted, ...own];
  }

  private async addSteps(taskId: string, steps: readonly string[]): Promise<void> {
    await rowsOf(
      this.manager,
      `INSERT INTO step (task_id, position, title)
       SELECT $1, (SELECT coalesce(max(position), -1) FROM step WHERE task_id = $1) + place, title FROM unnest($2::text[]) WITH ORDINALITY AS v(title, place)
       WHERE NOT EXISTS (SELECT 1 FROM step s WHERE s.task_id = $1 AND s.title = v.title)`,
      [taskId, steps],
    );
    await rowsOf(this.manager, 'UPDATE task SET steps_all = (SELECT count(*) FROM step WHERE task_id = $1) WHERE id = $1', [taskId]);
  }
}
