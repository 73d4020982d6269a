import type { IsoDay } from '@crew/core';
import type { PersonRef, WeekPlan, WeekPlanTask } from '@crew/contract';

/** In the order they lie: what is asked for first, then where it goes, then what is still to be placed. */
export const BANDS = ['left', 'this', 'next', 'nobody', 'unplaced'] as const;
export type Band = (typeof BANDS)[number];

export const BAND_WORDS: Readonly<Record<Band, string>> = {
  left: 'Carried over',
  nobody: 'Unassigned',
  unplaced: 'Not placed yet',
  this: 'This week',
  next: 'Next week',
};

/** A task with the engagement and the people it names. */
export interface PlannedTask extends WeekPlanTask {
  readonly engagement: WeekPlan['engagements'][number];
  readonly assignees: readonly PersonRef[];
}

/** The week plan as its screen reads it. */
export type PlannedWeek = Omit<WeekPlan, 'tasks'> & { readonly tasks: readonly PlannedTask[] };

/** Puts to each task what the answer says once beside all of them. */
export function withNames(plan: WeekPlan): PlannedWeek {
  const engagements = new Map(plan.engagements.map((engagement) => [engagement.id, engagement]));
  const everybody = new Map(plan.everybody.map((person) => [person.id, person]));
  // One statement reads all three, so none of them is missing.
  const tasks = plan.tasks.map((task) => ({
    ...task,
    engagement: engagements.get(task.engagementId) as PlannedTask['engagement'],
    assignees: task.assigneeIds.map((id) => everybody.get(id) as PersonRef),
  }));
  return { ...plan, tasks };
}

/** The band a task lies in: its week first, then whether somebody has it. Further weeks count as the next. */
export function bandOf(task: PlannedTask, { thisWeek, nextWeek }: Pick<WeekPlan, 'thisWeek' | 'nextWeek'>): Band {
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
export function shownTasks(plan: PlannedWeek, who: string | null): PlannedTask[] {
  return plan.tasks.filter((task) => who === null || task.assignees.length === 0 || task.assignees.some((person) => person.id === who));
}

export const minutesOf = (tasks: readonly PlannedTask[]): number => tasks.reduce((sum, task) => sum + task.minutes, 0);
