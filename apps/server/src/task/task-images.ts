import type { IsoDay } from '@crew/core';
import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import type { DependencyType } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import { firstRowOf, groupOf, rowChanges, TASK_PARTS, withValues, type TaskPart, type TaskRow, type TaskValues } from './task-fields.ts';

/** Columns of a task that code reads by name; the others are read through the list of fields. */
interface KnownColumns {
  readonly version: number;
  readonly number: number;
  readonly position: number;
  readonly title: string;
  readonly is_group: boolean;
  readonly parent_id: string | null;
  readonly phase_id: string;
  readonly start_day: string;
  readonly due_day: string;
  readonly logged_minutes: number;
}

/** A task as it stands in the tables, with what hangs on it: enough to tell what a change did, and to bring it back. */
export interface TaskImage {
  readonly id: string;
  readonly row: TaskRow & KnownColumns;
  /** In their order. */
  readonly assignees: readonly { readonly personId: string; readonly share: number }[];
  /** What it waits for, by id. */
  readonly after: readonly { readonly taskId: string; readonly type: DependencyType; readonly lag: number }[];
  /** Ids, in their order. */
  readonly files: readonly string[];
  readonly steps: readonly { readonly id: string; readonly title: string; readonly isDone: boolean }[];
}

/** A task that is to be made, with all that hangs on it. What is left out begins empty. */
export interface NewTask {
  readonly id: string;
  readonly values: Pick<TaskValues, 'title' | 'phaseId'> & Partial<TaskValues>;
  /** Its first days; left out, the first day of the engagement, until the planner has placed it. */
  readonly dates?: { readonly start: IsoDay; readonly finish: IsoDay };
  readonly steps?: readonly string[];
  /** Ids of files that whoever makes it may see. */
  readonly fileIds?: readonly string[];
  readonly after?: readonly { readonly taskId: string; readonly type: DependencyType; readonly lag: number }[];
  readonly assignees?: readonly { readonly personId: string; readonly share?: number }[];
}

/** Where new tasks are made. */
export interface TaskPlace {
  readonly engagementId: string;
  readonly agencyId: string;
  readonly startDay: IsoDay;
  /** The number of the first of them. */
  readonly firstNumber: number;
  /** Whether their first days are those of the plan as promised. */
  readonly isBaseline?: boolean;
}

/** What is changed of a task. */
export interface ImageChange {
  readonly values?: Partial<TaskValues>;
  readonly parts?: Partial<Pick<TaskImage, TaskPart>>;
  readonly steps?: TaskImage['steps'];
  /** Whether finished work is taken up again, which is counted. */
  readonly isReopened?: boolean;
}

const IMAGE = `
  SELECT t.id, to_jsonb(t) AS row,
    coalesce((SELECT jsonb_agg(jsonb_build_object('personId', a.person_id, 'share', a.share) ORDER BY a.position, a.person_id)
      FROM task_assignee a WHERE a.task_id = t.id), '[]') AS assignees,
    coalesce((SELECT jsonb_agg(jsonb_build_object('taskId', l.predecessor_id, 'type', l.type, 'lag', l.lag) ORDER BY l.predecessor_id)
      FROM task_dependency l WHERE l.successor_id = t.id), '[]') AS after,
    coalesce((SELECT jsonb_agg(x.file_id ORDER BY x.position) FROM task_file x WHERE x.task_id = t.id), '[]') AS files,
    coalesce((SELECT jsonb_agg(jsonb_build_object('id', s.id, 'title', s.title, 'isDone', s.is_done) ORDER BY s.position)
      FROM step s WHERE s.task_id = t.id), '[]') AS steps
  FROM task t`;

/** Every task of an engagement as it stands now. */
export const readTaskImages = (manager: EntityManager, engagementId: string): Promise<TaskImage[]> =>
  rowsOf<TaskImage>(manager, `${IMAGE} WHERE t.engagement_id = $1 ORDER BY t.number`, [engagementId]);

/** One task as it stands now, or null when it is gone. */
export const readTaskImage = (manager: EntityManager, taskId: string): Promise<TaskImage | null> =>
  firstRow<TaskImage>(manager, `${IMAGE} WHERE t.id = $1`, [taskId]);

/** Tasks as they will stand once they are made: with the next numbers, at the end of their phases, in the order given. */
export function newImages(tasks: readonly NewTask[], place: TaskPlace): TaskImage[] {
  const parents = new Set(tasks.map(({ values }) => values.parentId ?? null));
  return tasks.map((task, index) => newImage(task, { ...place, number: place.firstNumber + index, isGroup: parents.has(task.id) }));
}

function newImage(
  { id, values, dates, steps = [], fileIds = [], after = [], assignees = [] }: NewTask,
  { engagementId, agencyId, startDay, number, isGroup, isBaseline }: TaskPlace & { readonly number: number; readonly isGroup: boolean },
): TaskImage {
  const [start, finish] = [dates?.start ?? startDay, dates?.finish ?? dates?.start ?? startDay];
  const row = {
    // There are never more tasks in a row than numbers were given.
    ...firstRowOf({ ...values, position: number, startDay: start, dueDay: finish }),
    ...{ id, agency_id: agencyId, engagement_id: engagementId, number, expected_day: finish, is_group: isGroup },
    ...{ steps_all: steps.length, brief_by: (values.outside ?? null) === null ? null : finish },
    ...(isBaseline === true ? { baseline_start: start, baseline_due: finish } : {}),
  };
  return {
    id,
    row: row as unknown as TaskImage['row'],
    assignees: assignees.map(({ personId, share = 1 }) => ({ personId, share })),
    after: sortedAfter(after),
    files: [...new Set(fileIds)],
    steps: steps.map((title) => ({ id: randomUUID(), title, isDone: false })),
  };
}

/** A task with what is changed of it; one that was edited, and not only moved, gets a new version, so that whoever shows it is told. */
export function changedImage(image: TaskImage, { values = {}, parts = {}, steps, isReopened }: ImageChange): TaskImage {
  let row = withValues(image.row, values);
  // Work outside has a day to brief by, which the planner puts right in a moment.
  if ('outside' in values) row = { ...row, brief_by: values.outside === null ? null : (image.row['brief_by'] ?? image.row.due_day) };
  if (steps !== undefined) row = { ...row, steps_all: steps.length, steps_done: steps.filter(({ isDone }) => isDone).length };
  if (isReopened === true) row = { ...row, reopened: Number(image.row['reopened']) + 1 };
  const after = parts.after === undefined ? image.after : sortedAfter(parts.after);
  const changed: TaskImage = { ...image, ...parts, after, row, ...(steps === undefined ? {} : { steps }) };
  const isEdited =
    rowChanges(image.row, row).some(({ field }) => !MOVED.has(groupOf(field))) ||
    TASK_PARTS.some((part) => !isDeepStrictEqual(image[part], changed[part]));
  return isEdited ? { ...changed, row: { ...row, version: image.row.version + 1 } } : changed;
}

/** What the planner and the order of tasks decide. */
const MOVED = new Set(['dates', 'position']);

/** As they are read: by what it waits for. */
const sortedAfter = (after: TaskImage['after']): TaskImage['after'] =>
  [...after].sort((left, right) => (left.taskId < right.taskId ? -1 : 1));
