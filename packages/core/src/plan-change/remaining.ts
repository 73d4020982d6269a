/**
 * Working days left of a task under way. With time logged, in proportion to the effort left;
 * without, its length less the days gone by. At least one day, never more than its length
 * unless the length is zero.
 */
export function remainingDays(task: {
  readonly days: number;
  readonly elapsedDays: number;
  readonly estimateMinutes: number | null;
  readonly loggedMinutes: number;
}): number {
  if (task.days === 0) return 0;
  const byTime = task.days - task.elapsedDays;
  const byEffort =
    task.estimateMinutes !== null && task.estimateMinutes > 0 && task.loggedMinutes > 0
      ? Math.ceil((task.days * Math.max(0, task.estimateMinutes - task.loggedMinutes)) / task.estimateMinutes)
      : byTime;
  return Math.min(task.days, Math.max(1, byEffort));
}
