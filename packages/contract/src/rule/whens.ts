import type { EventFacts, EventKind } from '../events.ts';
import type { SlotSpec } from './slots.ts';

/** What the event of a rule is about: effects that need another subject cannot follow it. */
export type RuleSubject = 'task' | 'handoff' | 'phase' | 'engagement' | 'person';

export interface WhenSpec {
  /** The sentence after "When", with its slots. */
  readonly words: string;
  readonly slots: Readonly<Record<string, SlotSpec & { readonly fact?: keyof EventFacts }>>;
  readonly event: EventKind;
  readonly subject: RuleSubject;
  /** Facts that distinguish it among events of the kind. */
  readonly is?: EventFacts;
}

const PHASE = { kind: 'phase', any: 'a phase', fact: 'phase' } as const;
const TASK = { kind: 'task', any: 'a task' } as const;

/**
 * Everything a rule can wait for, by name, in the order in which it is offered. What an event is about is
 * asked by its facts; a slot without a fact of its own is a choice of several (see `compileRule`).
 */
export const WHENS = {
  'handed-off': { words: '{phase} is handed off', slots: { phase: PHASE }, event: 'handed-off', subject: 'handoff' },
  'picked-up': { words: '{phase} is picked up', slots: { phase: PHASE }, event: 'picked-up', subject: 'handoff' },
  'sent-back': { words: '{phase} is sent back', slots: { phase: PHASE }, event: 'sent-back', subject: 'handoff' },
  'gate-cleared': { words: 'the gate of {phase} becomes clear', slots: { phase: PHASE }, event: 'gate-cleared', subject: 'handoff' },
  'phase-started': { words: '{phase} starts', slots: { phase: PHASE }, event: 'phase-started', subject: 'phase' },
  'status-changed': {
    words: '{task} becomes {status}',
    slots: { task: TASK, status: { kind: 'status', any: 'any status', fact: 'status', first: 'done' } },
    ...{ event: 'task-status-changed', subject: 'task' },
  },
  'client-answered': {
    words: 'the client has answered {task}',
    slots: { task: TASK },
    ...{ event: 'task-status-changed', subject: 'task', is: { taskKind: 'client', status: 'done' } },
  },
  'task-day': {
    words: 'it is {days} {date} of {task}',
    slots: {
      days: { kind: 'offset', fact: 'days', first: -2 },
      date: { kind: 'date', fact: 'date', first: 'due' },
      task: TASK,
    },
    ...{ event: 'day-reached', subject: 'task' },
  },
  'promise-day': {
    words: 'it is {days} the promised date of the engagement',
    slots: { days: { kind: 'offset', fact: 'days', first: -5 } },
    ...{ event: 'day-reached', subject: 'engagement', is: { date: 'promise' } },
  },
  'hours-reached': {
    words: 'logged time reaches {percent} of the planned effort of {of}',
    slots: {
      percent: { kind: 'percent', fact: 'hoursPercent', first: 80 },
      of: { kind: 'hours-of', fact: 'hoursOf', first: 'phase' },
    },
    ...{ event: 'hours-reached', subject: 'engagement' },
  },
  'round-started': { words: 'a new round of {phase} starts', slots: { phase: PHASE }, event: 'round-started', subject: 'phase' },
  'engagement-started': { words: 'an engagement starts', slots: {}, event: 'engagement-started', subject: 'engagement' },
  'engagement-completed': { words: 'an engagement is completed', slots: {}, event: 'engagement-completed', subject: 'engagement' },
  'person-away': {
    words: '{person} becomes unavailable',
    slots: { person: { kind: 'person', any: 'somebody', fact: 'personId' } },
    ...{ event: 'time-off-added', subject: 'person' },
  },
} as const satisfies Readonly<Record<string, WhenSpec>>;

export type WhenKind = keyof typeof WHENS;
export const WHEN_KIND = Object.keys(WHENS) as readonly WhenKind[];
export const whenSpec = (kind: WhenKind): WhenSpec => WHENS[kind];

/** The kinds of events rules can wait for. */
export const RULE_EVENTS: readonly EventKind[] = [...new Set(WHEN_KIND.map((kind) => WHENS[kind].event))];
