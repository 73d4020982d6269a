import type { TemplateTaskView } from '@crew/contract';
import type { TemplateContent, TemplateTask } from '@crew/core';
import { count } from '../../words/format.ts';

type When = Pick<TemplateTaskView, 'anchor' | 'after' | 'days'>;

/** What says when a task of a content happens, with the titles of what it waits for. */
export function whenOf(task: TemplateTask, content: Pick<TemplateContent, 'tasks'>): When {
  const titleOf = (id: string): string => content.tasks.find((other) => other.id === id)?.title ?? '';
  return {
    anchor: task.anchor,
    days: task.days,
    after: task.after.map((dependency) => ({ ...dependency, title: titleOf(dependency.taskId) })),
  };
}

/** When a template task happens, as a sentence. */
export function anchorWords({ anchor, after, days }: When): string {
  const tied = after.map(dependencyWords);
  const own = anchorPart(anchor);
  if (tied.length === 0) return own ?? (days === 0 ? 'at the start, a moment' : 'at the start');
  return [...tied, ...(own === null ? [] : [own])].join(' and ');
}

function anchorPart({ at, offset }: TemplateTaskView['anchor']): string | null {
  switch (at) {
    case 'phase-start':
      return offset === 0 ? null : `day ${offset + 1} of the phase`;
    case 'engagement-start':
      return `day ${offset + 1} of the engagement`;
    case 'before-phase-end':
      return offset === 0 ? 'ends with the phase' : `ends ${count(offset, 'day')} before the phase does`;
    case 'before-promise':
      return offset === 0 ? 'ends on the promised day' : `ends ${count(offset, 'day')} before the promise`;
  }
}

function dependencyWords({ title, type, lag }: TemplateTaskView['after'][number]): string {
  const shift = lag === 0 ? '' : lag > 0 ? `${count(lag, 'day')} ` : `${count(-lag, 'day')} before the end of `;
  switch (type) {
    case 'SS':
      return `${lag === 0 ? 'with' : `${count(Math.abs(lag), 'day')} ${lag > 0 ? 'after' : 'before'}`} the start of ${title}`;
    case 'FF':
      return lag === 0 ? `ends with ${title}` : `ends ${count(Math.abs(lag), 'day')} ${lag > 0 ? 'after' : 'before'} ${title} does`;
    case 'SF':
      return lag === 0
        ? `ends when ${title} starts`
        : `ends ${count(Math.abs(lag), 'day')} ${lag > 0 ? 'after' : 'before'} ${title} starts`;
    default:
      return lag < 0 ? `${shift}${title}` : `${shift}after ${title}`;
  }
}
