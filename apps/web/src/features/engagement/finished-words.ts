import type { EngagementPlan } from '@crew/contract';
import { daysBetween, type IsoDay } from '@crew/core';
import { count, shortDay } from '../../words/format.ts';

/** When an engagement was finished: the day its last phase ended; null while it is not. */
export function finishedOn({ engagement, phases }: EngagementPlan): IsoDay | null {
  if (engagement.state !== 'finished') return null;
  return (phases
    .flatMap((phase) => (phase.finishedOn === null ? [] : [phase.finishedOn.slice(0, 10)]))
    .sort()
    .at(-1) ?? null) as IsoDay | null;
}

/** "finished 12 Nov, 3 days before the promise; 2 days after the baseline". */
export function finishedWords(plan: EngagementPlan, today: IsoDay): string {
  const on = finishedOn(plan);
  if (on === null) return 'finished';
  const { promise } = plan.engagement;
  return [
    `finished ${shortDay(on, today)}`,
    ...(promise === null ? [] : [against(on, promise, 'the promise')]),
    ...(plan.baseline.finish === promise ? [] : [against(on, plan.baseline.finish, 'the baseline')]),
  ].join(', ');
}

function against(on: IsoDay, planned: IsoDay, name: string): string {
  const days = daysBetween(planned, on);
  if (days === 0) return `on the day of ${name}`;
  return `${count(Math.abs(days), 'day')} ${days < 0 ? 'before' : 'after'} ${name}`;
}
