import { TASK_STATUS, type TaskStatus } from '../words.ts';
import { refuse, requireList, requireObject, requireWhole } from '../check.ts';
import { attempt, type Result } from '../result.ts';
import { percentOfSums, sumProgress } from './sums.ts';

/** A task as progress sees it: `estimate` in minutes, `steps` as [done, all]. */
export interface ProgressTask {
  readonly state: TaskStatus;
  readonly estimate?: number;
  readonly steps?: readonly [number, number];
}

/**
 * Percent of effort done, rounded down; dropped work is left out. A task without an estimate counts
 * the lower middle estimate of the others (60 minutes if none has one). Without any effort it is 100
 * once all is done, else 0. Exact: sums are fractions, not floats.
 */
export function progress(input: { readonly tasks: readonly ProgressTask[] }): Result<{ readonly percent: number }> {
  return attempt(() => {
    requireObject(input, 'input');
    requireList(input.tasks, 'tasks');
    return { percent: percentOfSums(sumProgress(input.tasks.map(readTask))) };
  });
}

function readTask(task: ProgressTask, position: number): ProgressTask {
  const at = `tasks[${position}]`;
  requireObject(task, at);
  if (!TASK_STATUS.includes(task.state)) refuse({ kind: 'invalid-field', at: `${at}.state`, expected: TASK_STATUS.join(', ') });
  const estimate = task.estimate ?? undefined;
  if (estimate !== undefined) requireWhole(estimate, `${at}.estimate`, 0);
  const read = estimate === undefined ? { state: task.state } : { state: task.state, estimate };
  if (task.steps === undefined || task.steps === null) return read;
  requireList(task.steps, `${at}.steps`);
  const part = requireWhole(task.steps[0], `${at}.steps[0]`, 0);
  const whole = requireWhole(task.steps[1], `${at}.steps[1]`, 0);
  if (part > whole) refuse({ kind: 'invalid-field', at: `${at}.steps`, expected: 'done steps, then all steps' });
  return { ...read, steps: [part, whole] };
}
