import type { IsoDay } from '@crew/core';
import type { EaseProposalView } from '@crew/contract';
import { count, dayWords, hourWords } from '../../words/format.ts';

/** What is done, as a verb and the rest of a sentence: **Move** “Bench plaque artwork” 3 days later. */
export function stepWords({ step, task }: EaseProposalView): { readonly verb: string; readonly rest: string } {
  const title = `“${task.title}”`;
  switch (step.kind) {
    case 'move':
      return { verb: 'Move', rest: `${title} ${count(step.days, 'day')} later` };
    case 'extend':
      return { verb: 'Extend', rest: `${title} by ${count(step.days, 'day')}` };
    case 'slip':
      return { verb: 'Delay', rest: `${title} ${count(step.days, 'day')}` };
    case 'give':
      return { verb: 'Reassign', rest: `${title} to ${step.person.name}` };
    case 'split':
      return { verb: 'Split', rest: `${title} with ${step.person.name}` };
  }
}

/** Why it can be done, and what it costs. */
export function reasonWords({ step, engagement, due }: EaseProposalView, owner: string, today: IsoDay): string {
  switch (step.kind) {
    case 'move':
    case 'extend':
      return `uses ${step.days} of ${count(step.slack, 'day')} of slack, no deadline moves`;
    case 'slip':
      return `${step.slack === 0 ? 'it has no slack' : `its slack is ${count(step.slack, 'day')}`}: ${
        engagement.promise === null
          ? `${engagement.name} would finish later`
          : `the promise of ${engagement.name}, ${dayWords(engagement.promise, today)}, is at risk`
      }; due ${dayWords(due, today)}`;
    case 'give':
      return [
        step.role ?? 'holds the role',
        `${hourWords(step.freeMinutes)} free in those days`,
        ...(step.knows ? ['knows the client'] : []),
      ].join(' · ');
    case 'split':
      return `${owner} keeps ${hourWords(step.keeps)} and passes on ${hourWords(step.minutes)}; ${hourWords(step.freeMinutes)} free in those days`;
  }
}

/** Each task once: choosing another proposal for a task puts the one before back. */
export function toggleChoice(proposals: readonly EaseProposalView[], chosen: ReadonlySet<string>, id: string): ReadonlySet<string> {
  if (chosen.has(id)) return new Set([...chosen].filter((other) => other !== id));
  const task = proposals.find((proposal) => proposal.id === id)?.task.id;
  const others = [...chosen].filter((other) => proposals.find((proposal) => proposal.id === other)?.task.id !== task);
  return new Set([...others, id]);
}
