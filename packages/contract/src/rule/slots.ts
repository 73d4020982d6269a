import { PRIORITY, TASK_KIND, TASK_STATUS, type Priority, type TaskKind, type TaskStatus } from '../words.ts';

/** Which tasks a rule means: one of this title, all of a kind, or all with a label. */
export type WhichTask =
  | { readonly by: 'title'; readonly is: string }
  | { readonly by: 'kind'; readonly is: TaskKind }
  | { readonly by: 'label'; readonly is: string };

/** Somebody a rule names: by what they are at that moment, or by name. */
export type Somebody =
  { readonly by: 'lead' | 'giver' | 'receiver' | 'assignees' | 'owner' } | { readonly by: 'role' | 'person'; readonly id: string };

/** Whom a rule assigns: the person with the most free hours in a role, or one person. */
export interface Chosen {
  readonly by: 'role' | 'person';
  readonly id: string;
}

/** A phase as effects name it: the event's own, the one behind it, or by its name. */
export type WhichPhase = { readonly by: 'this' | 'next' } | { readonly by: 'name'; readonly is: string };

export const RULE_DAY_FROM = ['today', 'phase-start', 'phase-finish'] as const;
export type RuleDayFrom = (typeof RULE_DAY_FROM)[number];

/** A day by working days from today, or from the start or finish of a phase; negative is before. */
export interface RuleDay {
  readonly days: number;
  readonly from: RuleDayFrom;
}

export const TASK_DATE = ['start', 'due', 'brief-by'] as const;
export type TaskDate = (typeof TASK_DATE)[number];

export const HOURS_OF = ['task', 'phase', 'engagement'] as const;
export type HoursOf = (typeof HOURS_OF)[number];

/** What a custom field is set to. */
export interface FieldValue {
  readonly fieldId: string;
  readonly value: string | number;
}

/** What can stand in each kind of slot. */
export interface SlotValues {
  readonly phase: string;
  readonly task: WhichTask;
  readonly status: TaskStatus;
  readonly person: string;
  readonly offset: number;
  readonly shift: number;
  readonly percent: number;
  readonly date: TaskDate;
  readonly 'hours-of': HoursOf;
  readonly who: Somebody;
  readonly chosen: Chosen;
  readonly text: string;
  /** A text of several lines, to somebody outside. */
  readonly letter: string;
  readonly title: string;
  readonly priority: Priority;
  readonly label: string;
  readonly field: FieldValue;
  /** By its id. */
  readonly webhook: string;
  /** A single task kept in the library, by its id. */
  readonly 'saved-task': string;
  readonly place: WhichPhase;
  readonly day: RuleDay;
}
export type SlotKind = keyof SlotValues;
export type SlotValue = SlotValues[SlotKind];

/** A slot of a sentence. */
export interface SlotSpec {
  readonly kind: SlotKind;
  /** How it reads when nothing is chosen; a slot without it has to be filled. */
  readonly any?: string;
  /** What a new sentence begins with. */
  readonly first?: SlotValue;
}

/** A working day rules count to or from is at most so far away. */
export const MOST_RULE_DAYS = 60;

const ID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;
const isId = (value: unknown): boolean => typeof value === 'string' && ID.test(value);
const isText = (value: unknown, most: number): boolean => typeof value === 'string' && /\S/.test(value) && value.length <= most;
const isWhole = (value: unknown, least: number, most: number): boolean =>
  Number.isInteger(value) && (value as number) >= least && (value as number) <= most;
const isOneOf = (list: readonly unknown[], value: unknown): boolean => list.includes(value);
const partsOf = (value: unknown): Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null ? (value as Readonly<Record<string, unknown>>) : {};

/** What may be in a slot of each kind, and the sentence for what may not. */
const SLOT_RULES: { readonly [Kind in SlotKind]: { readonly is: (value: unknown) => boolean; readonly wanted: string } } = {
  phase: { is: (value) => isText(value, 120), wanted: 'Name a phase, in at most 120 characters.' },
  task: {
    is: (value) => {
      const { by, is } = partsOf(value);
      return by === 'kind' ? isOneOf(TASK_KIND, is) : (by === 'title' && isText(is, 200)) || (by === 'label' && isText(is, 40));
    },
    wanted: 'Say which task: its title, its kind or its label.',
  },
  status: { is: (value) => isOneOf(TASK_STATUS, value), wanted: 'Choose a status.' },
  person: { is: isId, wanted: 'Choose a person.' },
  offset: {
    is: (value) => isWhole(value, -MOST_RULE_DAYS, MOST_RULE_DAYS),
    wanted: `Give whole working days, at most ${MOST_RULE_DAYS} before or after.`,
  },
  shift: {
    is: (value) => value !== 0 && isWhole(value, -MOST_RULE_DAYS, MOST_RULE_DAYS),
    wanted: `Give whole working days, at most ${MOST_RULE_DAYS} earlier or later.`,
  },
  percent: { is: (value) => isWhole(value, 1, 1000), wanted: 'Give a whole number of percent, from 1 to 1 000.' },
  date: { is: (value) => isOneOf(TASK_DATE, value), wanted: 'Choose the start, the due date or the day to brief by.' },
  'hours-of': { is: (value) => isOneOf(HOURS_OF, value), wanted: 'Choose a task, a phase or an engagement.' },
  who: {
    is: (value) => {
      const { by, id } = partsOf(value);
      return by === 'role' || by === 'person' ? isId(id) : isOneOf(['lead', 'giver', 'receiver', 'assignees', 'owner'], by);
    },
    wanted: 'Choose whom it concerns.',
  },
  chosen: {
    is: (value) => isOneOf(['role', 'person'], partsOf(value)['by']) && isId(partsOf(value)['id']),
    wanted: 'Choose a role or a person to assign.',
  },
  webhook: { is: isId, wanted: 'Choose a webhook.' },
  'saved-task': { is: isId, wanted: 'Choose a saved task of the library.' },
  text: { is: (value) => isText(value, 500), wanted: 'Write a text of at most 500 characters.' },
  letter: { is: (value) => isText(value, 4000), wanted: 'Write the mail, in at most 4 000 characters.' },
  title: { is: (value) => isText(value, 200), wanted: 'Give the task a title of at most 200 characters.' },
  priority: { is: (value) => isOneOf(PRIORITY, value), wanted: 'Choose a priority.' },
  label: { is: (value) => isText(value, 40), wanted: 'Give a label of at most 40 characters.' },
  field: {
    is: (value) => {
      const { fieldId, value: filled } = partsOf(value);
      return isId(fieldId) && (isText(filled, 2000) || Number.isFinite(filled));
    },
    wanted: 'Choose a custom field and what to fill in.',
  },
  place: {
    is: (value) => {
      const { by, is } = partsOf(value);
      return by === 'this' || by === 'next' || (by === 'name' && isText(is, 120));
    },
    wanted: 'Choose a phase.',
  },
  day: {
    is: (value) => {
      const { days, from } = partsOf(value);
      return isWhole(days, -MOST_RULE_DAYS, MOST_RULE_DAYS) && isOneOf(RULE_DAY_FROM, from);
    },
    wanted: `Give a day: at most ${MOST_RULE_DAYS} working days from today, or from the start or finish of the phase.`,
  },
};

/** What is wrong with a slot, as a sentence; null when it is right. */
export function slotProblem({ kind, any }: SlotSpec, value: unknown): string | null {
  if (value === undefined || value === null) return any === undefined ? SLOT_RULES[kind].wanted : null;
  return SLOT_RULES[kind].is(value) ? null : SLOT_RULES[kind].wanted;
}
