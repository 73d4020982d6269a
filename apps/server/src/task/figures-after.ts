import { changeSums, percentOfSums, type ProgressSums, type IsoDay } from '@crew/core';
import {
  isOpen,
  readSums,
  summarise,
  leavesOf,
  sumsOf,
  toProgress,
  type KeptSums,
  type SummaryFigures,
  type SummaryTask,
} from '../schedule/summarise.ts';
import type { TaskFields } from './next-fields.ts';

/** Where an engagement stood before a change, as kept, and what its other tasks add to it. */
export interface Standing {
  /** The day the figures were computed for: overdue hangs on it. */
  readonly refreshedOn: string;
  readonly openTasks: number;
  readonly overdueTasks: number;
  readonly effortMinutes: number;
  readonly loggedMinutes: number;
  readonly sums: KeptSums | null;
  readonly phaseSums: KeptSums | null;
  /** Of all open tasks but the changed one: the first due day, and what has waited longest on the client. */
  readonly nextDue: IsoDay | null;
  readonly held: { readonly title: string | null; readonly since: IsoDay | null };
}

/** The changed task as the figures need it. */
export type CountedTask = TaskFields & Pick<SummaryTask, 'phaseId' | 'isBegun' | 'dueDay' | 'loggedMinutes' | 'stepsDone' | 'stepsAll'>;

/** What is written with a status. */
export interface Figures {
  readonly summary: SummaryFigures;
  readonly sums: ProgressSums;
  readonly phaseSums: ProgressSums;
}

/** The figures after a status, added to what is kept; null when that cannot be right and all tasks must be read. */
export function figuresAfter(
  before: Standing,
  task: CountedTask,
  change: { readonly next: TaskFields; readonly today: IsoDay },
): Figures | null {
  if (before.sums === null || before.phaseSums === null || before.refreshedOn !== change.today) return null;
  const after = { ...task, ...change.next };
  const sums = changeSums(readSums(before.sums), toProgress(task), toProgress(after));
  const phaseSums = changeSums(readSums(before.phaseSums), toProgress(task), toProgress(after));
  if (sums === null || phaseSums === null) return null;
  const isOverdue = (one: CountedTask): boolean => isOpen(one) && one.isBegun && one.dueDay < change.today;
  const effortOf = (one: CountedTask): number => (one.status === 'dropped' ? 0 : (one.estimateMinutes ?? 0));
  const held = [before.held, { title: after.title, since: after.waitingOn === 'client' ? after.waitingSince : null }]
    .filter((one) => one.since !== null)
    .sort((left, right) => (`${left.since} ${left.title}` < `${right.since} ${right.title}` ? -1 : 1))[0];
  const dues = [before.nextDue, isOpen(after) ? task.dueDay : null].filter((day) => day !== null).sort();
  const summary = {
    percent: percentOfSums(sums),
    openTasks: before.openTasks + Number(isOpen(after)) - Number(isOpen(task)),
    overdueTasks: before.overdueTasks + Number(isOverdue(after)) - Number(isOverdue(task)),
    effortMinutes: before.effortMinutes + effortOf(after) - effortOf(task),
    loggedMinutes: before.loggedMinutes,
    nextDue: dues[0] ?? null,
    waitingTitle: held?.title ?? null,
    waitingSince: held?.since ?? null,
  };
  return { summary, sums, phaseSums };
}

/** The figures summed over all tasks of the engagement, the changed one among them as it will be. */
export function figuresOf(tasks: readonly SummaryTask[], change: { readonly phaseId: string; readonly today: IsoDay }): Figures {
  return {
    summary: summarise(tasks, change.today),
    sums: sumsOf(leavesOf(tasks)),
    phaseSums: sumsOf(leavesOf(tasks).filter((task) => task.phaseId === change.phaseId)),
  };
}
