import { attempt, type Result } from '../result.ts';
import { factOf, fillEffect } from './fill-slots.ts';
import { readRules } from './read-rules.ts';
import type { Chain, Condition, ConditionOp, Fact, Facts, HeldWhy, Rule, RuleEvent, RulesAnswer, RulesInput, When } from './types.ts';

/** At so many rules in a row nothing runs any more. */
const DEEPEST = 8;

/**
 * What rules would do at an event, and why those that fit were held; it does nothing itself, so the live
 * run, the try-out and the log ask the same function. A rule whose `when` does not fit, or that does not
 * concern the event, is in neither list. Source: core specification, section 7.
 *
 * Problems: fields that are not as they should be, and an id used twice.
 */
export function runRules(input: RulesInput): Result<RulesAnswer> {
  return attempt(() => {
    const { event, rules, chain } = readRules(input);
    const met = rules.filter((rule) => concerns(rule, event.facts) && fits(rule.when, event));
    const replaced = new Set(met.flatMap(({ replaces }) => replaces ?? []));
    const run: RulesAnswer['run'][number][] = [];
    const held: RulesAnswer['held'][number][] = [];
    for (const rule of met) {
      const why = heldBy(rule, { event, chain, isReplaced: replaced.has(rule.id) });
      if (why === null) run.push({ rule: rule.id, effects: rule.then.map((effect) => fillEffect(effect, event.facts)) });
      else held.push({ rule: rule.id, ...why });
    }
    return { run, held };
  });
}

/** A rule of a template or an engagement concerns its events only. */
const concerns = ({ level, ...rule }: Rule, facts: Facts): boolean => level === 'agency' || factOf(facts, level) === rule[level];

const fits = ({ kind, is = {} }: When, event: RuleEvent): boolean =>
  kind === event.kind &&
  Object.entries(is).every(([name, wanted]) => {
    const fact = factOf(event.facts, name);
    return fact !== undefined && (isSame(fact, wanted) || isIn(wanted, fact));
  });

function heldBy(
  rule: Rule,
  { event, chain, isReplaced }: { readonly event: RuleEvent; readonly chain: Chain; readonly isReplaced: boolean },
): { readonly why: HeldWhy; readonly at?: number } | null {
  if (!rule.isOn) return { why: 'off' };
  if (isReplaced) return { why: 'replaced' };
  if (chain.depth >= DEEPEST) return { why: 'too-deep' };
  if (chain.ran.some(([id, subject]) => id === rule.id && subject === event.subject)) return { why: 'already-ran' };
  const at = (rule.if ?? []).findIndex((condition) => !holds(condition, event.facts));
  return at < 0 ? null : { why: 'condition', at };
}

/** Whether a condition holds of facts; one that is missing fails all but `is-empty` and `is-not`. */
function holds({ fact: name, op, value }: Condition, facts: Facts): boolean {
  const fact = factOf(facts, name);
  if (op === 'is-empty') return fact === undefined || fact === '' || (typeof fact === 'object' && fact.length === 0);
  if (op === 'is-not') return fact === undefined || value === undefined || !isSame(fact, value);
  return fact !== undefined && value !== undefined && COMPARE[op](fact, value);
}

const COMPARE: Readonly<Record<Exclude<ConditionOp, 'is-empty' | 'is-not'>, (fact: Fact, value: Fact) => boolean>> = {
  is: isSame,
  in: (fact, value) => isIn(value, fact),
  'more-than': (fact, value) => typeof fact === 'number' && typeof value === 'number' && fact > value,
  'less-than': (fact, value) => typeof fact === 'number' && typeof value === 'number' && fact < value,
  has: (fact, value) => isIn(fact, value),
};

/** Lists are the same when they say the same in the same order. */
function isSame(left: Fact, right: Fact): boolean {
  if (typeof left !== 'object' || typeof right !== 'object') return left === right;
  return left.length === right.length && left.every((item, place) => item === right[place]);
}

const isIn = (list: Fact, item: Fact): boolean => typeof list === 'object' && (list as readonly unknown[]).includes(item);
