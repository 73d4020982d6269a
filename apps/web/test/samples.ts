import type {
  CrewMember,
  CrewTime,
  Desk,
  DeskDayTask,
  DeskTask,
  DryRun,
  EaseView,
  EngagementPlan,
  EngagementTrack,
  ForecastView,
  Fullness,
  HandoffLine,
  HandoffSheet as Handoff,
  Me,
  PlanEffect,
  PlanTask,
  PlansTried,
  TaskSheet,
  TimeEntryView,
  TrackPhase,
  TriedEngagement,
  WeekSheet,
  WhoShouldDoIt,
  Workload,
  WorkloadTask,
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
    links: [],
    files: [],
    ownFields: [],
    ownPeople: [],
    phase: 'Setting',
    steps: [],
    waitsFor: [],
    holdsUp: [],
    happened: [],
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
  ...{ week: [450, 450, 450, 450, 0, 0, 0], email: 'jonah@quillmarsh.example', isActive: true, openTasks: 2, version: 4 },
};

/** The lead who is signed in. */
export const odalys: Me = {
  ...{ accountId: 'a1', name: 'Odalys Renn', initials: 'OR', access: 'lead', personId: 'o1', clientName: null },
  ...{ agencyName: 'Quillmarsh', today: '2026-11-23', zone: 'Europe/London', csrfToken: 'token', counts: { handoffs: 0, desk: 0 } },
};

/** A maker who is signed in. */
export const teo: Me = { ...odalys, accountId: 'a2', name: 'Teo Marsh', initials: 'TM', access: 'member', personId: 'm1' };

const client = { name: 'Marrowdale Botanic Garden', hue: 'leaf' } as const;

/** A concept that may be handed to design once a word is given. */
export const handoffLine: HandoffLine = {
  ...{ id: 'h1', version: 4, state: 'getting-ready', baton: 'getting-ready', toRole: 'Exhibit designer', since: null, question: null },
  engagement: { id: 'e1', name: 'Seed vault wayfinding', client },
  from: { id: 'p1', name: 'Concept', finish: '2026-11-27' },
  to: { id: 'p2', name: 'Design' },
  giver: { id: 'o1', name: 'Odalys Renn', initials: 'OR' },
  receiver: { id: 'm1', name: 'Teo Marsh', initials: 'TM' },
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
  doneTasks: [{ id: 't1', number: 3, title: 'Storyline', finish: '2026-11-20', who: ['Priya Vance'] }],
  openTasks: [{ id: 't2', number: 4, title: 'Mood sketches', status: 'active' }],
  involved: [{ person: { id: 'w1', name: 'Priya Vance', initials: 'PV' }, minutes: 390 }],
  onPickUp: {
    ...{ start: '2026-11-23', finish: '2026-12-18', tasks: 9, unassigned: 1 },
    people: [{ person: { id: 'm1', name: 'Teo Marsh', initials: 'TM' }, tasks: 8, minutes: 3000 }],
  },
  receivers: [
    { id: 'm1', name: 'Teo Marsh', initials: 'TM' },
    { id: 'n1', name: 'Nadia Brook', initials: 'NB' },
  ],
};

const otto = { id: 'o2', name: 'Otto Brandt', initials: 'OB' };
const galleries = { id: 'e1', name: 'Seed vault wayfinding', hue: 'leaf' } as const;
const DAYS = ['2026-11-23', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27', '2026-11-28', '2026-11-29'];

const behind = (task: Pick<WorkloadTask, 'id' | 'title' | 'start' | 'due' | 'minutes'> & Partial<WorkloadTask>): WorkloadTask => ({
  ...{ engagement: galleries, days: 2, hasEstimate: true, likelihood: null, assigneeIds: ['o2'], roleId: 'r1', slack: 2, fixedDay: null },
  ...{ isBegun: false, version: 3 },
  ...task,
});

/** One week: Otto over on Wednesday and away on Friday, Teo with room, a drawing that nobody has. */
export const workload: Workload = {
  ...{ from: '2026-11-23', to: '2026-11-29', defaultMinutes: 240 },
  dates: DAYS.map((date) => ({ date, isClosed: false })),
  rows: [
    {
      ...{ person: otto, roles: ['Installer'], roleIds: ['r1'], off: [4] },
      capacity: [450, 450, 450, 450, 0, 0, 0],
      load: [450, 450, 600, 450, 0, 0, 0],
      tasks: [
        behind({ id: 't1', title: 'Signs set', start: '2026-11-23', due: '2026-11-26', minutes: 1560 }),
        behind({ id: 't2', title: 'Posts dug', start: '2026-11-16', due: '2026-11-19', minutes: 390, isBegun: true, hasEstimate: false }),
      ],
    },
    {
      ...{ person: { id: 'm1', name: 'Teo Marsh', initials: 'TM' }, roles: ['Exhibit designer', 'Installer'], roleIds: ['r2', 'r1'] },
      ...{ capacity: [450, 450, 450, 450, 450, 0, 0], load: [225, 225, 0, 0, 0, 0, 0], off: [], tasks: [] },
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

/** A trail of two phases laid on the calendar, which overloads two people. */
export const dryRun: DryRun = {
  template: { id: 'x1', kind: 'engagement', name: 'Audio trail', description: '', version: 3, usedTimes: 4, isChanged: false },
  ...{ start: '2026-11-23', finish: '2027-01-15', promise: null, closedDays: 3, effortMinutes: 5400, conflicts: [], roles: [] },
  ...{ effortByRole: [{ role: 'Writer', minutes: 2400 }], copyOf: null, notes: [] },
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
      ...{ id: 'k1', phaseId: 'f1', title: 'Draft', kind: 'work', roleId: 'r1', role: 'Writer', estimateMinutes: 2400, days: 6 },
      ...{ anchor: { at: 'phase-start', offset: 0 }, after: [], steps: [], start: '2026-11-23', finish: '2026-11-30', slack: 2 },
      ...{ parentId: null, isGroup: false, deliverable: null },
    },
    {
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
  ...{ remainingMinutes: 1560, estimateMinutes: 1560, loggedMinutes: 0, waitingFor: null, since: null, holdsUp: 0, version: 3 },
  assignees: [{ id: 'o1', name: 'Odalys Renn', initials: 'OR' }],
};

const onDay = (id: string, title: string, minutes: number, more: Partial<DeskDayTask>): DeskDayTask => ({
  ...{ id, title, minutes, engagement: 'Seed vault wayfinding', hue: 'leaf', due: '2026-11-24', isDue: false, isPlaced: false },
  ...more,
});

/** A desk with something in every group. */
export const desk: Desk = {
  person: { id: 'o1', name: 'Odalys Renn', initials: 'OR' },
  now: { ...deskTask, id: 'now', title: 'Walls painted', status: 'active', loggedMinutes: 180, estimateMinutes: 600, holdsUp: 2 },
  overdue: [{ ...deskTask, id: 'late', title: 'Posts dug', due: '2026-11-19' }],
  ready: [{ ...deskTask, id: 'ready' }],
  waiting: [
    { ...deskTask, id: 'asked', title: 'Facts checked', status: 'waiting', waitingFor: 'the client', since: '2026-11-16' },
    { ...deskTask, id: 'behind', title: 'Labels hung', waitingFor: 'until Signs set', start: '2026-11-30' },
  ],
  fresh: [{ ...deskTask, id: 'new', title: 'Ladder hired', waitingFor: 'until Setting is picked up' }],
  ...{ handoffs: [], briefs: [] },
  days: DAYS.slice(0, 5).map((date, index) => ({
    ...{ date, capacity: index === 4 ? 0 : 450, load: index === 1 ? 540 : index === 2 ? 120 : 0, over: index === 1 ? 90 : 0 },
    tasks:
      index === 1
        ? [onDay('ready', 'Signs set', 540, { isDue: true })]
        : index === 2
          ? [onDay('put', 'Lamps hung', 120, { isPlaced: true })]
          : [],
  })),
  unlogged: [{ ...deskTask, id: 'told', title: 'Map proofed', status: 'done', doneOn: '2026-11-19', usualMinutes: 150 }],
  doneThisWeek: [
    { id: 'over', title: 'Paint bought', engagement: 'Seed vault wayfinding', hue: 'leaf', doneOn: '2026-11-23', loggedMinutes: 60 },
  ],
  forgottenDays: ['2026-11-18', '2026-11-20'],
  week: { plannedMinutes: 540, capacityMinutes: 1800, loggedMinutes: 180, unplacedMinutes: 90 },
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
  gate: { clear: 0, all: 0 },
};

/** An engagement on a track: Concept is over, Setting runs, Handover lies ahead. */
export const track: EngagementTrack = {
  ...{ id: 'e1', name: 'Seed vault wayfinding', client, lead: { id: 'o1', name: 'Odalys Renn', initials: 'OR' }, state: 'open' },
  ...{ start: '2026-10-05', promise: '2026-12-18', finish: '2026-12-15', percent: 40, loggedMinutes: 600, effortMinutes: 2400, overdue: 0 },
  standing: { kind: 'on-time' },
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
  engagement: { ...track, contact: null, template: null, version: 1 },
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

const entry = (id: string, day: string, minutes: number, more: Partial<TimeEntryView> = {}): TimeEntryView => ({
  ...{ id, day, minutes, startMinute: null, note: '', isChargeable: true, version: 1 },
  ...more,
});

/** Otto's last week: Thursday has two entries at the same time, Wednesday was forgotten, Monday is closed. */
export const weekSheet: WeekSheet = {
  person: otto,
  days: ['16', '17', '18', '19', '20', '21', '22'].map((day, place) => ({
    date: `2026-11-${day}`,
    capacity: place < 5 ? 450 : 0,
    isOff: place > 4,
    isLocked: place === 0,
    isForgotten: place === 2,
  })),
  rows: [
    {
      task: { id: 't1', title: 'Signs set', isOpen: true, isChargeable: true },
      engagement: galleries,
      isAtHand: true,
      entries: [
        entry('n1', '2026-11-16', 420),
        entry('n2', '2026-11-19', 240, { startMinute: 540, note: 'With Teo' }),
        entry('n3', '2026-11-19', 60, { startMinute: 780, isChargeable: false }),
      ],
    },
    {
      task: { id: 't2', title: 'Posts dug', isOpen: false, isChargeable: false },
      engagement: galleries,
      isAtHand: true,
      entries: [entry('n4', '2026-11-19', 90, { startMinute: 765, isChargeable: false }), entry('n5', '2026-11-17', 450)],
    },
    {
      ...{ task: { id: 't8', title: 'Depot tidied', isOpen: true, isChargeable: false }, isAtHand: false, entries: [] },
      engagement: { id: 'e9', name: 'In the house', hue: 'slate' },
    },
  ],
  overlaps: [
    { day: '2026-11-19', first: 'n2', second: 'n4', minutes: 15 },
    { day: '2026-11-19', first: 'n4', second: 'n3', minutes: 60 },
  ],
  closedThrough: '2026-11-16',
};

/** The crew's week, closed through its Monday, with one change after that. */
export const crewTime: CrewTime = {
  dates: weekSheet.days.map((day) => day.date),
  people: [{ person: otto, minutes: [420, 450, 0, 390, 0, 0, 0], capacity: [450, 450, 450, 450, 450, 0, 0], chargeableMinutes: 630 }],
  closedThrough: '2026-11-16',
  lateChanges: [
    {
      ...{ id: '7', at: '2026-11-20T15:20:00Z', who: 'Odalys Renn', whose: 'Otto Brandt', task: 'Signs set', what: 'time-corrected' },
      ...{ day: '2026-11-16', from: 450, to: 420, reason: 'Counted twice' },
    },
  ],
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

/** A gallery over the load: Otto would be over, and three weeks later nobody. */
export const triedEngagement: TriedEngagement = {
  ...{ start: '2026-11-23', finish: '2027-02-12', effortMinutes: 6000, unmannedMinutes: 600, searchedDays: 250 },
  roles: [
    {
      ...{ roleId: 'r1', role: 'Installer', tasks: 3, minutes: 5400, chosen: otto },
      suggestions: [{ person: otto, freeMinutes: -300, neededMinutes: 5400, isFull: true, pastEngagements: 0 }],
    },
    { ...{ roleId: 'r2', role: 'Writer', tasks: 1, minutes: 600, chosen: null }, suggestions: [] },
  ],
  overloads: [{ person: otto, minutes: 300, firstDay: '2026-11-30' }],
  people: plansTried.people,
  earliest: { start: '2026-12-14', finish: '2027-03-05', alone: [] },
};
