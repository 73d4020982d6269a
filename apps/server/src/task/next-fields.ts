import type { IsoDay } from '@crew/core';
import type { EditTask, FieldChange, TaskStatus } from '@crew/contract';
import type { TaskValues } from './task-fields.ts';

/** The fields of a task that an edit can change. */
type Edited =
  | ('title' | 'description' | 'status' | 'waitingOn' | 'waitingSince' | 'realStart' | 'doneOn' | 'days' | 'estimateMinutes' | 'fixedDay')
  | ('notBefore' | 'priority' | 'phaseId' | 'parentId' | 'deliverableId' | 'labels' | 'pageLinks' | 'customFields' | 'isShownToClient')
  | ('isChargeable' | 'mayStartEarly' | 'outside');

/** What of a task an edit can change, as it stands in the table. */
export type TaskFields = Pick<TaskValues, Edited>;

/** The task after an edit, apart from its place in the plan; a status sets its own dates. */
export function nextFields(task: TaskFields & { readonly startDay: IsoDay }, input: Partial<EditTask>, today: IsoDay): TaskFields {
  const status = input.status ?? task.status;
  const waitingOn = status === 'waiting' ? (input.waitingOn ?? task.waitingOn ?? 'client') : null;
  return {
    phaseId: task.phaseId,
    parentId: task.parentId,
    deliverableId: input.deliverableId === undefined ? task.deliverableId : input.deliverableId,
    labels: input.labels === undefined ? task.labels : [...new Set(input.labels.map((label) => label.trim()))],
    pageLinks: input.pageLinks === undefined ? task.pageLinks : input.pageLinks.map(({ title, url }) => ({ title: title.trim(), url })),
    customFields: input.customFields?.map(({ fieldId, value }) => ({ fieldId, value })) ?? task.customFields,
    outside: nextOutside(task.outside, input.outside),
    title: input.title?.trim() ?? task.title,
    description: input.description ?? task.description,
    status,
    waitingOn,
    waitingSince: waitingOn === null ? null : waitingOn === task.waitingOn ? task.waitingSince : today,
    days: input.days ?? task.days,
    estimateMinutes: input.estimateMinutes === undefined ? task.estimateMinutes : input.estimateMinutes,
    fixedDay: input.fixedDay === undefined ? task.fixedDay : input.fixedDay,
    notBefore: input.notBefore === undefined ? task.notBefore : input.notBefore,
    priority: input.priority ?? task.priority,
    isShownToClient: input.isShownToClient ?? task.isShownToClient,
    isChargeable: input.isChargeable ?? task.isChargeable,
    mayStartEarly: input.mayStartEarly ?? task.mayStartEarly,
    realStart: realStartOf(task, status, today),
    doneOn: status !== 'done' ? null : (task.doneOn ?? today),
  };
}

function nextOutside(now: TaskValues['outside'], wanted: EditTask['outside']): TaskValues['outside'] {
  if (wanted === undefined || wanted === null) return wanted === null ? null : now;
  const { maker, turnaroundDays, bufferDays, neededOn, state } = wanted;
  return {
    ...{ outside_maker: maker.trim(), outside_turnaround: turnaroundDays, outside_buffer: bufferDays },
    ...{ outside_needed_on: neededOn ?? null, outside_state: state },
  };
}

/** Work begins when it is first under way; what goes straight to done began on its planned day, if that has come. */
function realStartOf(task: { readonly realStart: IsoDay | null; readonly startDay: IsoDay }, status: TaskStatus, today: IsoDay) {
  if (status === 'queued' || (status === 'waiting' && task.realStart === null)) return null;
  if (task.realStart !== null) return task.realStart > today ? today : task.realStart;
  if (status === 'done' && task.startDay < today) return task.startDay;
  return status === 'dropped' ? null : today;
}

/** Differences, field by field, for the history. */
export function changesBetween(task: TaskFields, next: TaskFields): FieldChange[] {
  return (Object.keys(next) as (keyof TaskFields)[])
    .filter((field) => JSON.stringify(next[field]) !== JSON.stringify(task[field]))
    .map((field): FieldChange => ({ field, from: task[field], to: next[field] }));
}

/** Whether finished work is reopened. */
export const isReopened = (task: TaskFields, next: TaskFields): boolean =>
  task.status === 'done' && next.status !== 'done' && next.status !== 'dropped';
