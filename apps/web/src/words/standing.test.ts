import type { Standing } from '@crew/contract';
import { standingWords, TONE_COLOUR } from './standing.ts';

const TODAY = '2026-11-23';

test.each<[Standing, string, string | undefined, string]>([
  [{ kind: 'late', days: 1, finish: '2026-12-11' }, '1 day late', 'Planned work ends 11 Dec', 'late'],
  [{ kind: 'late', days: 8, finish: '2027-01-13' }, '8 days late', 'Planned work ends 13 Jan 2027', 'late'],
  [{ kind: 'sent-back', since: '2026-11-20T10:00:00Z', question: 'Which wall?' }, 'Sent back with a question', 'Which wall?', 'late'],
  [{ kind: 'not-picked-up', since: '2026-11-20T10:00:00Z' }, 'Not picked up yet', undefined, 'waiting'],
  [{ kind: 'waiting-on-client', title: 'Floor plan', days: 3 }, 'Client has held a task 3 days', 'Floor plan', 'waiting'],
  [{ kind: 'proposal' }, 'Waiting for an answer', undefined, 'plain'],
  [{ kind: 'overdue', tasks: 1 }, '1 task overdue', undefined, 'late'],
  [{ kind: 'finished', on: '2026-11-12' }, 'Finished 12 Nov', undefined, 'plain'],
  [{ kind: 'dropped', on: '2026-11-12', reason: 'no money', ending: 'Not a fit' }, 'Closed 12 Nov', 'Not a fit: no money', 'plain'],
  [{ kind: 'dropped', on: '2026-11-12', reason: 'no money', ending: null }, 'Closed 12 Nov', 'no money', 'plain'],
  [{ kind: 'on-time' }, 'On time', undefined, 'on-time'],
])('%j reads as a person would say it', (standing, text, reason, tone) => {
  const words = standingWords(standing, TODAY);
  expect([words.text, words.reason, words.tone]).toEqual([text, reason, tone]);
  expect(TONE_COLOUR[words.tone]).toMatch(/^var\(--/);
});
