import type { TemplateDifference, TemplateTask } from '@crew/core';
import { phaseHindrance } from './phase-shape.ts';
import type { News } from './read-news.ts';

/** Marks the difference that says the tasks of a phase stand in another order. */
export const ORDER = 'order of ';

/** The phases that can come in: a task of one of them can come in with it. */
export const addablePhases = (news: News): ReadonlySet<string> =>
  new Set(
    news.differences
      .filter((one) => one.part === 'phase' && one.kind === 'added' && phaseHindrance(one, news.shape) === null)
      .map(({ id }) => id),
  );

/** Why a change cannot be brought in, or null when it can; `coming` are the phases that come with it. */
export function hindranceOf(difference: TemplateDifference, news: News, coming: ReadonlySet<string>): string | null {
  const { part, kind, id } = difference;
  if (part === 'way') return 'loops and endings are drawn in the template only';
  if (part === 'template') return 'name and description are those of the template';
  if (part === 'phase') {
    if (id.startsWith(ORDER)) return news.phaseOf.has(id.slice(ORDER.length)) ? null : 'this phase was left out here';
    return phaseHindrance(difference, news.shape);
  }
  if (kind === 'added') return phaseOfTask(id, news, coming);
  const task = news.taskOf.get(id);
  if (task === undefined) return 'this task is not part of this engagement';
  if (task.status === 'done' || task.status === 'dropped') return 'it is over here';
  if (kind === 'removed') return task.realStart !== null ? 'it is under way here' : null;
  return difference.fields.some(({ field }) => field === 'phaseId') ? phaseOfTask(id, news, coming) : null;
}

/** The phase that has to come in with a task, when it is one that comes; else null. */
export function phaseNeeded({ part, kind, id, fields }: TemplateDifference, news: News): string | null {
  if (part !== 'task' || kind === 'removed') return null;
  if (kind === 'changed' && !fields.some(({ field }) => field === 'phaseId')) return null;
  const phaseId = news.after.tasks.find((task) => task.id === id)?.phaseId ?? null;
  return phaseId !== null && !news.before.phases.some((phase) => phase.id === phaseId) ? phaseId : null;
}

/** Why a task cannot stand in the phase the newer version puts it into, or null. */
function phaseOfTask(id: string, news: News, coming: ReadonlySet<string>): string | null {
  const task = news.after.tasks.find((candidate) => candidate.id === id) as TemplateTask;
  if (coming.has(task.phaseId)) return null;
  if (news.differences.some((one) => one.part === 'phase' && one.kind === 'added' && one.id === task.phaseId))
    return 'its phase does not come in';
  const phase = news.facts.phases.find((candidate) => candidate.id === news.phaseOf.get(task.phaseId));
  if (phase === undefined) return 'its phase is not part of this engagement';
  return phase.state === 'over' ? `${phase.name} is over` : null;
}
