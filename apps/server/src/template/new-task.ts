import type { Priority, TaskKind } from '@crew/contract';
import type { TemplateTask, TemplateWay } from '@crew/core';
import type { TaskWay } from '../task/task-fields.ts';
import type { NewTask } from '../task/task-images.ts';

/** What a task of a template becomes part of. */
interface Target {
  /** The task of the engagement that a task of the template is or becomes; undefined for one that is not there. */
  readonly idOf: (templateTaskId: string) => string | undefined;
  readonly phaseId: string;
  /** By name. */
  readonly deliverables: ReadonlyMap<string, string>;
  /** In-house work, which nobody pays for. */
  readonly isOwn: boolean;
  /** All of the template; those that lead to what is not there are left out. */
  readonly ways: readonly TemplateWay[];
}

/** A new task of an engagement with everything a task of a template presets, but for who does it. */
export function newTaskOf(
  task: TemplateTask & { readonly originId?: string | null },
  { idOf, phaseId, deliverables, isOwn, ways }: Target,
): NewTask {
  const { title, description, roleId, estimateMinutes, days, labels, pageLinks, customFields, outside, isShownToClient } = task;
  return {
    id: idOf(task.id) as string,
    values: {
      ...{ title, description, roleId, estimateMinutes, days, labels, pageLinks, customFields, isShownToClient, phaseId },
      // A template is checked against the words of the contract when it is saved.
      ...{ kind: task.kind as TaskKind, priority: task.priority as Priority, isChargeable: task.isChargeable && !isOwn },
      templateTaskId: task.originId === undefined ? task.id : task.originId,
      ways: ways.filter(({ fromId }) => fromId === task.id).flatMap((way) => wayOf(way, idOf)),
      parentId: task.parentId === null ? null : (idOf(task.parentId) ?? null),
      anchor: { anchor_at: task.anchor.at, anchor_offset: task.anchor.offset },
      deliverableId: task.deliverable === null ? null : (deliverables.get(task.deliverable) ?? null),
      outside:
        outside === null
          ? null
          : {
              ...{ outside_maker: outside.maker, outside_turnaround: outside.turnaroundDays, outside_buffer: outside.bufferDays },
              ...{ outside_needed_on: null, outside_state: 'to-brief' },
            },
    },
    steps: task.steps,
    fileIds: task.files.map(({ fileId }) => fileId),
    after: task.after.flatMap(({ taskId, type, lag }) => {
      const before = idOf(taskId);
      return before === undefined ? [] : [{ taskId: before, type, lag }];
    }),
  };
}

function wayOf({ id, toId, ending, reason }: TemplateWay, idOf: Target['idOf']): TaskWay[] {
  if (toId === null) return [{ id, toId, ending, reason }];
  const target = idOf(toId);
  return target === undefined ? [] : [{ id, toId: target, ending, reason }];
}
