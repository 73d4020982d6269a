import { randomUUID } from 'node:crypto';
import { mergeLists, type TemplateDifference, type TemplateTask } from '@crew/core';
import type { TaskChange, TemplateTaskInput } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { templateFilesOf } from '../file/keep-files.ts';
import { ensureDeliverables } from '../engagement/ensure-deliverables.ts';
import type { By } from '../platform/actor.ts';
import { firstRow, rowsOf } from '../platform/database.ts';
import type { TaskFacts } from '../schedule/plan-facts.ts';
import type { BringPhases } from './bring-phases.ts';
import { insertTasks } from '../task/insert-tasks.ts';
import { newTaskOf } from './new-task.ts';
import type { News } from './read-news.ts';

/** A task of the engagement, as far as bringing changes into it asks. */
interface Here extends Pick<TemplateTask, 'links' | 'files' | 'ownFields'> {
  readonly id: string;
  readonly version: number;
  readonly assigneeIds: readonly string[];
}

const HERE = `
  SELECT t.id, t.version, t.links, t.own_fields AS "ownFields", ${templateFilesOf('task_file', 't')} AS files,
    ARRAY(SELECT a.person_id FROM task_assignee a WHERE a.task_id = t.id ORDER BY a.position) AS "assigneeIds"
  FROM task t WHERE t.engagement_id = $1`;

interface What {
  readonly news: News;
  readonly chosen: readonly TemplateDifference[];
  readonly phases: BringPhases;
}

type Change = Omit<TaskChange, 'id' | 'version'>;

/** Makes the tasks that come, and says what changes on the others, to be taken with everything that follows. */
export class BringTasks {
  private readonly manager: EntityManager;
  private readonly by: By;
  private readonly what: What;
  private readonly chosen: readonly TemplateDifference[];
  /** Tasks of the engagement by the template's, new ones included. */
  private readonly idOf: Map<string, string>;
  private here: ReadonlyMap<string, Here> = new Map();
  /** Who does the work of each role. */
  private people: ReadonlyMap<string, string> = new Map();

  constructor(manager: EntityManager, by: By, what: What) {
    this.manager = manager;
    this.by = by;
    this.what = what;
    this.chosen = what.chosen.filter(({ part }) => part === 'task');
    this.idOf = new Map([...what.news.taskOf].map(([origin, task]) => [origin, task.id]));
  }

  async prepare(): Promise<TaskChange[]> {
    const { engagementId } = this.what.news.facts;
    const sql = 'SELECT role_id AS "roleId", person_id AS "personId" FROM engagement_role WHERE engagement_id = $1';
    const roles = await rowsOf<{ roleId: string; personId: string }>(this.manager, sql, [engagementId]);
    this.people = new Map(roles.map(({ roleId, personId }) => [roleId, personId]));
    await this.add(this.of('added').map(({ id }) => this.taskOf(id)));
    this.here = new Map((await rowsOf<Here>(this.manager, HERE, [engagementId])).map((row) => [row.id, row]));
    const changes: TaskChange[] = [];
    for (const difference of this.of('changed')) {
      await this.setPresets(difference);
      changes.push(this.changing(this.idOf.get(difference.id) as string, await this.changesOf(difference)));
    }
    return [...changes, ...this.leaving()];
  }

  /** The tasks that are new, and those that come to be anchored otherwise. */
  placedAnew(): string[] {
    const added = this.of('added').map(({ id }) => this.idOf.get(id) as string);
    return this.of('changed').reduce(
      (ids, difference) => (differsIn(difference, 'anchor') ? [...ids, this.idOf.get(difference.id) as string] : ids),
      added,
    );
  }

  private of(kind: TemplateDifference['kind']): TemplateDifference[] {
    return this.chosen.filter((difference) => difference.kind === kind);
  }

  private taskOf(id: string): TemplateTask {
    return this.what.news.after.tasks.find((task) => task.id === id) as TemplateTask;
  }

  private changing(id: string, change: Change): TaskChange {
    return { id, version: this.here.get(id)?.version ?? 1, ...change };
  }

  /** With a phase that goes all its tasks go; any other task that goes is dropped, and with it its parts. */
  private leaving(): TaskChange[] {
    const { facts, taskOf } = this.what.news;
    const going = this.what.phases.going();
    const moves = new Set(
      this.of('changed')
        .filter(({ fields }) => fields.some(({ field }) => field === 'phaseId'))
        .map(({ id }) => this.idOf.get(id)),
    );
    const gone = facts.tasks.filter((task) => going.has(task.phaseId) && !moves.has(task.id));
    const dropped = this.of('removed')
      .map(({ id }) => taskOf.get(id) as TaskFacts)
      .filter((task) => !going.has(task.phaseId))
      .flatMap((task) => leavesBelow(task, facts.tasks))
      .filter((task) => task.status !== 'done' && task.status !== 'dropped');
    return [
      ...gone.map(({ id }) => this.changing(id, { isDeleted: true })),
      ...[...new Set(dropped.map(({ id }) => id))].map((id) => this.changing(id, { status: 'dropped' })),
    ];
  }

  /** Makes the tasks that come, with all they preset and everybody who does them. */
  private async add(tasks: readonly TemplateTask[]): Promise<void> {
    for (const task of tasks) this.idOf.set(task.id, randomUUID());
    const { engagementId } = this.what.news.facts;
    const deliverables = await ensureDeliverables(
      this.manager,
      engagementId,
      tasks.flatMap(({ deliverable }) => deliverable ?? []),
    );
    const own = 'SELECT 1 FROM engagement e JOIN client c ON c.id = e.client_id AND c.is_own WHERE e.id = $1';
    const isOwn = (await firstRow(this.manager, own, [engagementId])) !== null;
    const known = (id: string): string | undefined => this.idOf.get(id);
    await insertTasks(this.manager, this.by, {
      engagementId,
      tasks: tasks.map((task) => ({
        ...newTaskOf(task, { idOf: known, phaseId: this.what.phases.idOf(task.phaseId) as string, deliverables, isOwn }),
        assignees: this.peopleFor(task).map((personId) => ({ personId })),
      })),
    });
  }

  /** What of a task only a template says: kind, role, anchor, chargeable, and what it is for. */
  private async setPresets(difference: TemplateDifference): Promise<void> {
    const task = this.taskOf(difference.id);
    const id = this.idOf.get(difference.id);
    if (PRESETS.some((field) => differsIn(difference, field)))
      await rowsOf(
        this.manager,
        'UPDATE task SET kind = $2, role_id = $3, anchor_at = $4, anchor_offset = $5, is_chargeable = $6 WHERE id = $1',
        [id, task.kind, task.roleId, task.anchor.at, task.anchor.offset, task.isChargeable],
      );
    if (!differsIn(difference, 'deliverable')) return;
    const names = task.deliverable === null ? [] : [task.deliverable];
    const deliverables = await ensureDeliverables(this.manager, this.what.news.facts.engagementId, names);
    const deliverableId = task.deliverable === null ? null : deliverables.get(task.deliverable);
    await rowsOf(this.manager, 'UPDATE task SET deliverable_id = $2 WHERE id = $1', [id, deliverableId]);
  }

  /** The fields of a task that differ, as an edit of the engagement's task; new steps are added, none is taken away. */
  private async changesOf(difference: TemplateDifference): Promise<Change> {
    const task = this.taskOf(difference.id) as TemplateTask & TemplateTaskInput;
    const differs = (field: keyof TemplateTask): boolean => differsIn(difference, field);
    const isGroup = this.what.news.taskOf.get(difference.id)?.isGroup === true;
    if (differs('steps')) await this.addSteps(this.idOf.get(difference.id) as string, task.steps);
    return {
      ...(differs('title') ? { title: task.title } : {}),
      ...(differs('description') ? { description: task.description } : {}),
      // Its subtasks decide them.
      ...(differs('days') && !isGroup ? { days: task.days } : {}),
      ...(differs('estimateMinutes') && !isGroup ? { estimateMinutes: task.estimateMinutes } : {}),
      ...(differs('priority') ? { priority: task.priority } : {}),
      ...(differs('labels') ? { labels: [...task.labels] } : {}),
      ...(differs('isShownToClient') ? { isShownToClient: task.isShownToClient } : {}),
      ...(differs('outside') ? { outside: task.outside === null ? null : { ...task.outside, state: 'to-brief' as const } } : {}),
      ...(differs('after') ? { after: this.tiesOf(task) } : {}),
      ...this.placeOf(difference),
      ...this.listsOf(difference),
      ...this.peopleOf(difference),
    };
  }

  /** Another phase, or a part of another task, as far as that task is here. */
  private placeOf(difference: TemplateDifference): Pick<Change, 'phaseId' | 'parentId'> {
    const task = this.taskOf(difference.id);
    const phaseId = differsIn(difference, 'phaseId') ? this.what.phases.idOf(task.phaseId) : undefined;
    const parentId = !differsIn(difference, 'parentId') ? undefined : task.parentId === null ? null : this.idOf.get(task.parentId);
    return { ...(phaseId === undefined ? {} : { phaseId }), ...(parentId === undefined ? {} : { parentId }) };
  }

  /** Links, files and own fields: what was done with them here weighs more than what the template says. */
  private listsOf(difference: TemplateDifference): Pick<Change, 'links' | 'fileIds' | 'ownFields'> {
    const lists = ['links', 'files', 'ownFields'] as const;
    if (!lists.some((field) => differsIn(difference, field))) return {};
    const before = this.what.news.before.tasks.find((other) => other.id === difference.id);
    const here = this.here.get(this.idOf.get(difference.id) as string) as Here;
    const states = <Item>(read: (from: Pick<TemplateTask, (typeof lists)[number]>) => readonly Item[]) => ({
      before: before === undefined ? [] : read(before),
      after: read(this.taskOf(difference.id)),
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

  /** Whoever the template says does it, unless somebody decided otherwise here. */
  private peopleOf(difference: TemplateDifference): Pick<Change, 'assigneeIds'> {
    if (!(['roleId', 'personId', 'helperRoleIds'] as const).some((field) => differsIn(difference, field))) return {};
    const old = this.what.news.before.tasks.find((other) => other.id === difference.id);
    const now = this.here.get(this.idOf.get(difference.id) as string)?.assigneeIds ?? [];
    const expected = old === undefined ? [] : this.peopleFor(old);
    return now.join() === expected.join() ? { assigneeIds: this.peopleFor(this.taskOf(difference.id)) } : {};
  }

  private peopleFor(task: TemplateTask): string[] {
    if (task.kind === 'client') return [];
    const first = task.personId ?? (task.roleId === null ? undefined : this.people.get(task.roleId));
    const helpers = task.helperRoleIds.map((roleId) => this.people.get(roleId));
    return [...new Set([first, ...helpers].filter((id) => id !== undefined))];
  }

  /** The template's ties between tasks that are here, and those the engagement made by itself. */
  private tiesOf(task: TemplateTask): NonNullable<TaskChange['after']> {
    const { before, taskOf } = this.what.news;
    const wanted = task.after.flatMap((tie) => {
      const taskId = this.idOf.get(tie.taskId);
      return taskId === undefined ? [] : [{ taskId, type: tie.type, lag: tie.lag }];
    });
    const old = before.tasks.find((other) => other.id === task.id)?.after.map((tie) => this.idOf.get(tie.taskId)) ?? [];
    const own = (taskOf.get(task.id)?.after ?? [])
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

const PRESETS = ['kind', 'roleId', 'anchor', 'isChargeable'] as const;

/** Whether a field is other than it was. */
const differsIn = ({ fields }: TemplateDifference, field: keyof TemplateTask): boolean => fields.some((other) => other.field === field);

/** A task, or for one with subtasks the lowest of them: it is they that are dropped. */
function leavesBelow(task: TaskFacts, all: readonly TaskFacts[]): TaskFacts[] {
  if (!task.isGroup) return [task];
  return all.filter((other) => other.parentId === task.id).flatMap((part) => leavesBelow(part, all));
}
