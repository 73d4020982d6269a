import type { PlanEngagement } from '@crew/contract';
import { toSchedulePlan, type CalendarInput, type ScheduleInput } from '@crew/core';
import { Refusal } from '../platform/refusal.ts';
import type { TemplateDocument, TemplateTaskDocument } from './template.repository.ts';

/** Leaves out phases and tasks; what came after a dropped phase follows the one before it. */
export function cutTemplate(template: TemplateDocument, plan: PlanEngagement): TemplateDocument {
  const dropped = new Set(plan.withoutPhases ?? []);
  const without = new Set(plan.withoutTasks ?? []);
  const unwanted = new Set(plan.withoutDeliverables ?? []);
  for (const name of unwanted)
    if (!template.tasks.some((task) => task.deliverable === name))
      throw new Refusal('unknown-id', `There is no deliverable “${name}” in it.`, { field: 'withoutDeliverables' });
  const byId = new Map(template.phases.map((phase) => [phase.id, phase]));
  for (const id of dropped)
    if (!byId.has(id)) throw new Refusal('unknown-id', 'A phase to leave out is not in this template.', { field: 'withoutPhases' });
  const keptBefore = (id: string | null): string | null =>
    id !== null && dropped.has(id) ? keptBefore(byId.get(id)?.afterPhaseId ?? null) : id;
  const phases = template.phases
    .filter((phase) => !dropped.has(phase.id))
    .map((phase) => ({ ...phase, afterPhaseId: keptBefore(phase.afterPhaseId) }));
  // What is left out takes its parts along.
  const isLeftOut = (task: TemplateTaskDocument | undefined): boolean =>
    task !== undefined &&
    (without.has(task.id) || unwanted.has(task.deliverable ?? '') || isLeftOut(template.tasks.find((other) => other.id === task.parentId)));
  // What has parts is done by doing them: without any of them it goes too.
  const isEmptied = (task: TemplateTaskDocument): boolean =>
    task.isGroup && template.tasks.filter((other) => other.parentId === task.id).every((part) => isLeftOut(part) || isEmptied(part));
  const kept = template.tasks.filter((task) => !dropped.has(task.phaseId) && !isLeftOut(task) && !isEmptied(task));
  const keptIds = new Set(kept.map((task) => task.id));
  const tasks = kept.map((task) => ({ ...task, after: task.after.filter((dependency) => keptIds.has(dependency.taskId)) }));
  if (phases.length === 0)
    throw new Refusal('empty-template', 'Nothing would be made: keep at least one phase.', { field: 'withoutPhases' });
  if (tasks.length === 0) throw new Refusal('empty-template', 'Nothing would be made: keep at least one task.', { field: 'withoutTasks' });
  return { ...template, phases, tasks };
}

/** A template as the core schedules it, from a start or back from a promise. */
export function toSchedule(template: TemplateDocument, calendar: CalendarInput, plan: PlanEngagement): Omit<ScheduleInput, 'start'> {
  return {
    calendar,
    ...(plan.promise === undefined ? {} : { promise: plan.promise }),
    ...toSchedulePlan(template),
  };
}
