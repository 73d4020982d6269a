import { addWorkingDays, ancestorsOf, descendantsOf, formatDay, parseDay, treeOf, type Calendar, type Tree, type IsoDay } from '@crew/core';
import type { TaskChange } from '@crew/contract';
import { Refusal } from '../platform/refusal.ts';
import { isOpen } from '../schedule/summarise.ts';
import { isReopened, nextFields, type TaskFields } from '../task/next-fields.ts';
import { valuesOf, type TaskValues } from '../task/task-fields.ts';
import type { TaskImage } from '../task/task-images.ts';
import type { PlanOperation } from './plan-edit.ts';
import type { PlanImage } from './plan-image.ts';

/** What a change is judged by. */
export interface ChangeContext {
  readonly plan: Pick<PlanImage, 'tasks' | 'phases' | 'deliverables'>;
  readonly calendar: Calendar;
  readonly today: IsoDay;
}

/**
 * Changes of tasks as operations, each task's with everything it brings along. Refuses, naming
 * the task: unknown ones and one named twice, places that cannot be (a part of itself, a phase
 * that is over, another engagement's task), what subtasks decide, and removing work on which
 * time was logged.
 */
export function editOfChanges(changes: readonly TaskChange[], context: ChangeContext): PlanOperation[] {
  const tasks = new Map(context.plan.tasks.map((image) => [image.id, image]));
  refuseUnknownTasks(changes, tasks);
  const staying = changes.filter(({ isDeleted }) => isDeleted !== true);
  const places: Places = { tasks, tree: treeAfter(staying, tasks), ...context };
  const removed = removedBy(changes, places);
  return [
    ...staying.map((change): PlanOperation => changeOf(change, places)),
    ...staying
      .filter(({ beforeId, parentId, phaseId }) => beforeId !== undefined || parentId !== undefined || phaseId !== undefined)
      .map(({ id, beforeId = null }): PlanOperation => ({ kind: 'place-task', id, beforeId })),
    ...(removed.length === 0 ? [] : [{ kind: 'remove-tasks', ids: removed } as const]),
  ];
}

interface Places extends ChangeContext {
  readonly tasks: ReadonlyMap<string, TaskImage>;
  /** The tree as it will be. */
  readonly tree: Tree;
}

function refuseUnknownTasks(changes: readonly TaskChange[], tasks: ReadonlyMap<string, TaskImage>): void {
  if (new Set(changes.map(({ id }) => id)).size < changes.length)
    throw new Refusal('invalid-input', 'A task is named twice. Give all its changes at once.', { field: 'tasks' });
  if (changes.some(({ id }) => !tasks.has(id)))
    throw new Refusal('unknown-id', 'A task is not in this engagement, or gone. Read the plan again.', { field: 'tasks' });
}

/** With a task go its subtasks, as the change leaves them. */
function removedBy(changes: readonly TaskChange[], { tasks, tree }: Places): string[] {
  const going = changes.filter(({ isDeleted }) => isDeleted === true);
  const ids = [...new Set(going.flatMap(({ id }) => [id, ...descendantsOf(tree, id)]))];
  for (const id of ids) refuseLosingTime((tasks.get(id) as TaskImage).row);
  return ids;
}

function changeOf(change: TaskChange, places: Places): PlanOperation {
  const image = places.tasks.get(change.id) as TaskImage;
  const values = valuesOf(image.row);
  const isGroup = image.row.is_group;
  const shifted = change.shiftDays === undefined ? {} : shiftedBy(change.shiftDays, { task: values, ...places, isGroup });
  const next = { ...nextFields(values, { ...change, ...shifted }, places.today), ...placedIn(change, places) };
  if (isGroup) refuseWhatPartsDecide(values, next, change);
  refuseUnknownDeliverable(next, places.plan);
  return {
    kind: 'change-task',
    id: change.id,
    change: {
      values: next,
      parts: {
        ...(change.assigneeIds === undefined ? {} : { assignees: assigneesOf(change, image) }),
        ...(change.after === undefined ? {} : { after: afterOf(change, places) }),
        ...(change.fileIds === undefined ? {} : { files: [...new Set(change.fileIds)] }),
      },
      isReopened: isReopened(values, next),
    },
  };
}

/** The people in the order named; a share is given for each of them, or everybody does the same. */
function assigneesOf({ assigneeIds = [], shares }: TaskChange, image: TaskImage): TaskImage['assignees'] {
  const people = [...new Set(assigneeIds)];
  if (shares !== undefined && shares.length !== people.length)
    throw new Refusal('invalid-input', 'Give one share for each of the people, in the same order.', { field: 'shares' });
  const isSame = people.join() === image.assignees.map(({ personId }) => personId).join();
  if (shares === undefined && isSame) return image.assignees;
  return people.map((personId, index) => ({ personId, share: shares?.[index] ?? 1 }));
}

/** What a task waits for; refuses itself, one twice, and tasks of other engagements. */
function afterOf({ id, after = [] }: TaskChange, { tasks }: Places): TaskImage['after'] {
  const title = (tasks.get(id) as TaskImage).row.title;
  const named = after.map(({ taskId }) => taskId);
  if (named.includes(id)) throw new Refusal('waits-in-a-loop', `“${title}” cannot wait for itself. Remove that link.`, { field: 'after' });
  if (new Set(named).size < named.length)
    throw new Refusal('invalid-input', `“${title}” waits for the same task twice. One link to each is enough.`, { field: 'after' });
  if (named.some((taskId) => !tasks.has(taskId)))
    throw new Refusal('unknown-id', 'A task to wait for is not in this engagement. Choose one of this plan.', { field: 'after' });
  return after.map(({ taskId, type, lag }) => ({ taskId, type, lag: lag ?? 0 }));
}

/** The tree as it will be; refuses a task that would become a part of itself. */
function treeAfter(changes: readonly TaskChange[], tasks: ReadonlyMap<string, TaskImage>): Tree {
  const wanted = new Map(changes.flatMap((change) => (change.parentId === undefined ? [] : [[change.id, change.parentId] as const])));
  const parentOf = new Map([...tasks.values()].map(({ id, row }) => [id, wanted.has(id) ? (wanted.get(id) ?? null) : row.parent_id]));
  for (const [id, parent] of wanted) {
    for (let at = parent; at !== null; at = parentOf.get(at) ?? null) {
      if (!tasks.has(at)) throw new Refusal('unknown-id', 'The task to put it under is not in this engagement.', { field: 'parentId' });
      if (at !== id) continue;
      const [own, part] = [tasks.get(id)?.row.title, tasks.get(parent as string)?.row.title];
      const whole = id === parent ? 'itself' : `its own part “${part}”`;
      throw new Refusal('invalid-input', `“${own}” cannot become a part of ${whole}. Choose another place.`, { field: 'parentId' });
    }
  }
  return treeOf([...parentOf].map(([id, parent]) => ({ id, parent })));
}

/** Phase and parent: a part stands in the phase of what it is a part of. */
function placedIn(change: TaskChange, { tasks, tree, plan }: Places): Pick<TaskFields, 'phaseId' | 'parentId'> {
  const { row } = tasks.get(change.id) as TaskImage;
  const parentId = change.parentId === undefined ? keptParent(row, change) : change.parentId;
  const top = parentId === null ? null : tasks.get(ancestorsOf(tree, change.id).at(-1) ?? parentId);
  const phaseId = top?.row.phase_id ?? change.phaseId ?? row.phase_id;
  const phase = plan.phases.find(({ id }) => id === phaseId);
  if (phase === undefined)
    throw new Refusal('unknown-id', 'This phase belongs to another engagement. Choose one of this one.', { field: 'phaseId' });
  if (phaseId !== row.phase_id && phase.state === 'over')
    throw new Refusal('wrong-moment', `${phase.name} is over; “${row.title}” cannot go there. Choose a phase that is still open.`, {
      field: 'phaseId',
    });
  return { phaseId, parentId };
}

/** Moved to another phase by itself, a part leaves what it was a part of. */
const keptParent = (row: TaskImage['row'], change: TaskChange): string | null =>
  change.phaseId !== undefined && change.phaseId !== row.phase_id ? null : row.parent_id;

interface Shifting {
  readonly task: TaskValues;
  readonly calendar: Calendar;
  readonly isGroup: boolean;
}

/**
 * A task moved by working days: a fixed day moves, what is under way ends later, the rest may
 * not begin before its new day. Nothing can be pulled before what it waits for.
 */
function shiftedBy(days: number, { task, calendar, isGroup }: Shifting): Partial<Pick<TaskFields, 'fixedDay' | 'notBefore' | 'days'>> {
  if (!isOpen(task)) return {};
  const moved = (day: IsoDay): IsoDay => formatDay(addWorkingDays(calendar, parseDay(day) as number, days));
  if (task.fixedDay !== null) return { fixedDay: moved(task.fixedDay) };
  if (task.realStart !== null) return isGroup ? {} : { days: Math.max(1, task.days + days) };
  if (days < 0) return task.notBefore === null ? {} : { notBefore: moved(task.notBefore) };
  return { notBefore: moved(task.startDay) };
}

function refuseWhatPartsDecide(task: TaskFields, next: TaskFields, change: TaskChange): void {
  const field = (['status', 'days', 'fixedDay', 'estimateMinutes'] as const).find(
    (name) => next[name] !== task[name] && change[name] !== undefined,
  );
  if (field === undefined) return;
  const what = { status: 'status', days: 'length', fixedDay: 'day', estimateMinutes: 'effort' }[field];
  throw new Refusal('wrong-moment', `The subtasks of “${task.title}” decide its ${what}. Change it on them.`, { field });
}

function refuseUnknownDeliverable({ deliverableId }: TaskFields, { deliverables }: ChangeContext['plan']): void {
  if (deliverableId === null || deliverables.some(({ id }) => id === deliverableId)) return;
  throw new Refusal('unknown-id', 'This deliverable belongs to another engagement. Choose one of this one.', { field: 'deliverableId' });
}

function refuseLosingTime({ title, logged_minutes }: TaskImage['row']): void {
  if (logged_minutes === 0) return;
  const hours = Math.round(logged_minutes / 6) / 10;
  throw new Refusal('still-used', `Time is logged on “${title}” (${hours} h), which removing it would lose. Set it to Dropped instead.`, {
    field: 'isDeleted',
  });
}
