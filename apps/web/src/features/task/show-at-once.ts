import type { CrewPerson, Desk, DeskTask, EngagementPlan, PlanTask, TaskSheet } from '@crew/contract';
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
  'labels',
  'pageLinks',
  'customFields',
] as const;

/** Fields of a change that are given whole and cannot be shown before the server has them. */
export const notShownAtOnce = (change: TaskChange): string[] =>
  Object.entries(change).flatMap(([field, value]) =>
    typeof value === 'object' && value !== null && !(PLAIN as readonly string[]).includes(field) && field !== 'assigneeIds' ? [field] : [],
  );

/** Who is meant, when all of them are known here. */
function peopleOf(ids: readonly string[], crew: readonly CrewPerson[]) {
  const people = ids.flatMap((id) => crew.filter((person) => person.id === id));
  return people.length === ids.length ? people.map(({ id, name, initials }) => ({ id, name, initials })) : null;
}

/** A task as it will be once the change is saved, as far as that can be known here. */
export function changed<Task extends { readonly id: string }>(task: Task, change: TaskChange, crew: readonly CrewPerson[] = []): Task {
  const known = Object.fromEntries(
    PLAIN.filter((field) => field in task && change[field] !== undefined).map((field) => [field, change[field]]),
  );
  const people = 'assignees' in task && change.assigneeIds !== undefined ? peopleOf(change.assigneeIds, crew) : null;
  const shown = { ...task, ...known, ...(people === null ? {} : { assignees: people }) };
  if (change.status === undefined || !('waitingOn' in task)) return shown;
  return { ...shown, waitingOn: change.status === 'waiting' ? (change.waitingOn ?? 'client') : null };
}

/** Puts a change on every screen that shows the task, before the server has it; reading anew puts it right either way. */
export async function showAtOnce(taskId: string, change: TaskChange, crew: readonly CrewPerson[] = []): Promise<void> {
  const inList = <Task extends { readonly id: string }>(tasks: readonly Task[]): readonly Task[] =>
    tasks.map((task) => (task.id === taskId ? changed(task, change, crew) : task));
  await Promise.all([
    mutate<TaskSheet>(`/tasks/${taskId}`, (sheet) => (sheet === undefined ? undefined : changed(sheet, change, crew)), {
      revalidate: false,
    }),
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
