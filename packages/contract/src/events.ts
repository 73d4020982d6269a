import type { IsoDay } from '@crew/core';
import type { HoursOf, TaskDate } from './rule/slots.ts';
import type { HandoffState, TaskKind, TaskStatus } from './words.ts';

/** What somebody did with logged time; `lateReason` is set when its period had been closed. */
interface TimePayload {
  readonly entryId: string;
  readonly personId: string;
  readonly day: string;
  readonly minutesBefore: number | null;
  readonly minutesAfter: number | null;
  readonly lateReason: string | null;
}

/** How a handoff moved: the message, and to whom. */
interface PassPayload {
  readonly words: string;
  readonly receiverId: string | null;
  /** Why a gate that was not clear was passed; null when it was clear. */
  readonly reason: string | null;
}

/** Somebody's time off as it was, so that it can be restored. */
export interface TimeOffSpan {
  readonly id: string;
  readonly from: IsoDay;
  readonly to: IsoDay;
  readonly minutes: number | null;
  readonly note: string;
  readonly fileKey: string | null;
}

/**
 * What people are reminded of: a handoff that is with somebody, a task that is overdue, one that waits for a colleague or
 * a supplier, one that waits for the client, one that is done without time logged.
 */
export const REMINDER_OF = ['handoff', 'overdue', 'waiting', 'client', 'unlogged'] as const;
export type ReminderOf = (typeof REMINDER_OF)[number];

/** Nothing beyond its changes. */
type None = Readonly<Record<string, never>>;

/**
 * Every kind of event, with what it carries beyond who, when, on what and which fields changed. Kinds
 * that the planner or a handoff causes are events too.
 */
export interface EventPayloads {
  'task-added': { readonly seriesId: string | null };
  'task-changed': None;
  'task-status-changed': None;
  'task-assigned': None;
  /** The planner gave it other days. */
  'task-rescheduled': {
    /** How many statuses it follows from, where that is not one: undoing one of them plans again. */ readonly causes?: number;
  };
  /** Moved within its list, because something was put before it. */
  'task-reordered': None;
  /** With the whole task, so that it can be restored; null for one that its repeating rule no longer asks for. */
  'task-deleted': { readonly image: unknown };
  'task-restored': None;
  'step-added': { readonly stepId: string; readonly title: string };
  'step-changed': { readonly stepId: string; readonly title: string };
  'step-removed': { readonly stepId: string; readonly title: string; readonly isDone: boolean };
  'time-logged': TimePayload;
  'time-corrected': TimePayload;
  'time-removed': TimePayload;
  'time-closed': None;
  'engagement-started': { readonly seriesId: string | null };
  'engagement-changed': None;
  'engagement-accepted': None;
  /** The work of a role is reassigned as a whole. */
  'role-given': { readonly roleId: string; readonly name: string };
  /** `ending` is the one of the map it was closed by. */
  'engagement-closed': { readonly reason: string; readonly ending: string | null };
  'engagement-reopened': None;
  /** `reason` is why gates that were not clear were passed; null when they were clear. */
  'engagement-completed': { readonly reason: string | null };
  /** The tasks of a loop are to be done again; `of` is how many rounds were agreed. */
  'round-started': { readonly round: number; readonly of: number | null; readonly reason: string };
  'deliverable-added': { readonly deliverableId: string; readonly name: string };
  'deliverable-removed': { readonly deliverableId: string; readonly name: string };
  'baseline-saved': None;
  'library-part-added': { readonly templateId: string; readonly name: string };
  'template-update-applied': { readonly templateId: string; readonly name: string };
  /** The list of phases, with gates and handoffs, before and after; `turn` where a handoff did it. */
  'phases-changed': { readonly before: unknown; readonly after: unknown; readonly turn?: string };
  'phase-started': None;
  'phase-ended': None;
  'phase-reopened': None;
  'gate-check-confirmed': { readonly checkId: string; readonly text: string };
  'gate-check-withdrawn': { readonly checkId: string; readonly text: string };
  'handed-off': PassPayload;
  'picked-up': PassPayload;
  'sent-back': PassPayload;
  'given-on': PassPayload;
  /** Somebody was reminded that something has not moved for so long, in the working minutes of whoever holds it. */
  reminded: {
    /** What does not move; of a handoff when left out. */
    readonly of?: ReminderOf;
    /** Somebody of the crew; null for the client, who is mailed. */
    readonly personId: string | null;
    readonly name: string;
    /** First whoever holds it, then the lead. */
    readonly step: 'holder' | 'client' | 'lead';
    readonly holder: string;
    readonly minutes: number;
  };
  'template-added': None;
  'template-saved': None;
  'template-version-added': { readonly version: number; readonly note: string };
  'template-archived': None;
  'template-restored': None;
  /** How a task repeats. */
  'task-series-changed': None;
  'series-started': None;
  'series-changed': None;
  'calendar-changed': None;
  'time-off-added': { readonly spans: readonly TimeOffSpan[] };
  'time-off-removed': { readonly spans: readonly TimeOffSpan[] };
  'field-added': None;
  'field-changed': None;
  'role-added': { readonly roleId: string; readonly name: string };
  'role-renamed': { readonly roleId: string; readonly name: string };
  'role-removed': { readonly roleId: string; readonly name: string };
  /** A label became another on these tasks, or was removed from them; `merged` had both. */
  'label-changed': { readonly name: string; readonly taskIds: readonly string[]; readonly merged: readonly string[] };
  'person-added': None;
  'person-changed': None;
  'client-added': None;
  'client-changed': None;
  'contact-added': { readonly contactId: string; readonly name: string };
  'contact-changed': { readonly contactId: string; readonly name: string };
  'settings-changed': None;
  /** The last check of a phase's gate became clear. */
  'gate-cleared': None;
  /** A date of a task or an engagement is so many working days away, or past; rules wait for it. */
  'day-reached': None;
  /** Logged time reached a share of the planned effort; rules wait for it. */
  'hours-reached': None;
  /** A rule sent people a notice. */
  told: { readonly personIds: readonly string[]; readonly words: string };
  /** A rule put a handoff that can be handed off on somebody's desk. */
  'handoff-readied': { readonly personIds: readonly string[] };
  /** A mail to somebody at a client, or one a rule sends; notices by mail are no events. */
  mailed: { readonly mailId: string; readonly to: string; readonly subject: string };
  /** Somebody answered a mail; `acted` is what the answer did, null when it was only kept. */
  'mail-received': { readonly mailId: string; readonly from: string; readonly words: string; readonly acted: string | null };
  'rule-added': None;
  'rule-changed': None;
  'rule-removed': None;
  /** A webhook was added, changed or removed. */
  'webhook-added': None;
  'webhook-changed': None;
  'webhook-removed': None;
}

export type EventKind = keyof EventPayloads;

/** What an event is about. */
export const EVENT_SUBJECT = [
  'task',
  'engagement',
  'phase',
  'handoff',
  'template',
  'series',
  'person',
  'client',
  'field',
  'rule',
  'webhook',
  'agency',
] as const;
export type EventSubject = (typeof EVENT_SUBJECT)[number];

/** Who acts: a person, somebody at a client, a rule, or a job of the server. */
export const ACTOR_KIND = ['person', 'contact', 'rule', 'job'] as const;
export type ActorKind = (typeof ACTOR_KIND)[number];

/** One field that changed, with its values as they are stored. */
export interface FieldChange {
  readonly field: string;
  readonly from: unknown;
  readonly to: unknown;
}

/**
 * What rules and notices may ask of an event, as it was at that moment: ids, names, words and numbers,
 * flat. Hours are rounded to a tenth. A fact that does not apply is left out.
 */
export interface EventFacts {
  readonly engagement?: string;
  readonly engagementName?: string;
  readonly leadId?: string;
  readonly template?: string;
  readonly client?: string;
  readonly clientId?: string;
  readonly phase?: string;
  /** The round its phase is in. */
  readonly round?: number;
  readonly role?: string;
  readonly roleId?: string;
  readonly person?: string;
  readonly personId?: string;
  readonly task?: string;
  readonly taskKind?: TaskKind;
  readonly status?: TaskStatus | HandoffState;
  /** The status before. */
  readonly from?: TaskStatus;
  readonly priority?: string;
  readonly labels?: readonly string[];
  readonly percent?: number;
  readonly daysLate?: number;
  readonly hoursUsed?: number;
  readonly hoursPlanned?: number;
  /** Of a day that was reached: which date, and how many working days it is past (negative: ahead). */
  readonly date?: TaskDate | 'promise';
  readonly days?: number;
  /** Of hours that were reached: of what, and the share of its planned effort. */
  readonly hoursOf?: HoursOf;
  readonly hoursPercent?: number;
  /** The name of its subject, where that is no task. */
  readonly name?: string;
}

/** Changes that follow from another one automatically. They do not mean that anybody worked on the thing. */
export const DERIVED_EVENTS = [
  'task-rescheduled',
  'task-reordered',
  'phase-started',
  'phase-ended',
  'engagement-completed',
  'gate-cleared',
  'day-reached',
  'hours-reached',
] as const satisfies readonly EventKind[];

/** Events that do not mean that anybody worked on the thing: what follows automatically, and what somebody was told. */
export const NO_WORK_EVENTS = [...DERIVED_EVENTS, 'reminded', 'told', 'handoff-readied'] as const satisfies readonly EventKind[];

/** The moves of a handoff. Whoever made one may undo it as long as nothing was built on it. */
export const TURN_EVENTS = ['handed-off', 'picked-up', 'sent-back', 'given-on'] as const satisfies readonly EventKind[];

/** Changes that can be undone, field by field; a change with any other kind in it cannot. */
export const UNDOABLE_EVENTS = [
  ...TURN_EVENTS,
  'phase-reopened',
  ...['task-added', 'task-changed', 'task-status-changed', 'task-assigned', 'task-rescheduled', 'task-reordered'],
  ...[
    'task-deleted',
    'task-restored',
    'step-added',
    'step-changed',
    'step-removed',
    'phases-changed',
    'library-part-added',
    'template-update-applied',
  ],
  ...['engagement-changed', 'engagement-accepted', 'role-given', 'round-started'],
  ...['calendar-changed', 'time-off-added', 'time-off-removed'],
  ...['person-changed', 'client-changed', 'contact-changed'],
  ...['role-added', 'role-renamed', 'role-removed', 'label-changed'],
  ...['rule-added', 'rule-changed', 'rule-removed'],
  ...['webhook-added', 'webhook-changed', 'webhook-removed'],
] as readonly EventKind[];

/** Events after which the gate of a phase may be clear, or not clear any more. */
export const GATE_EVENTS = [
  ...(['task-status-changed', 'task-added', 'task-changed', 'task-deleted', 'task-restored', 'phases-changed'] as const),
  ...(['step-added', 'step-changed', 'step-removed'] as const),
  ...(['phase-started', 'phase-reopened', 'gate-check-confirmed', 'gate-check-withdrawn'] as const),
] as const satisfies readonly EventKind[];

/** Events that notices, gates and rules follow: each waits to be processed once, by the first server process that gets to it. */
export const FOLLOWED_EVENTS = [
  ...GATE_EVENTS,
  ...['task-assigned', 'task-rescheduled', 'time-off-added', 'time-logged', 'time-corrected'],
  ...[...TURN_EVENTS, 'reminded', 'round-started'],
  ...['engagement-started', 'engagement-changed', 'engagement-closed', 'engagement-reopened', 'engagement-completed'],
  ...['gate-cleared', 'day-reached', 'hours-reached', 'told', 'handoff-readied', 'mail-received'],
] as readonly EventKind[];

/** What the history can be filtered by, with the kinds of events it means. Every kind is in one of them. */
export const HISTORY_PARTS = {
  statuses: ['task-status-changed', 'step-added', 'step-changed', 'step-removed'],
  assignments: ['task-assigned', 'role-given'],
  dates: ['task-rescheduled', 'task-reordered'],
  tasks: ['task-added', 'task-changed', 'task-deleted', 'task-restored', 'task-series-changed'],
  handoffs: [
    ...TURN_EVENTS,
    ...(['reminded', 'gate-check-confirmed', 'gate-check-withdrawn'] as const),
    ...(['phase-started', 'phase-ended', 'phase-reopened', 'round-started', 'gate-cleared', 'handoff-readied'] as const),
  ],
  engagements: [
    ...(['engagement-started', 'engagement-changed', 'engagement-accepted', 'engagement-closed', 'engagement-reopened'] as const),
    ...(['engagement-completed', 'phases-changed', 'deliverable-added', 'deliverable-removed', 'baseline-saved'] as const),
    ...(['library-part-added', 'template-update-applied', 'series-started', 'series-changed'] as const),
  ],
  time: ['time-logged', 'time-corrected', 'time-removed', 'time-closed'],
  calendar: ['calendar-changed', 'time-off-added', 'time-off-removed'],
  templates: ['template-added', 'template-saved', 'template-version-added', 'template-archived', 'template-restored'],
  people: ['person-added', 'person-changed', 'client-added', 'client-changed', 'contact-added', 'contact-changed'],
  settings: [
    ...(['field-added', 'field-changed', 'role-added', 'role-renamed', 'role-removed', 'label-changed'] as const),
    ...(['settings-changed', 'webhook-added', 'webhook-changed', 'webhook-removed'] as const),
  ],
  mail: ['mailed', 'mail-received'],
  rules: ['rule-added', 'rule-changed', 'rule-removed', 'told', 'day-reached', 'hours-reached'],
} as const satisfies Readonly<Record<string, readonly EventKind[]>>;

export type HistoryPart = keyof typeof HISTORY_PARTS;
export const HISTORY_PART = Object.keys(HISTORY_PARTS) as readonly HistoryPart[];
