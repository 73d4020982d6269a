import { attempt, type Result } from '../result.ts';
import { concerns, fits, holds } from './conditions.ts';
import { fillEffect } from './fill-slots.ts';
import { readRules } from './read-rules.ts';
import type { Chain, HeldWhy, Rule, RuleEvent, RulesAnswer, RulesInput } from './types.ts';

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
