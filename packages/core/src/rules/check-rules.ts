import { attempt, type Result } from '../result.ts';
import { isWanted } from './conditions.ts';
import { factOf } from './fill-slots.ts';
import { findRings } from './find-rings.ts';
import { readRuleList } from './read-rules.ts';
import { findExcluded } from './satisfiable.ts';
import type { Effect, Fact, Facts, Rule } from './types.ts';

/** What an effect does, as far as rules can contradict or call each other by it. */
export interface EffectMeaning {
  /** The thing it sets, of the event's subject: two that give it different values contradict each other. */
  readonly sets?: (effect: Effect) => { readonly thing: string; readonly value: unknown } | null;
  /** The events it brings about, with the facts of them that are known beforehand. */
  readonly raises?: (effect: Effect) => readonly { readonly kind: string; readonly facts: Facts }[];
}

export interface CheckRulesInput {
  readonly rules: readonly Rule[];
  /** By the `do` of effects; what is not named here sets nothing and calls nothing. */
  readonly effects: Readonly<Record<string, EffectMeaning>>;
}

/** What is wrong with rules, each with those concerned. Nothing of it is forbidden. */
export type RuleFinding =
  /** What it asks of this fact excludes itself, so it can never run. */
  | { readonly kind: 'never'; readonly rules: readonly [string]; readonly fact: string }
  /** Wherever the first would run, the second runs instead. */
  | { readonly kind: 'always-replaced'; readonly rules: readonly [string, string] }
  /** Both run at one event and set the same thing differently; the later one wins. */
  | { readonly kind: 'differ'; readonly rules: readonly [string, string]; readonly thing: string }
  /** Each calls the next, and the last calls the first. */
  | { readonly kind: 'ring'; readonly rules: readonly string[] };

/**
 * Mistakes in a list of rules: rules that never run, that are always replaced, that set the same thing
 * differently, and rings of rules that call each other. Contradictions and rings are looked for among
 * the rules that are on. Source: core specification, section 7. Problems: fields that are not as they
 * should be, and an id used twice.
 */
export function checkRules({ rules: asked, effects }: CheckRulesInput): Result<readonly RuleFinding[]> {
  return attempt(() => {
    const rules = readRuleList(asked);
    const on = rules.filter((rule) => rule.isOn && findExcluded([rule]) === null);
    return [
      ...rules.flatMap(neverRuns),
      ...rules.flatMap((rule) => replacedBy(rule, rules)),
      ...differing(on, effects),
      ...rings(on, effects),
    ];
  });
}

function neverRuns(rule: Rule): RuleFinding[] {
  const fact = findExcluded([rule]);
  return fact === null ? [] : [{ kind: 'never', rules: [rule.id], fact }];
}

function replacedBy(rule: Rule, rules: readonly Rule[]): RuleFinding[] {
  const always = rules.find((other) => other.replaces === rule.id && coversLevel(other, rule) && coversWhen(other, rule));
  return always === undefined ? [] : [{ kind: 'always-replaced', rules: [rule.id, always.id] }];
}

/** Whether a rule concerns every event the other concerns. */
const coversLevel = (wide: Rule, narrow: Rule): boolean =>
  wide.level === 'agency' || (wide.level === narrow.level && wide[wide.level] === narrow[wide.level]);

/** Whether a rule's `when` fits wherever the other's does. */
function coversWhen({ when: wide }: Rule, { when: narrow }: Rule): boolean {
  if (wide.kind !== narrow.kind) return false;
  return Object.entries(wide.is ?? {}).every(([name, wanted]) => {
    const asked = factOf(narrow.is ?? {}, name);
    if (asked === undefined) return false;
    // A list asks for any of its items, or for the list itself.
    return (typeof asked === 'object' ? [asked, ...asked] : [asked]).every((fact) => isWanted(fact, wanted));
  });
}

function differing(rules: readonly Rule[], effects: CheckRulesInput['effects']): RuleFinding[] {
  return rules.flatMap((first, index) =>
    rules.slice(index + 1).flatMap((second): RuleFinding[] => {
      if (first.when.kind !== second.when.kind || first.replaces === second.id || second.replaces === first.id) return [];
      const things = setBy(first, effects);
      const other = [...setBy(second, effects)].find(([thing, value]) => things.has(thing) && things.get(thing) !== value);
      if (other === undefined || findExcluded([first, second]) !== null) return [];
      return [{ kind: 'differ', rules: [first.id, second.id], thing: other[0] }];
    }),
  );
}

/** The value a rule gives each thing, as text. */
function setBy(rule: Rule, effects: CheckRulesInput['effects']): ReadonlyMap<string, string> {
  const set = rule.then.flatMap((effect) => meaningOf(effects, effect)?.sets?.(effect) ?? []);
  return new Map(set.map(({ thing, value }) => [thing, JSON.stringify(value)]));
}

const meaningOf = (effects: CheckRulesInput['effects'], effect: Effect): EffectMeaning | undefined =>
  Object.hasOwn(effects, effect.do) ? effects[effect.do] : undefined;

function rings(rules: readonly Rule[], effects: CheckRulesInput['effects']): RuleFinding[] {
  const calls = rules.map((rule) => {
    const raised = rule.then.flatMap((effect) => meaningOf(effects, effect)?.raises?.(effect) ?? []);
    return rules.flatMap((other, index) => (raised.some((event) => mayFit(other, event)) ? [index] : []));
  });
  return findRings(calls).map((ring) => ({ kind: 'ring', rules: ring.map((index) => (rules[index] as Rule).id) }));
}

/** Whether a rule may run at an event of which only some facts are known. */
function mayFit(rule: Rule, { kind, facts }: { readonly kind: string; readonly facts: Facts }): boolean {
  if (rule.when.kind !== kind) return false;
  const known: Readonly<Record<string, Fact>> = facts;
  // What is known of the event is one more condition on those facts.
  const event: Rule = { ...rule, id: 'event', level: 'agency', when: { kind }, if: [], then: [] };
  return findExcluded([rule, { ...event, if: Object.entries(known).map(([fact, value]) => ({ fact, op: 'is', value })) }]) === null;
}
