import type { IsoDay } from '@crew/core';
import type { EngagementPlan, PlanTask, Standing } from '@crew/contract';
import { isOpen, leavesOf, percentOf } from '../schedule/summarise.ts';

/** Reasons about days or the engagement's end, not about what others do. */
const OF_DAYS: readonly Standing['kind'][] = ['late', 'proposal', 'finished', 'dropped', 'on-time'];

/**
 * A plan for somebody who sees only their own tasks: those, their phases and deliverables, and figures
 * of just those. Dependencies on other tasks, the forecast, the budget and what the engagement waits
 * for are left out; the list of phases is not.
 */
export function cutPlan(
  plan: EngagementPlan,
  { personId, today }: { readonly personId: string | null; readonly today: IsoDay },
): EngagementPlan {
  const mine = plan.tasks.filter((task) => task.assignees.some(({ id }) => id === personId));
  const ids = new Set(mine.map(({ id }) => id));
  const isHere = ({ id }: { readonly id: string }): boolean => mine.some((task) => task.phaseId === id);
  const tasks = mine.map((task): PlanTask => ({
    ...task,
    parentId: task.parentId !== null && ids.has(task.parentId) ? task.parentId : null,
    after: task.after.filter(({ id }) => ids.has(id)),
  }));
  const standing = plan.engagement.standing.filter(({ kind }) => OF_DAYS.includes(kind));
  const [worst = { kind: 'on-time' } as const, ...rest] = standing;
  const done = (phaseId: string | null): number =>
    percentOf(leavesOf(tasks).filter((task) => phaseId === null || task.phaseId === phaseId));
  return {
    ...plan,
    engagement: {
      ...plan.engagement,
      ...{ contactId: null, contact: null, template: null, forecast: null, standing: [worst, ...rest] },
      percent: done(null),
      loggedMinutes: leavesOf(tasks).reduce((sum, task) => sum + task.loggedMinutes, 0),
      effortMinutes: leavesOf(tasks).reduce((sum, task) => sum + (task.status === 'dropped' ? 0 : (task.estimateMinutes ?? 0)), 0),
      overdue: leavesOf(tasks).filter((task) => isOpen(task) && task.due < today).length,
    },
    phases: plan.phases.filter(isHere).map((phase) => ({ ...phase, percent: done(phase.id), handoffId: null, gate: { clear: 0, all: 0 } })),
    deliverables: plan.deliverables.filter(({ id }) => tasks.some((task) => task.deliverableId === id)),
    tasks,
  };
}
