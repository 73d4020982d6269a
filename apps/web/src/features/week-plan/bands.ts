import type { IsoDay } from '@crew/core';
import type { WeekPlan, WeekPlanTask } from '@crew/contract';

/** In the order they lie: what is asked for first, then where it goes, then what is still to be placed. */
export const BANDS = ['left', 'this', 'next', 'nobody', 'unplaced'] as const;
export type Band = (typeof BANDS)[number];

export const BAND_WORDS: Readonly<Record<Band, string>> = {
  left: 'Left over',
  nobody: 'Unassigned',
  unplaced: 'Not placed yet',
  this: 'This week',
  next: 'Next week',
};

/** The band a task lies in: its week first, then whether somebody has it. Further weeks count as the next. */
export function bandOf(task: WeekPlanTask, { thisWeek, nextWeek }: Pick<WeekPlan, 'thisWeek' | 'nextWeek'>): Band {
  if (task.plannedWeek === null) return task.assignees.length === 0 ? 'nobody' : 'unplaced';
  if (task.plannedWeek < thisWeek) return 'left';
  return task.plannedWeek < nextWeek ? 'this' : 'next';
}

/** The week a band stands for; null where it stands for none. */
export function weekOfBand(band: Band, { thisWeek, nextWeek }: Pick<WeekPlan, 'thisWeek' | 'nextWeek'>): IsoDay | null {
  if (band === 'this') return thisWeek;
  return band === 'next' ? nextWeek : null;
}

/** Tasks of a role or a person; work nobody has is everybody's. */
export function shownTasks(plan: WeekPlan, who: string | null): WeekPlanTask[] {
  return plan.tasks.filter((task) => who === null || task.assignees.length === 0 || task.assignees.some((person) => person.id === who));
}

export const minutesOf = (tasks: readonly WeekPlanTask[]): number => tasks.reduce((sum, task) => sum + task.minutes, 0);
