import { Refusal } from '../platform/refusal.ts';
import { changedImage, newImages, type TaskImage } from '../task/task-images.ts';
import type { Draft, OperationOf } from './plan-edit.ts';

export function addTasks(draft: Draft, { tasks }: OperationOf<'add-tasks'>): void {
  const { engagementId, agencyId, startDay } = draft.plan;
  for (const image of newImages(tasks, { engagementId, agencyId, startDay, firstNumber: draft.lastNumber + 1 }))
    draft.tasks.set(image.id, image);
  draft.lastNumber += tasks.length;
}

export function changeTask(draft: Draft, { id, change }: OperationOf<'change-task'>): void {
  const image = draft.tasks.get(id);
  if (image !== undefined) draft.tasks.set(id, changedImage(image, change));
}

export function restoreTasks(draft: Draft, { images }: OperationOf<'restore-tasks'>): void {
  for (const image of images) draft.tasks.set(image.id, image);
  const deliverables = new Set<unknown>(draft.deliverables.map(({ id }) => id));
  for (const image of images) {
    const { parent_id, deliverable_id } = image.row;
    const row = {
      ...image.row,
      parent_id: parent_id !== null && draft.tasks.has(parent_id) ? parent_id : null,
      deliverable_id: deliverables.has(deliverable_id) ? deliverable_id : null,
    };
    draft.tasks.set(image.id, { ...image, row });
  }
}

export function placeTask(draft: Draft, { id, beforeId }: OperationOf<'place-task'>): void {
  const image = draft.tasks.get(id) as TaskImage;
  const others = siblingsOf(draft, image).filter((other) => other !== image);
  const index = beforeId === null ? others.length : others.findIndex((other) => other.id === beforeId);
  if (index < 0)
    throw new Refusal('unknown-id', 'The task to put it before does not stand there any more. Choose again.', { field: 'beforeId' });
  setOrder(draft, [...others.slice(0, index), image, ...others.slice(index)]);
}

/** On every level of the phase. */
export function orderTasks(draft: Draft, { phaseId, like }: OperationOf<'order-tasks'>): void {
  const inPhase = [...draft.tasks.values()].filter(({ row }) => row.phase_id === phaseId);
  for (const parentId of new Set(inPhase.map(({ row }) => row.parent_id)))
    setOrder(draft, orderedLike(inOrder(inPhase.filter(({ row }) => row.parent_id === parentId)), like));
}

/** Tasks in the order of the template tasks they were made from; those of this engagement alone stay behind the one they stood behind. */
export function orderedLike<Task extends Pick<TaskImage, 'row'>>(here: readonly Task[], like: readonly string[]): Task[] {
  const placeOf = new Map<unknown, number>(like.map((id, index) => [id, index]));
  const groups: { readonly place: number; readonly tasks: Task[] }[] = [{ place: -1, tasks: [] }];
  for (const task of here) {
    const place = placeOf.get(task.row['template_task_id']);
    if (place === undefined) groups.at(-1)?.tasks.push(task);
    else groups.push({ place, tasks: [task] });
  }
  return groups.sort((left, right) => left.place - right.place).flatMap(({ tasks }) => tasks);
}

/** Tasks of the same parent, or, without one, of the same phase, in their order. */
function siblingsOf({ tasks }: Draft, { row }: TaskImage): TaskImage[] {
  const isSibling = (other: TaskImage['row']): boolean =>
    other.parent_id === row.parent_id && (row.parent_id !== null || other.phase_id === row.phase_id);
  return inOrder([...tasks.values()].filter((other) => isSibling(other.row)));
}

const inOrder = (images: readonly TaskImage[]): TaskImage[] =>
  [...images].sort((left, right) => left.row.position - right.row.position || left.row.number - right.row.number);

function setOrder({ tasks }: Draft, images: readonly TaskImage[]): void {
  images.forEach((image, position) => {
    if (image.row.position !== position) tasks.set(image.id, { ...image, row: { ...image.row, position } });
  });
}
