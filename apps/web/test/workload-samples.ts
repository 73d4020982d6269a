import { idOf } from './ids.ts';
import type { EaseView, Fullness, PlansTried, TriedEngagement, WhoShouldDoIt, Workload, WorkloadTask } from '@crew/contract';
import { DAYS, otto, galleries } from './samples.ts';

/* The load of a small crew, as of 2026-11-23. */

const behind = (task: Pick<WorkloadTask, 'id' | 'title' | 'start' | 'due' | 'minutes'> & Partial<WorkloadTask>): WorkloadTask => ({
  ...{
    engagement: galleries,
    days: 2,
    hasEstimate: true,
    likelihood: null,
    assigneeIds: ['o2'],
    roleId: 'r1',
    slack: 2,
    fixedDay: null,
    isComing: false,
  },
  ...{ isBegun: false, version: 3 },
  ...task,
});

/** One week: Otto over on Wednesday and away on Friday, Teo with room, a drawing that nobody has. */
export const workload: Workload = {
  ...{ from: '2026-11-23', to: '2026-11-29', defaultMinutes: 240 },
  dates: DAYS.map((date) => ({ date, isClosed: false })),
  rows: [
    {
      ...{ person: otto, roles: ['Installer'], roleIds: ['r1'], off: [4], likely: [0, 0, 0, 0, 0, 0, 0] },
      capacity: [450, 450, 450, 450, 0, 0, 0],
      load: [450, 450, 600, 450, 0, 0, 0],
      tasks: [
        behind({ id: 't1', title: 'Signs set', start: '2026-11-23', due: '2026-11-26', minutes: 1560 }),
        behind({ id: 't2', title: 'Posts dug', start: '2026-11-16', due: '2026-11-19', minutes: 390, isBegun: true, hasEstimate: false }),
      ],
    },
    {
      ...{ person: { id: 'm1', name: 'Teo Marsh', initials: 'TM' }, roles: ['Exhibit designer', 'Installer'], roleIds: ['r2', 'r1'] },
      ...{
        capacity: [450, 450, 450, 450, 450, 0, 0],
        load: [225, 225, 0, 0, 0, 0, 0],
        likely: [0, 225, 0, 0, 0, 0, 0],
        off: [],
        tasks: [],
      },
    },
  ],
  unassigned: [behind({ id: 't9', title: 'Plan drawn', start: '2026-11-24', due: '2026-11-25', minutes: 720, assigneeIds: [] })],
  unestimated: [behind({ id: 't2', title: 'Posts dug', start: '2026-11-16', due: '2026-11-19', minutes: 240, hasEstimate: false })],
};

const teoMarsh = { id: 'm1', name: 'Teo Marsh', initials: 'TM' };

const fullness = (over: number, load: number): Fullness => ({ over, peak: { date: '2026-11-25', load, capacity: 450 } });

/** Otto's load, which Teo could take a part of, or which could slip. */
export const ease: EaseView = {
  ...{ person: otto, over: 150, overDays: 1 },
  proposals: [
    {
      id: 'give t1 m1',
      task: { id: 't1', title: 'Signs set' },
      engagement: { ...galleries, promise: '2026-12-18' },
      step: { kind: 'give', person: teoMarsh, role: 'Exhibit designer', freeMinutes: 1350, knows: true },
      ...{ start: '2026-11-23', due: '2026-11-26', relieved: 150, deadlinesMoved: 0, effects: [] },
      change: { id: 't1', version: 3, assigneeIds: ['m1'], shares: [1] },
    },
    {
      id: 'slip t1',
      task: { id: 't1', title: 'Signs set' },
      engagement: { ...galleries, promise: '2026-12-18' },
      step: { kind: 'slip', days: 3, slack: 2 },
      ...{ start: '2026-11-26', due: '2026-12-01', relieved: 120, deadlinesMoved: 1, effects: [] },
      change: { id: 't1', version: 3, notBefore: '2026-11-26' },
    },
    {
      id: 'split t2 m1',
      task: { id: 't2', title: 'Posts dug' },
      engagement: { ...galleries, promise: null },
      step: { kind: 'split', person: teoMarsh, role: null, freeMinutes: 600, knows: false, minutes: 90, keeps: 300 },
      ...{ start: '2026-11-16', due: '2026-11-19', relieved: 60, deadlinesMoved: 0, effects: [] },
      change: { id: 't2', version: 3, assigneeIds: ['o2', 'm1'], shares: [300, 90] },
    },
  ],
};

/** What a change of the load would do: Otto relieved, Teo a little fuller, nothing else moves. */
export const plansTried: PlansTried = {
  effects: [
    {
      engagement: galleries,
      effect: {
        ...{ moves: [], newConflicts: [], held: [], briefs: [], overloads: [] },
        ...{ finish: { from: '2026-12-11', to: '2026-12-11' }, promise: '2026-12-18', promiseSlack: { from: 5, to: 5 } },
      },
    },
  ],
  people: [
    { person: otto, before: fullness(150, 600), after: fullness(0, 450), load: [450, 450, 450, 450, 0, 0, 0] },
    { person: teoMarsh, before: fullness(0, 225), after: fullness(0, 375), load: [225, 225, 150, 0, 0, 0, 0] },
  ],
};

/** Who should draw the plan: Teo first, Otto would be over. */
export const whoShould: WhoShouldDoIt = {
  ...{ role: 'Installer', start: '2026-11-24', due: '2026-11-25', away: [] },
  people: [
    { person: teoMarsh, freeMinutes: 180, neededMinutes: 720, isFull: false, knows: 'client', awayMinutes: 0, isAssigned: false },
    { person: otto, freeMinutes: -870, neededMinutes: 720, isFull: true, knows: null, awayMinutes: 0, isAssigned: false },
  ],
};

/** A gallery over the load: Otto would be over, and three weeks later nobody. */
export const triedEngagement: TriedEngagement = {
  ...{
    start: '2026-11-23',
    finish: '2027-02-12',
    effortMinutes: 6000,
    unestimated: { tasks: 0, minutesEach: 60 },
    unmannedMinutes: 600,
    searchedDays: 250,
  },
  roles: [
    {
      ...{ roleId: idOf('r1'), role: 'Installer', tasks: 3, minutes: 5400, chosen: { ...otto, id: idOf('o2') } },
      suggestions: [{ person: { ...otto, id: idOf('o2') }, freeMinutes: -300, neededMinutes: 5400, isFull: true, pastEngagements: 0 }],
    },
    { ...{ roleId: idOf('r2'), role: 'Writer', tasks: 1, minutes: 600, chosen: null }, suggestions: [] },
  ],
  overloads: [{ person: otto, minutes: 300, firstDay: '2026-11-30' }],
  people: plansTried.people,
  earliest: { start: '2026-12-14', finish: '2027-03-05', fits: true, roles: [], over: [], alone: [] },
};
