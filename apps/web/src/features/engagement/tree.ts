import type { EngagementPlan, PlanTask, TaskChange } from '@crew/contract';
import { taskListOf, topsChosen } from '../task-list/task-list.ts';

const siblingsOf = (task: PlanTask, tasks: readonly PlanTask[]): PlanTask[] =>
  tasks.filter((other) => other.phaseId === task.phaseId && other.parentId === task.parentId);

const changeOf = (task: PlanTask, place: Pick<TaskChange, 'parentId' | 'phaseId' | 'beforeId'>): TaskChange => ({
  id: task.id,
  version: task.version,
  ...place,
});

/** A task moved up or down among its siblings; null at the end of the list. */
export function moveAmong(task: PlanTask, tasks: readonly PlanTask[], by: -1 | 1): TaskChange | null {
  const row = siblingsOf(task, tasks);
  const index = row.findIndex((other) => other.id === task.id);
  if (index + by < 0 || index + by >= row.length) return null;
  const before = by === -1 ? row[index - 1] : row[index + 2];
  return changeOf(task, { parentId: task.parentId, beforeId: before?.id ?? null });
}

/** A task made a part of its sibling above; null when there is none. */
export function moveIn(task: PlanTask, tasks: readonly PlanTask[]): TaskChange | null {
  const row = siblingsOf(task, tasks);
  const above = row[row.findIndex((other) => other.id === task.id) - 1];
  return above === undefined ? null : changeOf(task, { parentId: above.id, beforeId: null });
}

/** A part moved out, to come after its parent; null when it has none. */
export function moveOut(task: PlanTask, tasks: readonly PlanTask[]): TaskChange | null {
  const parent = tasks.find((other) => other.id === task.parentId);
  if (parent === undefined) return null;
  const row = siblingsOf(parent, tasks);
  const behind = row[row.findIndex((other) => other.id === parent.id) + 1];
  return changeOf(task, { parentId: parent.parentId, beforeId: behind?.id ?? null });
}

/** Where something was dropped: on a phase or a task, or just before or after a task. */
export interface Drop {
  readonly key: string;
  readonly place: 'on' | 'before' | 'after';
}

/** Tasks moved to where they were dropped, in their order; null where they cannot go. */
export function dropTasks(ids: readonly string[], drop: Drop, plan: Pick<EngagementPlan, 'phases' | 'tasks'>): TaskChange[] | null {
  const list = taskListOf(plan.tasks);
  const chosen = plan.tasks.filter((task) => ids.includes(task.id));
  const moved = topsChosen(list, chosen);
  const phase = plan.phases.find((candidate) => candidate.id === drop.key);
  if (phase !== undefined) return moved.map((task) => changeOf(task, { phaseId: phase.id, parentId: null, beforeId: null }));
  const target = plan.tasks.find((task) => task.id === drop.key);
  if (target === undefined || ids.includes(target.id) || !topsChosen(list, [...moved, target]).includes(target)) return null;
  if (drop.place === 'on') return moved.map((task) => changeOf(task, { parentId: target.id, beforeId: null }));
  const row = siblingsOf(target, plan.tasks).filter((task) => !ids.includes(task.id));
  const next = drop.place === 'before' ? target : row[row.findIndex((other) => other.id === target.id) + 1];
  const place = { parentId: target.parentId, phaseId: target.phaseId, beforeId: next?.id ?? null };
  return moved.map((task) => changeOf(task, place));
}
