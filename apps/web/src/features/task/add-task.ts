import type { AddTask, PlanEffect, TaskEdited } from '@crew/contract';
import { call } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { notify } from '../../ui/toasts.tsx';
import { undoOf } from '../plan-change/use-proposal.ts';
import { savedWords } from './use-task-edit.ts';

/** Where tasks of an engagement are added. */
export const tasksOf = (engagementId: string): string => `/engagements/${engagementId}/tasks`;

/** Adds a task and says what that moved; the notice undoes it. What is refused is thrown. */
export async function addTask(engagementId: string, input: AddTask, today: string): Promise<void> {
  const { task, effect, changeId } = await call<TaskEdited>('POST', tasksOf(engagementId), input);
  await refreshAll();
  notify(savedWords(`“${task.title}” added.`, effect, today), undoOf(changeId));
}

/** Whether adding a task does more than add it. */
export const movesAnything = ({ moves, finish, overloads }: PlanEffect): boolean =>
  moves.length > 0 || finish.from !== finish.to || overloads.length > 0;
