import type { Effect, EffectMeaning } from '@crew/core';
import type { SlotSpec } from './slots.ts';
import type { RuleSubject } from './whens.ts';

export interface ThenSpec {
  /** The sentence after the comma, with its slots. */
  readonly words: string;
  readonly slots: Readonly<Record<string, SlotSpec>>;
  /** The subject the event must have; left out, it follows any event of an engagement. */
  readonly after?: readonly RuleSubject[];
  /** What it means to other rules; see `checkRules`. */
  readonly meaning?: EffectMeaning;
}

const setsTo = (thing: string, slot: string): EffectMeaning => ({
  sets: (effect: Effect) => ({ thing, value: effect[slot] ?? null }),
});
const PLACE = { kind: 'place', first: { by: 'this' } } as const;
const OF_TASK = { after: ['task'] } as const;

/** Everything a rule can do, by name, in the order in which it is offered. Who carries it out is in the server's area `rule`. */
export const THENS = {
  tell: {
    words: 'tell {who}: {text}',
    slots: { who: { kind: 'who', first: { by: 'lead' } }, text: { kind: 'text' } },
  },
  mail: {
    words: 'mail {who}: {text}',
    slots: { who: { kind: 'who', first: { by: 'lead' } }, text: { kind: 'text' } },
  },
  'mail-client': {
    words: 'mail the client {title}: {text}',
    slots: { title: { kind: 'title' }, text: { kind: 'letter' } },
    after: ['handoff', 'phase', 'engagement', 'task'],
  },
  'call-webhook': { words: 'call the webhook {hook}', slots: { hook: { kind: 'webhook' } } },
  assign: { words: 'assign it to {whom}', slots: { whom: { kind: 'chosen' } }, ...OF_TASK, meaning: setsTo('assignees', 'whom') },
  'assign-phase': {
    words: 'assign the open tasks of {phase} to {whom}',
    slots: { phase: { kind: 'place', first: { by: 'next' } }, whom: { kind: 'chosen' } },
    after: ['handoff', 'phase', 'engagement', 'task'],
    meaning: {
      sets: (effect: Effect) => ({ thing: `people of ${JSON.stringify(effect['phase'])}`, value: effect['whom'] ?? null }),
    },
  },
  'make-task': {
    words: 'add the task {title} to {phase}, {day}, for {whom}',
    slots: {
      title: { kind: 'title' },
      phase: { kind: 'place', first: { by: 'next' } },
      day: { kind: 'day', first: { days: 0, from: 'phase-start' } },
      whom: { kind: 'chosen', any: 'nobody' },
    },
  },
  'add-saved-task': {
    words: 'add {item} from the library to {phase}, {day}, for {whom}',
    slots: {
      item: { kind: 'saved-task' },
      phase: { kind: 'place', first: { by: 'next' } },
      day: { kind: 'day', first: { days: 0, from: 'phase-start' } },
      whom: { kind: 'chosen', any: 'whoever has its role' },
    },
  },
  'ask-decision': {
    words: 'ask {whom} to decide: {text}',
    slots: { whom: { kind: 'who', first: { by: 'lead' } }, text: { kind: 'title' } },
  },
  'move-task': { words: 'move it by {days}', slots: { days: { kind: 'shift', first: 1 } }, ...OF_TASK, meaning: setsTo('dates', 'days') },
  'move-phase': {
    words: 'move the tasks of {phase} by {days}',
    slots: { phase: { kind: 'place', first: { by: 'next' } }, days: { kind: 'shift', first: 1 } },
    after: ['handoff', 'phase', 'engagement', 'task'],
    meaning: { sets: (effect: Effect) => ({ thing: `dates of ${JSON.stringify(effect['phase'])}`, value: effect['days'] ?? null }) },
  },
  'set-status': {
    words: 'set its status to {status}',
    slots: { status: { kind: 'status', first: 'active' } },
    ...OF_TASK,
    meaning: {
      ...setsTo('status', 'status'),
      raises: (effect: Effect) => [{ kind: 'task-status-changed', facts: { status: String(effect['status']) } }],
    },
  },
  'set-priority': {
    words: 'set its priority to {priority}',
    slots: { priority: { kind: 'priority', first: 'high' } },
    ...OF_TASK,
    meaning: setsTo('priority', 'priority'),
  },
  'add-label': { words: 'add the label {label}', slots: { label: { kind: 'label' } }, ...OF_TASK },
  'set-field': {
    words: 'fill in {field}',
    slots: { field: { kind: 'field' } },
    ...OF_TASK,
    meaning: {
      sets: ({ field }: Effect) => {
        const { fieldId, value } = (field ?? {}) as { readonly fieldId?: string; readonly value?: unknown };
        return { thing: `field ${fieldId ?? ''}`, value };
      },
    },
  },
  'ready-handoff': {
    words: 'put the handoff on the desk of {who}',
    slots: { who: { kind: 'who', first: { by: 'giver' } } },
    after: ['handoff', 'task', 'phase'],
  },
  'hand-off': {
    words: 'hand it off to {whom}',
    slots: { whom: { kind: 'chosen', any: 'whoever has the next phase’s role' } },
    after: ['handoff', 'task', 'phase'],
    meaning: {
      ...setsTo('receiver', 'whom'),
      raises: () => [{ kind: 'handed-off', facts: {} }],
    },
  },
  'start-phase': {
    words: 'start {phase}',
    slots: { phase: { kind: 'place', first: { by: 'next' } } },
    meaning: { raises: () => [{ kind: 'phase-started', facts: {} }] },
  },
  'start-round': {
    words: 'start the next round of {phase}',
    slots: { phase: PLACE },
    after: ['handoff', 'task', 'phase'],
    meaning: { raises: () => [{ kind: 'round-started', facts: {} }] },
  },
} as const satisfies Readonly<Record<string, ThenSpec>>;

export type ThenKind = keyof typeof THENS;
export const THEN_KIND = Object.keys(THENS) as readonly ThenKind[];
export const thenSpec = (kind: ThenKind): ThenSpec => THENS[kind];

/** Whether an effect can follow an event about this. */
export function canFollow(kind: ThenKind, subject: RuleSubject): boolean {
  const { after } = thenSpec(kind);
  return after === undefined
    ? subject !== 'person' || kind === 'tell' || kind === 'mail' || kind === 'call-webhook'
    : after.includes(subject);
}

/** What effects mean to each other, as `checkRules` asks for it. */
export const EFFECT_MEANINGS: Readonly<Record<string, EffectMeaning>> = Object.fromEntries(
  THEN_KIND.map((kind) => [kind, thenSpec(kind).meaning ?? {}]),
);
