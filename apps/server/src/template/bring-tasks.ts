import { randomUUID } from 'node:crypto';
import { leavesUnder, mergeLists, treeOf, type TemplateDifference, type TemplateTask } from '@crew/core';
import type { TaskChange, TaskKind, TemplateTaskInput } from '@crew/contract';
import type { DeliverableRow, PlanImage } from '../plan-change/plan-image.ts';
import type { PlanOperation } from '../plan-change/plan-edit.ts';
import { isOpen } from '../schedule/summarise.ts';
import type { TaskFacts } from '../schedule/plan-facts.ts';
import { valuesOf, type TaskValues } from '../task/task-fields.ts';
import type { ImageChange, TaskImage } from '../task/task-images.ts';
import type { BringContext, ChosenPhases } from './bring-in.ts';
import { newTaskOf } from './new-task.ts';
import type { News } from './read-news.ts';

interface What {
  readonly news: News;
  readonly chosen: readonly TemplateDifference[];
  readonly phases: ChosenPhases;
  readonly context: BringContext;
}

type Change = Omit<TaskChange, 'id' | 'version'>;

/** Says which tasks come and what changes on the others; nothing is written. */
export class BringTasks {
  private readonly what: What;
  private readonly chosen: readonly TemplateDifference[];
  /** Tasks of the engagement by the template's, those that come included. */
  private readonly idOf: ReadonlyMap<string, string>;
  private readonly here: ReadonlyMap<string, TaskImage>;
  /** By name, those that come included. */
  private readonly deliverables: ReadonlyMap<string, string>;
  private readonly newDeliverables: readonly Omit<DeliverableRow, 'position'>[];

  constructor({ tasks, deliverables }: Pick<PlanImage, 'tasks' | 'deliverables'>, what: What) {
    this.what = what;
    this.chosen = what.chosen.filter(({ part }) => part === 'task');
    this.here = new Map(tasks.map((image) => [image.id, image]));
    this.idOf = new Map([
      ...[...what.news.taskOf].map(([origin, task]) => [origin, task.id] as const),
      ...this.of('added').map(({ id }) => [id, randomUUID() as string] as const),
    ]);
    const known = new Map(deliverables.map(({ id, name }) => [name, id]));
    const named = [...this.of('added'), ...this.of('changed').filter((difference) => differsIn(difference, 'deliverable'))];
    const names = new Set(named.flatMap(({ id }) => this.taskOf(id).deliverable ?? []));
    this.newDeliverables = [...names].filter((name) => !known.has(name)).map((name) => ({ id: randomUUID(), name }));
    this.deliverables = new Map([...known, ...this.newDeliverables.map(({ id, name }) => [name, id] as const)]);
  }

  /** The tasks that come, with everybody who does them, and what only a template says of the others. */
  additions(): PlanOperation[] {
    const { phases, context } = this.what;
    const idOf = (id: string): string | undefined => this.idOf.get(id);
    const tasks = this.of('added').map(({ id }) => {
      const task = this.taskOf(id);
      const phaseId = phases.idOf(task.phaseId) as string;
      const people = this.peopleFor(task).filter((personId) => context.active.has(personId));
      return {
        ...newTaskOf(task, { idOf, phaseId, deliverables: this.deliverables, isOwn: context.isOwn, ways: this.what.news.after.ways }),
        assignees: people.map((personId) => ({ personId })),
      };
    });
    const presets = this.of('changed').map((difference): PlanOperation => ({
      ...{ kind: 'change-task', id: this.idOf.get(difference.id) as string, change: this.presetsOf(difference) },
    }));
    return [
      ...(this.newDeliverables.length === 0 ? [] : [{ kind: 'add-deliverables', deliverables: this.newDeliverables } as const]),
      ...(tasks.length === 0 ? [] : [{ kind: 'add-tasks', tasks } as const]),
      ...presets,
    ];
  }

  /** What changes on the tasks that are here, as edits of them, and which of them go. */
  changes({ tasks }: Pick<PlanImage, 'tasks'>): TaskChange[] {
    const versions = new Map(tasks.map(({ id, row }) => [id, row.version]));
    const changing = (id: string, change: Change): TaskChange => ({ id, version: versions.get(id) as number, ...change });
    const edited = this.of('changed').map((difference) => changing(this.idOf.get(difference.id) as string, this.changesOf(difference)));
    const { gone, dropped } = this.leaving();
    return [...edited, ...gone.map((id) => changing(id, { isDeleted: true })), ...dropped.map((id) => changing(id, { status: 'dropped' }))];
  }

  private of(kind: TemplateDifference['kind']): TemplateDifference[] {
    return this.chosen.filter((difference) => difference.kind === kind);
  }

  private taskOf(id: string): TemplateTask {
    return this.what.news.after.tasks.find((task) => task.id === id) as TemplateTask;
  }

  private imageOf(origin: string): TaskImage {
    return this.here.get(this.idOf.get(origin) as string) as TaskImage;
  }

  /** With a phase that goes all its tasks go; any other task that goes is dropped, and with it its parts. */
  private leaving(): { readonly gone: readonly string[]; readonly dropped: readonly string[] } {
    const { facts, taskOf } = this.what.news;
    const going = this.what.phases.going();
    const moved = this.of('changed').filter((difference) => differsIn(difference, 'phaseId'));
    const moves = new Set(moved.map(({ id }) => this.idOf.get(id)));
    const tree = treeOf(facts.tasks.map(({ id, parentId }) => ({ id, parent: parentId })));
    const byId = new Map(facts.tasks.map((task) => [task.id, task]));
    const dropped = this.of('removed')
      .map(({ id }) => taskOf.get(id) as TaskFacts)
      .filter((task) => !going.has(task.phaseId))
      // The lowest are dropped, and what they are parts of follows.
      .flatMap((task) => leavesUnder(tree, [task.id]).map((id) => byId.get(id) as TaskFacts))
      .filter(isOpen);
    return {
      gone: facts.tasks.filter((task) => going.has(task.phaseId) && !moves.has(task.id)).map(({ id }) => id),
      dropped: [...new Set(dropped.map(({ id }) => id))],
    };
  }

  /** What of a task only a template says: kind, role, anchor, chargeable, what it is for; new steps are added, none is taken away. */
  private presetsOf(difference: TemplateDifference): ImageChange {
    const task = this.taskOf(difference.id);
    const { kind, roleId, anchor, isChargeable, deliverable } = task;
    const values: Partial<TaskValues> = {
      // A template is checked against the words of the contract when it is saved.
      ...(differsIn(difference, 'kind') ? { kind: kind as TaskKind } : {}),
      ...(differsIn(difference, 'roleId') ? { roleId } : {}),
      ...(differsIn(difference, 'anchor') ? { anchor: { anchor_at: anchor.at, anchor_offset: anchor.offset } } : {}),
      ...(differsIn(difference, 'isChargeable') ? { isChargeable: isChargeable && !this.what.context.isOwn } : {}),
      ...(differsIn(difference, 'deliverable')
        ? { deliverableId: deliverable === null ? null : (this.deliverables.get(deliverable) ?? null) }
        : {}),
    };
    if (!differsIn(difference, 'steps')) return { values };
    const { steps } = this.imageOf(difference.id);
    const there = new Set(steps.map(({ title }) => title));
    const fresh = task.steps.filter((title) => !there.has(title)).map((title) => ({ id: randomUUID(), title, isDone: false }));
    return { values, steps: [...steps, ...fresh] };
  }

  /** The fields of a task that differ, as an edit of the engagement's task. */
  private changesOf(difference: TemplateDifference): Change {
    const task = this.taskOf(difference.id) as TemplateTask & TemplateTaskInput;
    const differs = (field: keyof TemplateTask): boolean => differsIn(difference, field);
    const isGroup = this.imageOf(difference.id).row.is_group;
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
      ...(differs('after') ? { after: this.afterOf(task) } : {}),
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

  /** Links, files and custom fields: what was done with them here weighs more than what the template says. */
  private listsOf(difference: TemplateDifference): Pick<Change, 'pageLinks' | 'fileIds' | 'customFields'> {
    if (!(['pageLinks', 'files', 'customFields'] as const).some((field) => differsIn(difference, field))) return {};
    const before = this.what.news.before.tasks.find((other) => other.id === difference.id);
    const after = this.taskOf(difference.id);
    const image = this.imageOf(difference.id);
    const { pageLinks, customFields } = valuesOf(image.row);
    const filesOf = (task: TemplateTask | undefined): string[] => (task?.files ?? []).map(({ fileId }) => fileId);
    return {
      pageLinks: mergeLists(
        { before: before?.pageLinks ?? [], after: after.pageLinks, here: pageLinks },
        { keyOf: (link) => link.url, isSame: (left, right) => left.title === right.title },
      ),
      fileIds: mergeLists(
        { before: filesOf(before), after: filesOf(after), here: image.files },
        { keyOf: (fileId) => fileId, isSame: () => true },
      ),
      customFields: mergeLists(
        { before: before?.customFields ?? [], after: after.customFields, here: customFields },
        { keyOf: (entry) => entry.fieldId, isSame: (left, right) => left.value === right.value },
      ),
    };
  }

  /** Whoever the template says does it, unless somebody decided otherwise here. */
  private peopleOf(difference: TemplateDifference): Pick<Change, 'assigneeIds'> {
    if (!(['roleId', 'personId', 'helperRoleIds', 'helperPersonIds'] as const).some((field) => differsIn(difference, field))) return {};
    const old = this.what.news.before.tasks.find((other) => other.id === difference.id);
    const now = this.imageOf(difference.id).assignees.map(({ personId }) => personId);
    const expected = old === undefined ? [] : this.peopleFor(old);
    if (now.join() !== expected.join()) return {};
    return { assigneeIds: this.peopleFor(this.taskOf(difference.id)).filter((id) => this.what.context.active.has(id)) };
  }

  private peopleFor(task: TemplateTask): string[] {
    if (task.kind === 'client') return [];
    const { people } = this.what.context;
    const first = task.personId ?? (task.roleId === null ? undefined : people.get(task.roleId));
    const helpers = [...task.helperPersonIds, ...task.helperRoleIds.map((roleId) => people.get(roleId))];
    return [...new Set([first, ...helpers].filter((id) => id !== undefined))];
  }

  /** The template's dependencies between tasks that are here, and those the engagement made by itself. */
  private afterOf(task: TemplateTask): NonNullable<TaskChange['after']> {
    const { before, taskOf } = this.what.news;
    const wanted = task.after.flatMap(({ taskId: origin, type, lag }) => {
      const taskId = this.idOf.get(origin);
      return taskId === undefined ? [] : [{ taskId, type, lag }];
    });
    const old = before.tasks.find((other) => other.id === task.id)?.after.map(({ taskId }) => this.idOf.get(taskId)) ?? [];
    const own = (taskOf.get(task.id)?.after ?? [])
      .filter((link) => !old.includes(link.task) && !wanted.some((other) => other.taskId === link.task))
      .map(({ task: taskId, type, lag }) => ({ taskId, type, lag }));
    return [...wanted, ...own];
  }
}

/** Whether a field is other than it was. */
const differsIn = ({ fields }: TemplateDifference, field: keyof TemplateTask): boolean => fields.some((other) => other.field === field);
