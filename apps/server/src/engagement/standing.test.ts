import { batonOf } from '../handoff/baton.ts';
import { standingsOf, type StandingFacts } from './standing.ts';

const TODAY = '2026-11-23';
const calm: StandingFacts = {
  ...{ closedOn: null, closedReason: null, closedEnding: null },
  state: 'open',
  finish: '2026-12-18',
  lateDays: 0,
  missedDays: 0,
  overdue: 0,
  waitingTitle: null,
  waitingSince: null,
  promise: '2026-12-20',
  forecast: null,
  flight: null,
};
const flying = (state: 'handed-off' | 'sent-back') => ({ state, since: '2026-11-20T09:00:00Z', question: 'Which plan?' });

test.each<[string, Partial<StandingFacts>, ...string[]]>([
  ['nothing is wrong', {}, 'on-time'],
  ['it is over', { state: 'finished', lateDays: 9 }, 'finished'],
  ['it is a week late, whatever else', { lateDays: 5, flight: flying('sent-back') }, 'late', 'sent-back'],
  ['it came back', { lateDays: 2, flight: flying('sent-back') }, 'sent-back', 'late'],
  ['nobody has picked it up', { overdue: 3, flight: flying('handed-off') }, 'not-picked-up', 'overdue'],
  [
    'everything is wrong at once',
    { lateDays: 1, missedDays: 2, flight: flying('handed-off') },
    'not-picked-up',
    'late',
    'fixed-day-missed',
  ],
  ['the client holds something', { waitingTitle: 'Choice', waitingSince: '2026-11-20', overdue: 1 }, 'waiting-on-client', 'overdue'],
  ['the client holds something since today only', { waitingTitle: 'Choice', waitingSince: TODAY }, 'on-time'],
  [
    'it is a proposal, even with the client holding it',
    { state: 'proposal', waitingTitle: 'Answer', waitingSince: '2026-11-20' },
    'proposal',
    'waiting-on-client',
  ],
  ['a little late comes before overdue', { lateDays: 1, overdue: 2 }, 'late', 'overdue'],
  ['it will likely end after the promise', { forecast: { likely: '2026-12-21', safe: '2026-12-23', chance: 40 } }, 'likely-late'],
  ['it is late, which says it already', { lateDays: 1, forecast: { likely: '2026-12-21', safe: '2026-12-23', chance: 40 } }, 'late'],
  ['only overdue', { overdue: 2 }, 'overdue'],
])('when %s, all of it is said, the worst first', (_name, facts, ...kinds) => {
  expect(standingsOf({ ...calm, ...facts }, TODAY).map(({ kind }) => kind)).toEqual(kinds);
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
