import type { IsoDay } from '@crew/core';
import { idOf } from './ids.ts';
import type {
  CrewMember,
  Desk,
  DeskDayTask,
  DeskTask,
  DryRun,
  EngagementPlan,
  EngagementTrack,
  ForecastView,
  HandoffLine,
  HandoffSheet as Handoff,
  Me,
  PlanEffect,
  PlanTask,
  TaskSheet,
  TrackPhase,
} from '@crew/contract';

/** A task as the plan has it. */
export const planTask: PlanTask = {
  ...{ id: 't1', number: 7, phaseId: 'p1', title: 'Signs set', kind: 'work', role: 'Installer', status: 'queued', waitingOn: null },
  ...{ waitingSince: null, priority: 'normal', assignees: [], start: '2026-11-25', due: '2026-11-30', days: 4, slack: 2 },
  ...{ isCritical: false, missedDays: 0, fixedDay: null, estimateMinutes: 1560, loggedMinutes: 0, stepsDone: 0, stepsAll: 0 },
  ...{
    after: [],
    openPredecessors: 0,
    isShownToClient: false,
    isChargeable: true,
    mayStartEarly: false,
    seriesId: null,
    version: 3,
    parentId: null,
    isGroup: false,
    deliverableId: null,
    labels: [],
  },
  ...{ expected: '2026-11-30', notBefore: null, realStart: null, baselineStart: '2026-11-25', baselineDue: '2026-11-30', outside: null },
};

/** The same task on its sheet. */
export const taskSheet: TaskSheet = {
  ...planTask,
  ...{
    description: '',
    pageLinks: [],
    files: [],
    customFields: [],
    fieldPeople: [],
    phase: 'Setting',
    steps: [],
    waitsFor: [],
    holdsUp: [],
    ways: [],
  },
  engagement: { id: 'e1', name: 'Seed vault wayfinding', client: { name: 'Marrowdale Botanic Garden', hue: 'leaf' } },
};

/** A change that moves nothing. */
export const stillEffect: PlanEffect = {
  ...{ moves: [], newConflicts: [], held: [], briefs: [], overloads: [], promise: '2026-12-18', promiseSlack: { from: 5, to: 5 } },
  finish: { from: '2026-12-11', to: '2026-12-11' },
};

/** Somebody of the crew. */
export const jonah: CrewMember = {
  ...{ id: 'j1', name: 'Jonah Ferreira', initials: 'JF', access: 'member', roleIds: ['r1'], roles: ['Installer'] },
  ...{ week: [450, 450, 450, 450, 0, 0, 0], email: 'jonah@quillmarsh.example', isActive: true, standInId: null, openTasks: 2, version: 4 },
  ...{ hasPassword: true, invitedUntil: null },
};

/** The lead who is signed in. */
export const odalys: Me = {
  ...{ accountId: 'a1', name: 'Odalys Renn', initials: 'OR', access: 'lead', personId: 'o1', clientName: null },
  ...{
    agencyName: 'Quillmarsh',
    today: '2026-11-23',
    thisWeek: '2026-11-23',
    zone: 'Europe/London',
    clockAheadMs: Date.parse('2026-11-23') - Math.floor(Date.now() / 86_400_000) * 86_400_000,
    csrfToken: 'token',
    counts: { handoffs: 0, desk: 0 },
    mustAddSecondFactor: false,
    isDemo: false,
    closedHints: [],
    wrongPasswords: null,
  },
};

/** A maker who is signed in. */
export const teo: Me = { ...odalys, accountId: 'a2', name: 'Teo Marsh', initials: 'TM', access: 'member', personId: 'm1' };

export const client = { name: 'Marrowdale Botanic Garden', hue: 'leaf' } as const;

/** A concept that may be handed to design once a word is given. */
export const handoffLine: HandoffLine = {
  ...{ id: 'h1', version: 4, state: 'getting-ready', baton: 'getting-ready', toRole: 'Exhibit designer', since: null, question: null },
  engagement: { id: 'e1', name: 'Seed vault wayfinding', client },
  from: { id: 'p1', name: 'Concept', finish: '2026-11-27' },
  to: { id: 'p2', name: 'Design' },
  giver: { id: 'o1', name: 'Odalys Renn', initials: 'OR' },
  receiver: { id: 'm1', name: 'Teo Marsh', initials: 'TM' },
  standIn: null,
  ...{ checks: [{ isClear: true }, { isClear: false }], missing: ['Lead agrees'], canPickUp: false, canHandOff: true },
};

/** The same with its packet. */
export const handoffSheet: Handoff = {
  ...handoffLine,
  gate: [
    { id: 'c1', kind: 'tasks-done', text: 'All tasks done', isClear: true, missing: null, clearedBy: null },
    { id: 'c2', kind: 'word', text: 'Lead agrees', isClear: false, missing: 'Lead agrees', clearedBy: null },
  ],
  words: '',
  turns: [],
  ways: [],
  doneTasks: [{ id: 't1', number: 3, title: 'Storyline', finish: '2026-11-20', who: ['Priya Vance'] }],
  openTasks: [{ id: 't2', number: 4, title: 'Mood sketches', status: 'active' }],
  decisions: [{ id: 'd1', kind: 'decided', text: 'No music under stop 7', by: 'Priya Vance', day: '2026-11-19' }],
  questions: [{ id: 'q1', text: 'Who voices the conductor?', who: 'Harbour Museum' }],
  files: [{ id: idOf('f1'), name: 'map.pdf', bytes: 2000, task: 'Storyline' }],
  packetAt: null,
  involved: [{ person: { id: 'w1', name: 'Priya Vance', initials: 'PV' }, minutes: 390 }],
  onPickUp: {
    ...{ start: '2026-11-23', finish: '2026-12-18', tasks: 9, unassigned: 1 },
    people: [{ person: { id: 'm1', name: 'Teo Marsh', initials: 'TM' }, tasks: 8, minutes: 3000 }],
  },
  receivers: [
    { id: 'm1', name: 'Teo Marsh', initials: 'TM', holdsRole: true, awayUntil: null },
    { id: idOf('n1'), name: 'Nadia Brook', initials: 'NB', holdsRole: false, awayUntil: '2026-12-04' },
  ],
};

export const otto = { id: 'o2', name: 'Otto Brandt', initials: 'OB' };

export const DAYS: readonly IsoDay[] = ['2026-11-23', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27', '2026-11-28', '2026-11-29'];
export const galleries = { id: 'e1', name: 'Seed vault wayfinding', hue: 'leaf' } as const;

/** A trail of two phases scheduled on the calendar, which overloads two people. */
export const dryRun: DryRun = {
  template: { id: 'x1', kind: 'engagement', name: 'Audio trail', description: '', version: 3, usedTimes: 4, isChanged: false },
  ...{
    start: '2026-11-23',
    finish: '2027-01-15',
    promise: null,
    closedDays: 3,
    effortMinutes: 5400,
    unestimated: { tasks: 0, minutesEach: 60 },
    conflicts: [],
    roles: [],
  },
  ...{ effortByRole: [{ role: 'Writer', minutes: 2400 }], copyOf: null, notes: [], late: null },
  phases: [
    {
      ...{ id: 'f1', name: 'Script', role: 'Writer', roleId: 'r1', stateLine: 'Being written', rounds: 2, start: '2026-11-23' },
      ...{ finish: '2026-12-11', workingDays: 15, checks: [{ kind: 'tasks-done', text: 'Written' }] },
    },
    {
      ...{ id: 'f2', name: 'Recording', role: null, roleId: null, stateLine: 'In the studio', rounds: null, start: '2026-12-14' },
      ...{ finish: '2027-01-15', workingDays: 22, checks: [] },
    },
  ],
  tasks: [
    {
      person: null,
      ...{ id: 'k1', phaseId: 'f1', title: 'Draft', kind: 'work', roleId: 'r1', role: 'Writer', estimateMinutes: 2400, days: 6 },
      ...{ anchor: { at: 'phase-start', offset: 0 }, after: [], steps: [], start: '2026-11-23', finish: '2026-11-30', slack: 2 },
      ...{ parentId: null, isGroup: false, deliverable: null },
    },
    {
      person: null,
      ...{ id: 'k2', phaseId: 'f1', title: 'Client reads', kind: 'client', roleId: null, role: null, estimateMinutes: null, days: 3 },
      after: [{ taskId: 'k1', title: 'Draft', type: 'FS', lag: 0 }],
      ...{
        anchor: { at: 'phase-start', offset: 0 },
        steps: [],
        start: '2026-12-01',
        finish: '2026-12-03',
        slack: 0,
        parentId: null,
        isGroup: false,
        deliverable: null,
      },
    },
  ],
  overloads: [
    { person: otto, minutes: 90, firstDay: '2026-12-01', percent: 104 },
    { person: { id: 'w1', name: 'Priya Vance', initials: 'PV' }, minutes: 420, firstDay: '2026-11-25', percent: 130 },
  ],
};

/** A task as it lies on a desk. */
export const deskTask: DeskTask = {
  ...{ id: 't1', number: 7, title: 'Signs set', status: 'queued', phase: 'Setting', start: '2026-11-23', due: '2026-11-26' },
  engagement: { id: 'e1', name: 'Seed vault wayfinding', client },
  ...{
    remainingMinutes: 1560,
    estimateMinutes: 1560,
    loggedMinutes: 0,
    waitingFor: null,
    waitsUntil: null,
    since: null,
    holdsUp: 0,
    version: 3,
  },
  assignees: [{ id: 'o1', name: 'Odalys Renn', initials: 'OR' }],
};

const onDay = (id: string, title: string, minutes: number, more: Partial<DeskDayTask>): DeskDayTask => ({
  ...{ id, title, minutes, hasEstimate: true, engagement: 'Seed vault wayfinding', hue: 'leaf', due: '2026-11-24' },
  ...{ isDue: false, isPlaced: false },
  ...more,
});

/** A desk with something in every group. */
export const desk: Desk = {
  person: { id: 'o1', name: 'Odalys Renn', initials: 'OR' },
  now: { ...deskTask, id: 'now', title: 'Walls painted', status: 'active', loggedMinutes: 180, estimateMinutes: 600, holdsUp: 2 },
  overdue: [{ ...deskTask, id: 'late', title: 'Posts dug', due: '2026-11-19' }],
  ready: [{ ...deskTask, id: 'ready' }],
  waiting: [
    { ...deskTask, id: 'asked', title: 'Facts checked', status: 'waiting', waitingFor: 'client', since: '2026-11-16' },
    {
      ...deskTask,
      id: 'behind',
      title: 'Labels hung',
      waitingFor: 'until Otto has done “Signs set”',
      waitsUntil: '2026-11-27',
      start: '2026-11-30',
    },
  ],
  fresh: [{ ...deskTask, id: 'new', title: 'Ladder hired', waitingFor: 'until Setting is picked up' }],
  ...{ handoffs: [], briefs: [] },
  later: [{ ...deskTask, id: 'later', title: 'Path swept', start: '2026-12-07', due: '2026-12-08' }],
  days: DAYS.slice(0, 5).map((date, index) => ({
    ...{ date, capacity: index === 4 ? 0 : 450, load: index === 1 ? 540 : index === 2 ? 120 : 0, over: index === 1 ? 90 : 0 },
    loggedMinutes: index === 0 ? 180 : 0,
    tasks:
      index === 1
        ? [onDay('ready', 'Signs set', 540, { isDue: true })]
        : index === 2
          ? [onDay('put', 'Lamps hung', 120, { isPlaced: true })]
          : [],
    coming: [],
  })),
  monday: '2026-11-23',
  unlogged: [{ ...deskTask, id: 'told', title: 'Map proofed', status: 'done', doneOn: '2026-11-19', usualMinutes: 150 }],
  doneThisWeek: [
    { id: 'over', title: 'Paint bought', engagement: 'Seed vault wayfinding', hue: 'leaf', doneOn: '2026-11-23', loggedMinutes: 60 },
  ],
  forgottenDays: ['2026-11-18', '2026-11-20'],
  week: { plannedMinutes: 540, capacityMinutes: 1800, loggedMinutes: 180 },
};

const trackPhase = { percent: 0, baton: 'not-due', stateLine: 'Being thought out', state: 'ahead' } as const;

const phaseRest = {
  baselineStart: null,
  baselineFinish: null,
  roleId: 'r1',
  role: 'Installer',
  startedOn: null,
  finishedOn: null,
  handoffId: null,
  rounds: null,
  round: 1,
  gate: { clear: 0, all: 0 },
};

/** An engagement on a track: Concept is over, Setting runs, Handover lies ahead. */
export const track: EngagementTrack = {
  clientId: 'c1',
  ...{ id: 'e1', name: 'Seed vault wayfinding', client, lead: { id: 'o1', name: 'Odalys Renn', initials: 'OR' }, state: 'open' },
  ...{ start: '2026-10-05', promise: '2026-12-18', finish: '2026-12-15', percent: 40, loggedMinutes: 600, effortMinutes: 2400, overdue: 0 },
  standing: [{ kind: 'on-time' }],
  forecast: null,
  stands: null,
  series: null,
  phases: [
    {
      ...trackPhase,
      id: 'p0',
      name: 'Concept',
      state: 'over',
      start: '2026-10-05',
      finish: '2026-11-06',
      percent: 100,
      baton: 'picked-up',
    },
    {
      ...trackPhase,
      id: 'p1',
      name: 'Setting',
      state: 'running',
      start: '2026-11-09',
      finish: '2026-12-04',
      percent: 25,
      stateLine: 'Being set',
    },
    { ...trackPhase, id: 'p2', name: 'Handover', start: '2026-12-07', finish: '2026-12-15' },
  ],
};

/** The same with its plan. */
export const plan: EngagementPlan = {
  engagement: { ...track, contactId: null, contact: null, likelihood: 100, template: null, version: 1 },
  phases: [
    { ...phaseRest, ...(track.phases[0] as TrackPhase), handoffId: 'h0' },
    { ...phaseRest, ...(track.phases[1] as TrackPhase), handoffId: 'h1', gate: { clear: 1, all: 3 }, rounds: 2 },
    { ...phaseRest, ...(track.phases[2] as TrackPhase) },
  ],
  tasks: [
    { ...planTask, id: 't0', number: 1, phaseId: 'p0', title: 'Storyline', status: 'done' },
    planTask,
    {
      ...planTask,
      id: 't2',
      number: 8,
      title: 'Labels hung',
      openPredecessors: 1,
      after: [{ id: 't1', number: 7, type: 'FS', lag: 0 }],
      estimateMinutes: null,
      role: null,
    },
    {
      ...planTask,
      id: 't3',
      number: 9,
      title: 'Posts dug',
      start: '2026-11-16',
      due: '2026-11-19',
      loggedMinutes: 90,
      fixedDay: '2026-11-16',
    },
    { ...planTask, id: 't4', number: 10, phaseId: 'p2', title: 'Client looks', kind: 'client', missedDays: 2, estimateMinutes: 60 },
  ],
  deliverables: [],
  calendar: { week: [450, 450, 450, 450, 450, 0, 0], closed: ['2026-12-25'] },
  baseline: { keptOn: '2026-11-02', finish: '2026-12-11', promise: '2026-12-18' },
};

/** Likely a week before the promise, safe two days after it; drawing decides most. */
export const forecastView: ForecastView = {
  ...{ computedAt: '2026-11-23T09:10:00Z', runs: 10_000, likely: '2026-12-11', safe: '2026-12-22', almostSure: '2027-01-05' },
  ...{ promise: '2026-12-18', chance: 71, planned: '2026-12-10' },
  drivers: [
    { id: 't1', title: 'Signs set', phase: 'Setting', onChain: 88, due: '2026-11-26', assignees: [otto] },
    { id: 't2', title: 'Labels hung', phase: 'Setting', onChain: 12, due: '2026-12-04', assignees: [] },
  ],
  spread: [
    { date: '2026-12-10', runs: 4000 },
    { date: '2026-12-11', runs: 2000 },
    { date: '2026-12-18', runs: 1100 },
    { date: '2027-01-05', runs: 2900 },
  ],
  basis: { finishedTasks: 212, ownRoles: ['Installer'], sharedRoles: ['the client'] },
};
