import type { Desk, DeskTask, EngagementPlan, PlanTask, TaskSheet } from '@crew/contract';
import { mutate } from 'swr';
import type { TaskChange } from './use-task-edit.ts';

/** Fields that look the same on every screen before and after the server has them. */
const PLAIN = [
  'title',
  'status',
  'priority',
  'days',
  'estimateMinutes',
  'fixedDay',
  'isShownToClient',
  'isChargeable',
  'mayStartEarly',
] as const;

/** A task as it will be once the change is saved, as far as that can be known here. */
export function changed<Task extends { readonly id: string }>(task: Task, change: TaskChange): Task {
  const known = Object.fromEntries(
    PLAIN.filter((field) => field in task && change[field] !== undefined).map((field) => [field, change[field]]),
  );
  if (change.status === undefined || !('waitingOn' in task)) return { ...task, ...known };
  return { ...task, ...known, waitingOn: change.status === 'waiting' ? (change.waitingOn ?? 'client') : null };
}

/** Puts a change on every screen that shows the task, before the server has it; reading anew puts it right either way. */
export async function showAtOnce(taskId: string, change: TaskChange): Promise<void> {
  const inList = <Task extends { readonly id: string }>(tasks: readonly Task[]): readonly Task[] =>
    tasks.map((task) => (task.id === taskId ? changed(task, change) : task));
  await Promise.all([
    mutate<TaskSheet>(`/tasks/${taskId}`, (sheet) => (sheet === undefined ? undefined : changed(sheet, change)), { revalidate: false }),
    mutate<EngagementPlan>(
      (key) => typeof key === 'string' && /^\/engagements\/[^/]+\/plan$/.test(key),
      (plan) => (plan === undefined ? undefined : { ...plan, tasks: inList<PlanTask>(plan.tasks) }),
      { revalidate: false },
    ),
    mutate<Desk>(
      (key) => typeof key === 'string' && key.startsWith('/desk'),
      (desk) => (desk === undefined ? undefined : withTask(desk, inList)),
      { revalidate: false },
    ),
  ]);
}

function withTask(desk: Desk, inList: (tasks: readonly DeskTask[]) => readonly DeskTask[]): Desk {
  const { now, overdue, ready, waiting, fresh } = desk;
  return {
    ...desk,
    now: now === null ? null : (inList([now])[0] ?? null),
    overdue: inList(overdue),
    ready: inList(ready),
    waiting: inList(waiting),
    fresh: inList(fresh),
  };
}
