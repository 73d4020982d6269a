import type { IsoDay } from '@crew/core';
import type { EngagementPlan, PlanPhase, PlanTask, TaskMove } from '@crew/contract';
import { linesOf, taskListOf } from '../task-list/task-list.ts';
import type { ForecastSpan } from './head-labels.ts';

/** A line of the timeline: a phase, or a task at some depth below it. */
export type TimelineRow =
  | { readonly kind: 'phase'; readonly id: string; readonly phase: PlanPhase; readonly tasks: number; readonly isFolded: boolean }
  | { readonly kind: 'task'; readonly id: string; readonly task: PlanTask; readonly depth: number; readonly isFolded: boolean };

/** The lines in order, parts below what they are parts of; what is folded keeps its parts to itself. */
export function timelineRows({ phases, tasks }: Pick<EngagementPlan, 'phases' | 'tasks'>, folded: ReadonlySet<string>): TimelineRow[] {
  const list = taskListOf(tasks);
  return phases.flatMap((phase): TimelineRow[] => {
    const isFolded = folded.has(phase.id);
    const own = tasks.filter((task) => task.phaseId === phase.id);
    const tops = own.filter((task) => task.parentId === null);
    const lines = isFolded ? [] : linesOf(list, tops, folded);
    return [
      { kind: 'phase', id: phase.id, phase, tasks: own.length, isFolded },
      ...lines.map((line): TimelineRow => ({ kind: 'task', id: line.task.id, ...line })),
    ];
  });
}

/** Every day the timeline must have room for. */
export function daysOf(
  { engagement, baseline, phases, tasks }: EngagementPlan,
  today: IsoDay,
  forecast: ForecastSpan | null = null,
): IsoDay[] {
  const days = [engagement.start, engagement.finish, baseline.finish, today, ...phases.flatMap((phase) => [phase.start, phase.finish])];
  const promised = [...(engagement.promise === null ? [] : [engagement.promise]), ...(forecast === null ? [] : [forecast.safe])];
  return [...days, ...promised, ...tasks.flatMap((task) => [task.start, task.due, task.expected, task.baselineStart ?? task.start])];
}

/** Where phases that have not begun would lie when some of their tasks move. */
export function movedPhases(
  { phases, tasks }: Pick<EngagementPlan, 'phases' | 'tasks'>,
  moves: ReadonlyMap<string, TaskMove>,
): ReadonlyMap<string, { readonly start: IsoDay; readonly due: IsoDay }> {
  const spans = phases.flatMap((phase) => {
    const own = tasks.filter((task) => task.phaseId === phase.id && task.status !== 'dropped');
    if (phase.state === 'over' || !own.some((task) => moves.has(task.id))) return [];
    const spanOf = (task: PlanTask) => moves.get(task.id)?.to ?? task;
    const starts = own.map((task) => spanOf(task).start).sort();
    const ends = own.map((task) => spanOf(task).due).sort();
    const start = phase.state === 'running' ? phase.start : (starts[0] ?? phase.start);
    return [[phase.id, { start, due: ends.at(-1) ?? phase.finish }] as const];
  });
  return new Map(spans);
}
