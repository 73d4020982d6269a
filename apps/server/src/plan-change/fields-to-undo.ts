import { isDeepStrictEqual } from 'node:util';
import type { FieldChange } from '@crew/contract';
import { groupOf, presentValue, TASK_PARTS, type TaskPart, type TaskValues } from '../task/task-fields.ts';
import type { ImageChange, TaskImage } from '../task/task-images.ts';

/** Fields whose difference nobody is told of: others moved the task, or stood it in another row, without touching it. */
const UNSAID = new Set(['dates', 'position']);

/** What undoing a change does to one task. */
export interface TaskUndo {
  readonly id: string;
  /** The fields that go back, with what they go back to. */
  readonly values: Partial<TaskValues>;
  /** The parts that go back, with what they were. */
  readonly parts: NonNullable<ImageChange['parts']>;
  /** Fields that somebody changed since; they stay. */
  readonly kept: readonly string[];
}

/**
 * Field by field: what a change set goes back to what it was, where it still has the value the
 * change gave it. What the change did not touch is left alone, whoever touched it since.
 */
export function fieldsToUndo(changes: readonly FieldChange[], now: TaskImage): TaskUndo {
  const values: Record<string, unknown> = {};
  const parts: Record<string, unknown> = {};
  const kept: string[] = [];
  for (const [group, members] of inGroups(mergeChanges(changes))) {
    const stands = (side: 'from' | 'to'): boolean => members.every((change) => isDeepStrictEqual(valueOf(now, change.field), change[side]));
    if (stands('to'))
      for (const { field, from } of members)
        if (isPart(field)) parts[field] = from;
        else values[field] = from;
    else if (!UNSAID.has(group) && !stands('from')) kept.push(group);
  }
  return { id: now.id, values, parts, kept };
}

/** Several changes of a field in a row as one, from the first value to the last; what came back to where it was is none. */
export function mergeChanges(changes: readonly FieldChange[]): FieldChange[] {
  const merged = new Map<string, FieldChange>();
  for (const change of changes) {
    const first = merged.get(change.field);
    merged.set(change.field, first === undefined ? change : { ...first, to: change.to });
  }
  return [...merged.values()].filter(({ from, to }) => !isDeepStrictEqual(from, to));
}

function inGroups(changes: readonly FieldChange[]): ReadonlyMap<string, readonly FieldChange[]> {
  const groups = new Map<string, FieldChange[]>();
  for (const change of changes) groups.set(groupOf(change.field), [...(groups.get(groupOf(change.field)) ?? []), change]);
  return groups;
}

const isPart = (field: string): field is TaskPart => (TASK_PARTS as readonly string[]).includes(field);
const valueOf = (image: TaskImage, field: string): unknown => (isPart(field) ? image[field] : presentValue(image.row, field));
