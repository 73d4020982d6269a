import { percentOfSums, sumProgress, type ProgressSums, type ProgressTask, type IsoDay } from '@crew/core';
import type { TaskStatus } from '@crew/contract';

/** What is read of a task to say where an engagement stands. */
export interface SummaryTask {
  readonly id: string;
  readonly title: string;
  readonly phaseId: string;
  /** What has subtasks counts by them; only what was logged on it counts for itself. */
  readonly isGroup: boolean;
  /** Whether its phase has begun. */
  readonly isBegun: boolean;
  readonly status: TaskStatus;
  readonly dueDay: IsoDay;
  readonly estimateMinutes: number | null;
  readonly loggedMinutes: number;
  readonly stepsDone: number;
  readonly stepsAll: number;
  readonly waitingOn: string | null;
  readonly waitingSince: IsoDay | null;
}

/** The figures lists show, as kept in `engagement_summary`. */
export interface SummaryFigures {
  readonly percent: number;
  readonly openTasks: number;
  readonly overdueTasks: number;
  readonly effortMinutes: number;
  readonly loggedMinutes: number;
  readonly nextDue: IsoDay | null;
  readonly waitingTitle: string | null;
  readonly waitingSince: IsoDay | null;
}

export const isOpen = (task: { readonly status: TaskStatus }): boolean => task.status !== 'done' && task.status !== 'dropped';

/** Tasks without subtasks: the ones that are worked on. */
export const leavesOf = <Task extends { readonly isGroup: boolean }>(tasks: readonly Task[]): Task[] =>
  tasks.filter((task) => !task.isGroup);

/** What of a task its share of the percent hangs on. */
export type EffortTask = Pick<SummaryTask, 'status' | 'estimateMinutes' | 'stepsDone' | 'stepsAll'>;

/** A task as the core's progress sees it. */
export const toProgress = (task: EffortTask): ProgressTask => ({
  state: task.status,
  ...(task.estimateMinutes === null ? {} : { estimate: task.estimateMinutes }),
  steps: [task.stepsDone, task.stepsAll],
});

/** The exact sums of effort, by the core's rule. */
export const sumsOf = (tasks: readonly EffortTask[]): ProgressSums => sumProgress(tasks.map(toProgress));

/** Percent of effort done. */
export const percentOf = (tasks: readonly EffortTask[]): number => percentOfSums(sumsOf(tasks));

/** Sums as they are kept: whole numbers of any size as text. */
export interface KeptSums extends Omit<ProgressSums, 'all' | 'done' | 'scale'> {
  readonly all: string;
  readonly done: string;
  readonly scale: string;
}

export const keepSums = ({ all, done, scale, ...counts }: ProgressSums): KeptSums => ({
  ...{ all: String(all), done: String(done), scale: String(scale) },
  ...counts,
});

export const readSums = ({ all, done, scale, ...counts }: KeptSums): ProgressSums => ({
  ...{ all: BigInt(all), done: BigInt(done), scale: BigInt(scale) },
  ...counts,
});

/**
 * Where an engagement stands on a day. Overdue is open work of a begun phase that was due
 * before that day; held is what has waited longest on the client, of two since the same day
 * the first by title: rows come in any order, and the answer must not hang on it.
 */
export function summarise(tasks: readonly SummaryTask[], today: IsoDay): SummaryFigures {
  const leaves = leavesOf(tasks);
  const open = leaves.filter(isOpen);
  const held = open.filter((task) => task.waitingOn === 'client' && task.waitingSince !== null).sort(byWaiting)[0];
  return {
    percent: percentOf(leaves),
    openTasks: open.length,
    overdueTasks: open.filter((task) => task.isBegun && task.dueDay < today).length,
    effortMinutes: sum(leaves.filter((task) => task.status !== 'dropped').map((task) => task.estimateMinutes ?? 0)),
    loggedMinutes: sum(tasks.map((task) => task.loggedMinutes)),
    nextDue: open.map((task) => task.dueDay).sort()[0] ?? null,
    waitingTitle: held?.title ?? null,
    waitingSince: held?.waitingSince ?? null,
  };
}

function byWaiting(left: SummaryTask, right: SummaryTask): number {
  const [mine, theirs] = [left, right].map((task) => `${task.waitingSince} ${task.title}`) as [string, string];
  return mine < theirs ? -1 : mine > theirs ? 1 : 0;
}

const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);
