import type { Condition, ConditionOp, Effect, Fact, Facts, When } from '@crew/core';
import { CONDITION_OP } from '@crew/core';
import { isNumberFact, opsOf, RULE_FACTS, RULE_FACT, type RuleFact } from './facts.ts';
import { slotProblem, type SlotSpec, type SlotValue, type WhichTask } from './slots.ts';
import { canFollow, thenSpec, THEN_KIND, type ThenKind } from './thens.ts';
import { whenSpec, WHEN_KIND, type WhenKind } from './whens.ts';

/** What the slots of a sentence hold, by their names; one left out is open. */
export type Slots = Readonly<Record<string, SlotValue | null | undefined>>;

export interface RuleWhen {
  readonly kind: WhenKind;
  readonly slots: Slots;
}

export interface RuleCondition {
  readonly fact: RuleFact;
  readonly op: ConditionOp;
  readonly value?: Fact;
}

export interface RuleThen {
  readonly do: ThenKind;
  readonly slots: Slots;
}

/** What a rule says, apart from where it holds. */
export interface RuleContent {
  readonly when: RuleWhen;
  readonly if: readonly RuleCondition[];
  readonly then: readonly RuleThen[];
}

/** A rule has at most so many conditions and so many effects. */
export const MOST_CONDITIONS = 10;
export const MOST_EFFECTS = 10;

/** Where in a rule a fault is, and the fault as a sentence. */
export interface RuleProblem {
  readonly at: string;
  readonly words: string;
}

const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isOneOf = <Value extends string>(list: readonly Value[], value: unknown): value is Value => list.includes(value as Value);

/** The first fault in the content of a rule, whatever was sent for it; null when there is none. */
export function ruleProblem(content: unknown): RuleProblem | null {
  if (!isRecord(content)) return { at: 'content', words: 'Give what the rule waits for and what it does.' };
  const { when, if: conditions, then } = content;
  if (!isRecord(when) || !isOneOf(WHEN_KIND, when['kind'])) return { at: 'when', words: 'Choose what the rule waits for.' };
  const spec = whenSpec(when['kind']);
  const inWhen = slotsProblem(spec.slots, when['slots'], 'when');
  if (inWhen !== null) return inWhen;
  if (!Array.isArray(conditions) || conditions.length > MOST_CONDITIONS)
    return { at: 'if', words: `Give the conditions as a list of at most ${MOST_CONDITIONS}.` };
  for (const [place, condition] of conditions.entries()) {
    const words = conditionProblem(condition);
    if (words !== null) return { at: `if.${place}`, words };
  }
  if (!Array.isArray(then) || then.length === 0) return { at: 'then', words: 'Say what the rule does.' };
  if (then.length > MOST_EFFECTS) return { at: 'then', words: `A rule does at most ${MOST_EFFECTS} things.` };
  for (const [place, effect] of then.entries()) {
    const at = `then.${place}`;
    if (!isRecord(effect) || !isOneOf(THEN_KIND, effect['do'])) return { at, words: 'Choose what the rule does.' };
    if (!canFollow(effect['do'], spec.subject)) return { at, words: 'This cannot follow what the rule waits for. Choose something else.' };
    const inThen = slotsProblem(thenSpec(effect['do']).slots, effect['slots'], at);
    if (inThen !== null) return inThen;
  }
  return null;
}

function slotsProblem(specs: Readonly<Record<string, SlotSpec>>, slots: unknown, at: string): RuleProblem | null {
  if (!isRecord(slots)) return { at, words: 'Fill in the slots.' };
  const unknown = Object.keys(slots).find((name) => !Object.hasOwn(specs, name));
  if (unknown !== undefined) return { at: `${at}.${unknown}`, words: 'This sentence has no such slot.' };
  for (const [name, spec] of Object.entries(specs)) {
    const words = slotProblem(spec, slots[name]);
    if (words !== null) return { at: `${at}.${name}`, words };
  }
  return null;
}

function conditionProblem(condition: unknown): string | null {
  if (!isRecord(condition) || !isOneOf(RULE_FACT, condition['fact'])) return 'Choose what the condition asks.';
  const { fact, op, value } = condition as { fact: RuleFact; op: unknown; value: unknown };
  if (!isOneOf(CONDITION_OP, op) || !opsOf(fact).includes(op)) return 'Choose how the condition asks it.';
  if (op === 'is-empty') return null;
  if (isNumberFact(fact)) return Number.isFinite(value) ? null : 'Give a number.';
  return typeof value === 'string' && /\S/.test(value) && value.length <= 200 ? null : 'Choose what the condition compares with.';
}

/** The content of a rule as the core runs it: the kind of event, its facts, and effects with their slots as fields. */
export function compileContent({ when, if: conditions, then }: RuleContent): {
  readonly when: When;
  readonly if: readonly Condition[];
  readonly then: readonly Effect[];
} {
  const spec = whenSpec(when.kind);
  const is: Record<string, Fact> = { ...(spec.is as Facts | undefined) };
  const more: Condition[] = [];
  for (const [name, slot] of Object.entries(spec.slots)) {
    const value = when.slots[name];
    if (value === undefined || value === null) continue;
    if (slot.kind === 'task') addTask(value as WhichTask, { is, more });
    else is[slot.fact ?? name] = value as Fact;
  }
  const asked = conditions.map(({ fact, op, value }) => ({
    fact: RULE_FACTS[fact].fact,
    op,
    ...(value === undefined ? {} : { value }),
  }));
  return {
    when: { kind: spec.event, is },
    if: [...more, ...asked],
    then: then.map(({ do: kind, slots }) => ({ ...slots, do: kind })),
  };
}

/** How many conditions the `when` of a rule becomes, before those that were written as conditions. */
export const conditionsInWhen = ({ when, ...rest }: RuleContent): number => compileContent({ ...rest, when, if: [] }).if.length;

function addTask({ by, is: wanted }: WhichTask, { is, more }: { readonly is: Record<string, Fact>; readonly more: Condition[] }): void {
  if (by === 'title') is['task'] = wanted;
  else if (by === 'kind') is['taskKind'] = wanted;
  // A list that contains it; `is` would ask the other way round.
  else more.push({ fact: 'labels', op: 'has', value: wanted });
}
