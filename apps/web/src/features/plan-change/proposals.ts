import { DEPENDENCY_TYPE_WORDS, type DependencyType, type PlanTask, type TaskChange } from '@crew/contract';
import { addWorkingDays, formatDay, openOnOrAfter, parseDay, workingDaysBetween, type Calendar, type IsoDay } from '@crew/core';
import { count, dayWords } from '../../words/format.ts';
import type { Proposal } from './use-proposal.ts';

/** Whether a task has begun or is over: its start is a fact then. */
export const hasBegun = (task: Pick<PlanTask, 'realStart' | 'status'>): boolean => task.realStart !== null || task.status === 'done';

const isOver = (task: Pick<PlanTask, 'status'>): boolean => task.status === 'done' || task.status === 'dropped';

/** Whether a task's start can be moved: it has neither begun nor ended. */
export const canMove = (task: PlanTask): boolean => !isOver(task) && !hasBegun(task);
/** Whether a task's length can be changed: its subtasks do not decide it, and it is no milestone. */
export const canStretch = (task: PlanTask): boolean => !isOver(task) && !task.isGroup && task.days > 0;

/** The working day some calendar days away from another, and how many working days that is. */
export function workingStep(calendar: Calendar, from: string, calendarDays: number): { readonly day: IsoDay; readonly days: number } {
  const start = parseDay(from) as number;
  const target = openOnOrAfter(calendar, start + calendarDays);
  return { day: formatDay(target), days: workingDaysBetween(calendar, start, target) };
}

/** A task moved by working days: a fixed day moves, anything else may not begin before its new day. Null when that cannot be. */
export function moveProposal(
  task: PlanTask,
  calendar: Calendar,
  { days, today }: { readonly days: number; readonly today: IsoDay },
): Proposal | null {
  if (days === 0 || !canMove(task)) return null;
  const day = formatDay(addWorkingDays(calendar, parseDay(task.start) as number, days));
  const change: TaskChange = { id: task.id, version: task.version, ...(task.fixedDay === null ? { notBefore: day } : { fixedDay: day }) };
  return {
    title: `If “${task.title}” starts ${count(Math.abs(days), 'day')} ${days > 0 ? 'later' : 'earlier'}`,
    note: `You moved it to start ${dayWords(day, today)}.`,
    tasks: [change],
  };
}

/** The same with the day fixed: the planner then never moves it, and says when the plan cannot keep it. */
export function pinned(proposal: Proposal): Proposal | null {
  const [change] = proposal.tasks;
  if (proposal.tasks.length !== 1 || change === undefined || typeof change.notBefore !== 'string') return null;
  const { notBefore, ...rest } = change;
  return { ...proposal, note: `${proposal.note} It would be fixed there.`, tasks: [{ ...rest, fixedDay: notBefore, notBefore: null }] };
}

/** A task made longer or shorter. Null when it cannot be. */
export function stretchProposal(task: PlanTask, days: number): Proposal | null {
  if (!canStretch(task) || days === task.days || days < 1) return null;
  const more = days - task.days;
  return {
    title: `If “${task.title}” takes ${count(Math.abs(more), 'day')} ${more > 0 ? 'longer' : 'less'}`,
    note: `You made it ${count(days, 'working day')} long.`,
    tasks: [{ id: task.id, version: task.version, days }],
  };
}

/** A dependency from one task to another, beside those it has. Null when there is one of that type already, or to itself. */
export function dependencyProposal(from: PlanTask, to: PlanTask, type: DependencyType): Proposal | null {
  if (from.id === to.id || to.after.some((dependency) => dependency.id === from.id && dependency.type === type)) return null;
  const others = to.after
    .filter((dependency) => dependency.id !== from.id)
    .map(({ id, type: kind, lag }) => ({ taskId: id, type: kind, lag }));
  return {
    title: `If “${to.title}” waits for “${from.title}”`,
    note: `You added a dependency: “${to.title}” ${DEPENDENCY_TYPE_WORDS[type]} “${from.title}”.`,
    tasks: [{ id: to.id, version: to.version, after: [...others, { taskId: from.id, type, lag: 0 }] }],
  };
}
