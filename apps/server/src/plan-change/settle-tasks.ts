import type { IsoDay } from '@crew/core';
import { changedImage, type TaskImage } from '../task/task-images.ts';

/**
 * What follows from a change for the structure of a plan, whoever changed it: nothing waits for
 * what is gone, subtasks stand in the phase of what they are a part of, a part and what it is a
 * part of do not wait for each other, and who has subtasks leaves its days to them.
 */
export function settleTasks(before: readonly TaskImage[], after: readonly TaskImage[]): TaskImage[] {
  const was = new Map(before.map((image) => [image.id, image]));
  const tree = new Map(after.map((image) => [image.id, image]));
  const parents = new Set(after.map(({ row }) => row.parent_id));
  const moved = new Set(
    after.filter(({ id, row }) => row.parent_id !== null && was.get(id)?.row.parent_id !== row.parent_id).map(({ id }) => id),
  );
  return after.map((image) =>
    settleGroup(inPhaseOfParent(withoutOddDependencies(image, { tree, moved }), tree), {
      isGroup: parents.has(image.id),
      isNew: !was.has(image.id),
    }),
  );
}

interface Tree {
  readonly tree: ReadonlyMap<string, TaskImage>;
  /** Tasks that have become parts of something. */
  readonly moved: ReadonlySet<string>;
}

/** What a task is a part of, nearest first. */
function* ancestorsIn(tree: ReadonlyMap<string, TaskImage>, image: TaskImage): Generator<TaskImage> {
  for (let at = tree.get(image.row.parent_id ?? ''); at !== undefined; at = tree.get(at.row.parent_id ?? '')) yield at;
}

function withoutOddDependencies(image: TaskImage, { tree, moved }: Tree): TaskImage {
  const after = image.after.filter(({ taskId }) => {
    const other = tree.get(taskId);
    return other !== undefined && !dependsOnItself(image, other, { tree, moved }) && !dependsOnItself(other, image, { tree, moved });
  });
  return after.length === image.after.length ? image : { ...image, after };
}

/** Whether a part has been moved, with or without what lies between, into the other. */
function dependsOnItself(part: TaskImage, whole: TaskImage, { tree, moved }: Tree): boolean {
  if (moved.size === 0) return false;
  let isMoved = moved.has(part.id);
  for (const ancestor of ancestorsIn(tree, part)) {
    if (ancestor === whole) return isMoved;
    isMoved ||= moved.has(ancestor.id);
  }
  return false;
}

function inPhaseOfParent(image: TaskImage, tree: ReadonlyMap<string, TaskImage>): TaskImage {
  const top = [...ancestorsIn(tree, image)].at(-1);
  return top === undefined || top.row.phase_id === image.row.phase_id
    ? image
    : { ...image, row: { ...image.row, phase_id: top.row.phase_id } };
}

/**
 * A task that has just got subtasks leaves its fixed day and its late anchor to them; what
 * repeats does not begin before its day anyway.
 */
function settleGroup(image: TaskImage, { isGroup, isNew }: { readonly isGroup: boolean; readonly isNew: boolean }): TaskImage {
  const { row } = image;
  if (isNew || row.is_group === isGroup)
    return isNew && row.is_group !== isGroup ? { ...image, row: { ...row, is_group: isGroup } } : image;
  const repeats = row['series_id'] !== null;
  const [fixedDay, notBefore] = [row['fixed_day'] as IsoDay | null, row['not_before'] as IsoDay | null];
  const isLate = isGroup && String(row['anchor_at']).startsWith('before-');
  const settled = changedImage(image, {
    values: {
      fixedDay: isGroup ? null : repeats ? notBefore : fixedDay,
      notBefore: repeats ? (isGroup ? (notBefore ?? fixedDay) : null) : notBefore,
      ...(isLate ? { anchor: { anchor_at: 'phase-start', anchor_offset: 0 } } : {}),
    },
  });
  // Values computed from its parts are no edit of it.
  return { ...settled, row: { ...settled.row, is_group: isGroup, version: row.version } };
}
