import type { CrewMember, PlanEffect, PlanTask, TaskSheet } from '@crew/contract';

/** A task as the plan has it. */
export const planTask: PlanTask = {
  ...{ id: 't1', number: 7, phaseId: 'p1', title: 'Signs set', kind: 'work', role: 'Installer', status: 'queued', waitingOn: null },
  ...{ waitingSince: null, priority: 'normal', assignees: [], start: '2026-11-25', due: '2026-11-30', days: 4, slack: 2 },
  ...{ isCritical: false, missedDays: 0, fixedDay: null, estimateMinutes: 1560, loggedMinutes: 0, stepsDone: 0, stepsAll: 0 },
  ...{ after: [], openPredecessors: 0, isShownToClient: false, version: 3 },
};

/** The same task on its sheet. */
export const taskSheet: TaskSheet = {
  ...planTask,
  ...{ description: '', phase: 'Setting', steps: [], waitsFor: [], holdsUp: [], happened: [] },
  engagement: { id: 'e1', name: 'Seed vault wayfinding', client: { name: 'Marrowdale Botanic Garden', hue: 'leaf' } },
};

/** A change that moves nothing. */
export const stillEffect: PlanEffect = {
  ...{ moves: [], newConflicts: [], overloads: [], promise: '2026-12-18' },
  finish: { from: '2026-12-11', to: '2026-12-11' },
};

/** Somebody of the crew. */
export const jonah: CrewMember = {
  ...{ id: 'j1', name: 'Jonah Ferreira', initials: 'JF', access: 'member', roleIds: ['r1'], roles: ['Installer'] },
  ...{ week: [450, 450, 450, 450, 0, 0, 0], email: 'jonah@quillmarsh.example', isActive: true, openTasks: 2, version: 4 },
};
