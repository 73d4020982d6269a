import type { ProgressTask } from './progress.ts';

const FALLBACK_MINUTES = 60;

/**
 * What a percent is made of, exact, so that it can be kept and a single change added to it.
 * Minutes of effort in all; `done / scale` of them are done; `middle` stands in for a missing
 * estimate; the counts are of tasks that are not dropped.
 */
export interface ProgressSums {
  readonly all: bigint;
  readonly done: bigint;
  readonly scale: bigint;
  readonly middle: number;
  readonly unestimated: number;
  readonly tasks: number;
  readonly doneTasks: number;
}

/** Sums over tasks that have been checked. */
export function sumProgress(tasks: readonly ProgressTask[]): ProgressSums {
  const live = tasks.filter((task) => task.state !== 'dropped');
  const estimates = live.flatMap((task) => (task.estimate === undefined ? [] : [task.estimate]));
  const nothing = { all: 0n, done: 0n, scale: 1n, middle: lowerMiddle(estimates), unestimated: 0, tasks: 0, doneTasks: 0 };
  return live.reduce<ProgressSums>((sums, task) => add(sums, task, 1), nothing);
}

/** Percent of effort done, rounded down; with no effort at all it is 100 once every task is done, else 0. */
export function percentOfSums({ all, done, scale, tasks, doneTasks }: ProgressSums): number {
  if (all === 0n) return tasks > 0 && tasks === doneTasks ? 100 : 0;
  return Number((done * 100n) / (all * scale));
}

/**
 * The sums after one task changed from `before` to `after`; null when the change moves the
 * middle estimate that other tasks count by, so that only summing anew is right.
 */
export function changeSums(sums: ProgressSums, before: ProgressTask, after: ProgressTask): ProgressSums | null {
  const estimateOf = (task: ProgressTask): number | undefined => (task.state === 'dropped' ? undefined : task.estimate);
  const changed = add(add(sums, before, -1), after, 1);
  const needsMiddle = sums.unestimated > 0 || changed.unestimated > 0;
  if (needsMiddle && (estimateOf(before) !== estimateOf(after) || sums.unestimated === 0)) return null;
  return changed;
}

/** With one task more (`sign` 1) or less (-1). */
function add(sums: ProgressSums, task: ProgressTask, sign: 1 | -1): ProgressSums {
  if (task.state === 'dropped') return sums;
  const effort = BigInt(task.estimate ?? sums.middle);
  const [part, whole] = doneShare(task);
  const scale = leastCommonMultiple(sums.scale, whole);
  const done = sums.done * (scale / sums.scale) + BigInt(sign) * effort * part * (scale / whole);
  return {
    all: sums.all + BigInt(sign) * effort,
    done,
    scale,
    middle: sums.middle,
    unestimated: sums.unestimated + (task.estimate === undefined ? sign : 0),
    tasks: sums.tasks + sign,
    doneTasks: sums.doneTasks + (task.state === 'done' ? sign : 0),
  };
}

function doneShare(task: ProgressTask): readonly [bigint, bigint] {
  if (task.state === 'done') return [1n, 1n];
  const [part, whole] = task.steps ?? [0, 0];
  return whole === 0 || part === 0 ? [0n, 1n] : [BigInt(part), BigInt(whole)];
}

function leastCommonMultiple(left: bigint, right: bigint): bigint {
  let [divisor, rest] = [left, right];
  while (rest !== 0n) [divisor, rest] = [rest, divisor % rest];
  return (left / divisor) * right;
}

function lowerMiddle(values: readonly number[]): number {
  const sorted = [...values].sort((left, right) => left - right);
  return sorted[(sorted.length - 1) >> 1] ?? FALLBACK_MINUTES;
}
