import { batonOf } from '../handoff/baton.ts';
import { standingOf, type StandingFacts } from './standing.ts';

const TODAY = '2026-11-23';
const calm: StandingFacts = {
  state: 'open',
  finish: '2026-12-18',
  lateDays: 0,
  overdue: 0,
  waitingTitle: null,
  waitingSince: null,
  flight: null,
};
const flying = (state: 'handed-off' | 'sent-back') => ({ state, since: '2026-11-20T09:00:00Z', question: 'Which plan?' });

test.each<[string, Partial<StandingFacts>, string]>([
  ['nothing is wrong', {}, 'on-time'],
  ['it is over', { state: 'finished', lateDays: 9 }, 'finished'],
  ['it is a week late, whatever else', { lateDays: 5, flight: flying('sent-back') }, 'late'],
  ['it came back', { lateDays: 2, flight: flying('sent-back') }, 'sent-back'],
  ['nobody has picked it up', { overdue: 3, flight: flying('handed-off') }, 'not-picked-up'],
  ['the client holds something', { waitingTitle: 'Choice', waitingSince: '2026-11-20', overdue: 1 }, 'waiting-on-client'],
  ['the client holds something since today only', { waitingTitle: 'Choice', waitingSince: TODAY }, 'on-time'],
  [
    'it is a proposal, even with the client holding it',
    { state: 'proposal', waitingTitle: 'Answer', waitingSince: '2026-11-20' },
    'proposal',
  ],
  ['a little late comes before overdue', { lateDays: 1, overdue: 2 }, 'late'],
  ['only overdue', { overdue: 2 }, 'overdue'],
])('when %s', (_name, facts, kind) => {
  expect(standingOf({ ...calm, ...facts }, TODAY).kind).toBe(kind);
});

test.each([
  [null, 'running', '2026-11-24', 'not-due'],
  ['getting-ready', 'running', '2026-11-24', 'getting-ready'],
  ['getting-ready', 'running', '2026-12-24', 'not-due'],
  ['getting-ready', 'ahead', '2026-11-24', 'not-due'],
  ['handed-off', 'over', '2026-11-20', 'handed-off'],
  ['sent-back', 'running', '2026-11-20', 'sent-back'],
  ['picked-up', 'over', '2026-11-20', 'picked-up'],
] as const)('a handoff stored as %s of a phase that is %s and ends %s shows %s', (handoff, phaseState, finish, baton) => {
  expect(batonOf({ handoff, phaseState, finish, today: TODAY })).toBe(baton);
});
