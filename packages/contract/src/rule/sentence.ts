import { TASK_STATUS_WORDS, type Priority, type TaskKind, type TaskStatus } from '../words.ts';
import type { RuleCondition, RuleContent, RuleThen, RuleWhen } from './content.ts';
import { OP_WORDS, RULE_FACTS, isNumberFact } from './facts.ts';
import type {
  Chosen,
  FieldValue,
  HoursOf,
  RuleDay,
  SlotKind,
  SlotSpec,
  SlotValue,
  Somebody,
  TaskDate,
  WhichPhase,
  WhichTask,
} from './slots.ts';
import { thenSpec } from './thens.ts';
import { whenSpec } from './whens.ts';

/** The names of ids in a rule: people, roles, clients, templates, fields. */
export type RuleNames = Readonly<Record<string, string>>;

/** A piece of a sentence; one with a slot can be chosen. `isOpen` is a slot that still has to be filled. */
export interface SentencePart {
  readonly text: string;
  readonly slot?: string;
  readonly isOpen?: boolean;
}

const TASK_KIND_WORDS: Readonly<Record<TaskKind, string>> = {
  ...{ work: 'any work task', client: 'any client task', review: 'any review', meeting: 'any meeting' },
  ...{ order: 'any order', milestone: 'any milestone' },
};
const PRIORITY_WORDS: Readonly<Record<Priority, string>> = { low: 'low', normal: 'normal', high: 'high' };
const DATE_WORDS: Readonly<Record<TaskDate, string>> = { start: 'the start', due: 'the due date', 'brief-by': 'the day to brief by' };
const HOURS_WORDS: Readonly<Record<HoursOf, string>> = { task: 'a task', phase: 'a phase', engagement: 'an engagement' };
const SOMEBODY_WORDS: Readonly<Record<Exclude<Somebody['by'], 'role' | 'person'>, string>> = {
  ...{ lead: 'the engagement’s lead', giver: 'whoever hands off', receiver: 'whoever receives it' },
  ...{ assignees: 'whoever it is assigned to', owner: 'the phase’s owner' },
};

const days = (count: number): string => `${Math.abs(count)} working ${Math.abs(count) === 1 ? 'day' : 'days'}`;
const nameOf = (id: string, names: RuleNames): string => names[id] ?? 'somebody or something removed since';

/** A sentence holds the beginning of a mail. */
const shortened = (text: string): string => {
  const line = text.replace(/\s+/g, ' ').trim();
  return line.length <= 90 ? line : `${line.slice(0, 88).trimEnd()} …`;
};

/** The text of a slot of each kind. */
const SLOT_WORDS: { readonly [Kind in SlotKind]: (value: never, names: RuleNames) => string } = {
  phase: (value: string) => value,
  task: (value: WhichTask) =>
    value.by === 'title' ? `“${value.is}”` : value.by === 'label' ? `a task labelled “${value.is}”` : TASK_KIND_WORDS[value.is],
  status: (value: TaskStatus) => TASK_STATUS_WORDS[value].toLowerCase(),
  person: (value: string, names) => nameOf(value, names),
  offset: (value: number) => (value === 0 ? 'the day of' : `${days(value)} ${value < 0 ? 'before' : 'after'}`),
  shift: (value: number) => `${days(value)} ${value < 0 ? 'earlier' : 'later'}`,
  percent: (value: number) => `${value} %`,
  date: (value: TaskDate) => DATE_WORDS[value],
  'hours-of': (value: HoursOf) => HOURS_WORDS[value],
  who: (value: Somebody, names) =>
    value.by === 'person'
      ? nameOf(value.id, names)
      : value.by === 'role'
        ? `everybody with the role ${nameOf(value.id, names)}`
        : SOMEBODY_WORDS[value.by as keyof typeof SOMEBODY_WORDS],
  chosen: (value: Chosen, names) =>
    value.by === 'person' ? nameOf(value.id, names) : `the ${nameOf(value.id, names)} with the most free hours`,
  webhook: (value: string, names) => nameOf(value, names),
  'saved-task': (value: string, names) => `“${nameOf(value, names)}”`,
  text: (value: string) => `“${value}”`,
  letter: (value: string) => `“${shortened(value)}”`,
  title: (value: string) => `“${value}”`,
  priority: (value: Priority) => PRIORITY_WORDS[value],
  label: (value: string) => `“${value}”`,
  field: ({ fieldId, value }: FieldValue, names) => `${nameOf(fieldId, names)} with “${value}”`,
  place: (value: WhichPhase) => (value.by === 'name' ? value.is : value.by === 'this' ? 'this phase' : 'the next phase'),
  day: ({ days: count, from }: RuleDay) => {
    const edge = from === 'today' ? 'today' : `the phase ${from === 'phase-start' ? 'starts' : 'finishes'}`;
    if (count === 0) return from === 'today' ? 'from today' : `when ${edge}`;
    return from === 'today' && count > 0 ? `${days(count)} from today` : `${days(count)} ${count < 0 ? 'before' : 'after'} ${edge}`;
  },
};

/** What a slot holds, in words; for an open one, its placeholder. */
export function slotWords({ kind, any }: SlotSpec, value: SlotValue | null | undefined, names: RuleNames): string {
  if (value === undefined || value === null) return any ?? 'choose…';
  return (SLOT_WORDS[kind] as (value: SlotValue, names: RuleNames) => string)(value, names);
}

/** A template of a sentence as its parts. */
function partsOf(
  words: string,
  {
    specs,
    slots,
    names,
  }: { readonly specs: Readonly<Record<string, SlotSpec>>; readonly slots: RuleWhen['slots']; readonly names: RuleNames },
): SentencePart[] {
  return words
    .split(/(\{[a-z]+\})/)
    .filter((text) => text !== '')
    .map((text) => {
      const name = /^\{([a-z]+)\}$/.exec(text)?.[1];
      const spec = name === undefined ? undefined : specs[name];
      if (name === undefined || spec === undefined) return { text };
      const isOpen = (slots[name] ?? null) === null && spec.any === undefined;
      return { text: slotWords(spec, slots[name], names), slot: name, ...(isOpen ? { isOpen } : {}) };
    });
}

/** What a rule waits for, without its "When". */
export function whenParts({ kind, slots }: RuleWhen, names: RuleNames): SentencePart[] {
  const spec = whenSpec(kind);
  return partsOf(spec.words, { specs: spec.slots, slots, names });
}

export function thenParts({ do: kind, slots }: RuleThen, names: RuleNames): SentencePart[] {
  const spec = thenSpec(kind);
  return partsOf(spec.words, { specs: spec.slots, slots, names });
}

/** A condition, without its "if": what is asked, how, and with what. */
export function conditionParts({ fact, op, value }: RuleCondition, names: RuleNames): SentencePart[] {
  const { words } = RULE_FACTS[fact];
  const asked: SentencePart[] = [{ text: words, slot: 'fact' }, { text: ' ' }, { text: OP_WORDS[op], slot: 'op' }];
  if (op === 'is-empty') return asked;
  const isOpen = value === undefined || value === '';
  return [
    ...asked,
    { text: ' ' },
    { text: isOpen ? 'choose…' : valueWords(fact, value, names), slot: 'value', ...(isOpen ? { isOpen } : {}) },
  ];
}

function valueWords(fact: RuleCondition['fact'], value: NonNullable<RuleCondition['value']>, names: RuleNames): string {
  const { of } = RULE_FACTS[fact];
  if (isNumberFact(fact)) {
    if (of === 'percent') return `${String(value)} %`;
    if (of === 'hours') return `${String(value)} h`;
    return of === 'days' ? days(Number(value)) : String(value);
  }
  const text = String(value);
  if (of === 'status') return TASK_STATUS_WORDS[text as TaskStatus].toLowerCase();
  if (of === 'label' || of === 'title') return `“${text}”`;
  if (of === 'kind') return (TASK_KIND_WORDS[text as TaskKind] ?? text).replace(/^any /, '');
  return of === 'client' || of === 'template' || of === 'role' || of === 'person' ? nameOf(text, names) : text;
}

/** A whole rule as one sentence. */
export function ruleWords(content: RuleContent, names: RuleNames): string {
  const text = (parts: readonly SentencePart[]): string => parts.map((part) => part.text).join('');
  const conditions = content.if.map((condition) => text(conditionParts(condition, names)));
  const effects = content.then.map((then) => text(thenParts(then, names)));
  return `When ${text(whenParts(content.when, names))}${conditions.length === 0 ? '' : `, if ${conditions.join(' and ')}`}, ${listWords(effects)}.`;
}

const listWords = (items: readonly string[]): string =>
  items.length < 2 ? items.join('') : `${items.slice(0, -1).join(', ')} and ${items.at(-1) ?? ''}`;
