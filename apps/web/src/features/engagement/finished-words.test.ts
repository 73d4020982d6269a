import type { EngagementPlan } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { plan } from '../../../test/samples.ts';
import { finishedWords } from './finished-words.ts';

const finished = (on: string, more: { readonly promise?: IsoDay | null; readonly baseline?: IsoDay } = {}): EngagementPlan => ({
  ...plan,
  engagement: { ...plan.engagement, state: 'finished', promise: more.promise === undefined ? '2026-11-15' : more.promise },
  phases: plan.phases.map((phase, index) => ({ ...phase, finishedOn: index === plan.phases.length - 1 ? on : '2026-10-02' })),
  baseline: { ...plan.baseline, finish: more.baseline ?? '2026-11-10' },
});

test.each([
  [finished('2026-11-12'), 'finished 12 Nov, 3 days before the promise, 2 days after the baseline'],
  [finished('2026-11-15', { baseline: '2026-11-15' }), 'finished 15 Nov, on the day of the promise'],
  [finished('2026-11-16T10:00:00Z', { promise: null, baseline: '2026-11-17' }), 'finished 16 Nov, 1 day before the baseline'],
  [{ ...finished('2026-11-12'), phases: [] }, 'finished'],
])('a finished engagement says when, and how that compares', (one, words) => {
  expect(finishedWords(one, '2026-11-23')).toBe(words);
});
