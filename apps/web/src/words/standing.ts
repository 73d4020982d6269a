import type { IsoDay } from '@crew/core';
import type { Standing, StandingTone } from '@crew/contract';
import { count, shortDay } from './format.ts';

/** Where an engagement stands in words: one line, its tone, and the reason behind it. */
export function standingWords(
  standing: Standing,
  today: IsoDay,
): { readonly tone: StandingTone; readonly text: string; readonly reason?: string } {
  switch (standing.kind) {
    case 'late':
      return {
        tone: 'late',
        text: `${count(standing.days, 'day')} late at this pace`,
        reason: `Planned work ends ${shortDay(standing.finish, today)}`,
      };
    case 'sent-back':
      return { tone: 'late', text: 'Sent back with a question', reason: standing.question };
    case 'not-picked-up':
      return { tone: 'waiting', text: 'Not picked up yet' };
    case 'waiting-on-client':
      return { tone: 'waiting', text: `Client has held a task ${count(standing.days, 'day')}`, reason: standing.title };
    case 'proposal':
      return { tone: 'plain', text: 'Waiting for an answer' };
    case 'overdue':
      return { tone: 'late', text: `${count(standing.tasks, 'task')} overdue` };
    case 'finished':
      return { tone: 'plain', text: 'Finished' };
    case 'dropped':
      return { tone: 'plain', text: 'Dropped' };
    case 'on-time':
      return { tone: 'on-time', text: 'On time' };
  }
}

export const TONE_COLOUR: Readonly<Record<StandingTone, string>> = {
  'on-time': 'var(--moss)',
  waiting: 'var(--amber)',
  late: 'var(--brick)',
  plain: 'var(--ink)',
};
