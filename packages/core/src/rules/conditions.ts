import { factOf } from './fill-slots.ts';
import type { Condition, ConditionOp, Fact, Facts, Rule, RuleEvent, When } from './types.ts';

/** Whether what happened is what a rule waits for: the kind, and field by field a fact that is it or is one of it. */
export const fits = ({ kind, is = {} }: When, event: Pick<RuleEvent, 'kind' | 'facts'>): boolean =>
  kind === event.kind && Object.entries(is).every(([name, wanted]) => isWanted(factOf(event.facts, name), wanted));

/** Whether a fact is what a field of `when` asks for. */
export const isWanted = (fact: Fact | undefined, wanted: Fact): boolean =>
  fact !== undefined && (isSame(fact, wanted) || isIn(wanted, fact));

/** A rule of a template or an engagement concerns its events only. */
export const concerns = ({ level, ...rule }: Rule, facts: Facts): boolean => level === 'agency' || factOf(facts, level) === rule[level];

/** Whether a condition holds of facts; one that is missing fails all but `is-empty` and `is-not`. */
export function holds({ fact: name, op, value }: Condition, facts: Facts): boolean {
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
export function isSame(left: Fact, right: Fact): boolean {
  if (typeof left !== 'object' || typeof right !== 'object') return left === right;
  return left.length === right.length && left.every((item, place) => item === right[place]);
}

const isIn = (list: Fact, item: Fact): boolean => typeof list === 'object' && (list as readonly unknown[]).includes(item);
