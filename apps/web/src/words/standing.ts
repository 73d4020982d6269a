import type { IsoDay } from '@crew/core';
import type { EngagementTrack, Standing, StandingTone } from '@crew/contract';
import { count, shortDay } from './format.ts';

interface StandingWords {
  readonly tone: StandingTone;
  readonly text: string;
  readonly reason?: string;
}

/** Where an engagement stands in words: the worst reason with its tone and what is behind it, and all others after it. */
export function standingsWords(
  [worst, ...others]: EngagementTrack['standing'],
  today: IsoDay,
): StandingWords & { readonly others: string; readonly all: string } {
  const texts = others.map((standing) => standingWords(standing, today).text);
  const first = standingWords(worst, today);
  return { ...first, others: texts.join(' · '), all: [first.text, ...texts].join(' · ') };
}

/** One reason in words: a line, its tone, and what is behind it. */
export function standingWords(standing: Standing, today: IsoDay): StandingWords {
  switch (standing.kind) {
    case 'late':
      return {
        tone: 'late',
        text: `${count(standing.days, 'day')} late`,
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
    case 'fixed-day-missed':
      return { tone: 'late', text: `Fixed day missed by ${count(standing.days, 'day')}` };
    case 'overdue':
      return { tone: 'late', text: `${count(standing.tasks, 'task')} overdue` };
    case 'likely-late':
      return { tone: 'late', text: 'Likely after the promise', reason: `The forecast says ${shortDay(standing.likely, today)}` };
    case 'finished':
      return { tone: 'plain', text: `Finished ${shortDay(standing.on, today)}` };
    case 'dropped':
      return {
        tone: 'plain',
        text: `Closed ${shortDay(standing.on, today)}`,
        reason: [standing.ending, standing.reason].filter((part) => part !== null && part !== '').join(': '),
      };
    case 'on-time':
      return { tone: 'on-time', text: 'On time' };
  }
}

/** The reasons as a list is narrowed by them. */
export const STANDING_NAMES: Readonly<Record<Standing['kind'], string>> = {
  'sent-back': 'Sent back',
  'not-picked-up': 'Not picked up',
  'waiting-on-client': 'Waiting on client',
  late: 'Late',
  'fixed-day-missed': 'Fixed day missed',
  overdue: 'Tasks overdue',
  'likely-late': 'Likely late',
  proposal: 'Proposal',
  'on-time': 'On time',
  dropped: 'Closed without finishing',
  finished: 'Finished',
};

export const TONE_COLOUR: Readonly<Record<StandingTone, string>> = {
  'on-time': 'var(--moss)',
  waiting: 'var(--amber)',
  late: 'var(--brick)',
  plain: 'var(--ink)',
};
