import type { LoadInput, ScheduleInput } from '../src/index.ts';

const WEEK = [450, 450, 450, 450, 450, 0, 0];

/** The example of core-spec section 2. */
export const galleryPlan: ScheduleInput = {
  calendar: { week: WEEK, closed: ['2026-12-25', '2026-12-28', '2027-01-01'] },
  start: '2026-12-14',
  promise: '2027-01-15',
  phases: [
    { id: 'kickoff' },
    { id: 'research', after: { phase: 'kickoff', edge: 'finish', lag: 0 } },
    { id: 'concept', after: { phase: 'research', edge: 'finish', lag: 1 } },
  ],
  tasks: [
    { id: 'welcome', phase: 'kickoff', days: 1 },
    { id: 'call', phase: 'kickoff', days: 1, anchor: { at: 'phase-start', offset: 1 } },
    { id: 'visit', phase: 'research', days: 2 },
    { id: 'objects', phase: 'research', days: 5, after: [{ task: 'visit', type: 'FS' }] },
    { id: 'interviews', phase: 'research', days: 3, after: [{ task: 'visit', type: 'SS', lag: 1 }] },
    {
      id: 'storyline',
      phase: 'research',
      days: 0,
      after: [
        { task: 'objects', type: 'FS' },
        { task: 'interviews', type: 'FS' },
      ],
    },
    { id: 'workshop', phase: 'concept', days: 2 },
    { id: 'boards', phase: 'concept', days: 4, after: [{ task: 'workshop', type: 'FS', lag: -1 }] },
    { id: 'review', phase: 'concept', days: 1, fixed: '2027-01-11', after: [{ task: 'boards', type: 'FS' }] },
  ],
};

/** Its answer: task, start, finish, slack. */
export const galleryDates: readonly (readonly [string, string, string, number])[] = [
  ['welcome', '2026-12-14', '2026-12-14', 3],
  ['call', '2026-12-15', '2026-12-15', 2],
  ['visit', '2026-12-16', '2026-12-17', 2],
  ['objects', '2026-12-18', '2026-12-24', 2],
  ['interviews', '2026-12-17', '2026-12-21', 5],
  ['storyline', '2026-12-24', '2026-12-24', 2],
  ['workshop', '2026-12-30', '2026-12-31', 2],
  ['boards', '2026-12-31', '2027-01-06', 2],
  ['review', '2027-01-11', '2027-01-11', 0],
];

/** The example of core-spec section 3. */
export const decemberLoad: LoadInput = {
  calendar: { week: WEEK, closed: ['2026-12-25'] },
  today: '2026-12-21',
  from: '2026-12-21',
  to: '2026-12-31',
  defaultMinutes: 60,
  people: [
    { id: 'tavi', week: WEEK, off: [{ from: '2026-12-24', to: '2026-12-24', minutes: 225 }] },
    { id: 'jonah', week: [450, 450, 450, 450, 0, 0, 0], off: [{ from: '2026-12-28', to: '2026-12-29' }], reserve: 20 },
  ],
  tasks: [
    { id: 'drawings', assignees: [{ person: 'tavi' }], estimate: 1200, logged: 200, start: '2026-12-18', due: '2026-12-24' },
    {
      id: 'rig',
      assignees: [
        { person: 'tavi', share: 1 },
        { person: 'jonah', share: 2 },
      ],
      estimate: 601,
      start: '2026-12-23',
      due: '2026-12-28',
    },
    { id: 'late', assignees: [{ person: 'jonah' }], estimate: 500, start: '2026-12-14', due: '2026-12-18' },
    { id: 'none', assignees: [{ person: 'jonah' }], start: '2026-12-30', due: '2026-12-31' },
    { id: 'maybe', assignees: [{ person: 'tavi' }], estimate: 900, start: '2026-12-30', due: '2026-12-31', likelihood: 50 },
  ],
};
