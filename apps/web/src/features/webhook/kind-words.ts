import type { EventKind } from '@crew/contract';

/** An event as the end of "told when …": its name reads as words. */
export const kindWords = (kind: EventKind): string => WORDS[kind] ?? kind.replaceAll('-', ' ');

const WORDS: Partial<Readonly<Record<EventKind, string>>> = {
  ...{ 'handed-off': 'a phase is handed off', 'picked-up': 'a phase is picked up', 'sent-back': 'a phase is sent back' },
  ...{ 'given-on': 'a handoff is passed on', 'gate-cleared': 'a gate is clear', 'handoff-readied': 'a rule readies a handoff' },
  ...{ 'gate-check-confirmed': 'a check is confirmed', 'gate-check-withdrawn': 'a confirmation is withdrawn' },
  ...{ 'task-added': 'a task is added', 'task-changed': 'a task is changed', 'task-deleted': 'a task is deleted' },
  ...{ 'task-restored': 'a task is restored', 'task-status-changed': 'a status changes', 'task-assigned': 'a task is assigned' },
  ...{ 'task-rescheduled': 'a task is rescheduled', 'phases-changed': 'phases are changed', 'phase-started': 'a phase starts' },
  ...{ 'phase-reopened': 'a phase is reopened', 'step-added': 'a step is added', 'step-changed': 'a step is ticked or unticked' },
  ...{ 'step-removed': 'a step is removed', 'time-off-added': 'time off is entered', 'time-logged': 'time is logged' },
  ...{ 'time-corrected': 'time is corrected', 'round-started': 'a round starts', reminded: 'somebody is reminded' },
  ...{ 'engagement-started': 'an engagement starts', 'engagement-changed': 'an engagement is changed' },
  ...{ 'engagement-closed': 'an engagement is closed', 'engagement-reopened': 'an engagement is reopened' },
  ...{ 'engagement-completed': 'an engagement is completed', 'day-reached': 'a day is reached', 'hours-reached': 'hours are reached' },
  ...{ told: 'a rule tells somebody', 'mail-received': 'a mail is answered' },
};
