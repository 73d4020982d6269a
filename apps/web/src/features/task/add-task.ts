import type { IsoDay } from '@crew/core';
import type { AddTask, PlanEffect, TaskEdited } from '@crew/contract';
import { call } from '../../api/client.ts';
import type { Step } from '../../session/perform.ts';
import { savedWords } from './use-task-edit.ts';

/** Where tasks of an engagement are added. */
export const tasksOf = (engagementId: string): string => `/engagements/${engagementId}/tasks`;

/** Adding a task: what that moved is said, and the notice undoes it. */
export const additionOf = (engagementId: string, input: AddTask, today: IsoDay): Step<TaskEdited> => ({
  send: () => call<TaskEdited>('POST', tasksOf(engagementId), input),
  said: ({ task, effect }) => savedWords(`“${task.title}” added.`, effect, today),
  undo: ({ changeId }) => changeId,
});

/** Whether adding a task does more than add it. */
export const movesAnything = ({ moves, finish, overloads }: PlanEffect): boolean =>
  moves.length > 0 || finish.from !== finish.to || overloads.length > 0;
