import { indexById, refuse, requireId, requireList, requireObject, requireWhole } from '../check.ts';
import { CONDITION_OP, RULE_LEVEL, type Chain, type Rule, type RuleEvent, type RulesInput } from './types.ts';

const UNCHAINED: Chain = { depth: 0, ran: [] };

/** Checks what is asked, to the last fact and condition. */
export function readRules(input: RulesInput): Required<RulesInput> {
  requireObject(input, 'input');
  readRuleList(input.rules);
  checkEvent(input.event);
  const chain = input.chain ?? UNCHAINED;
  checkChain(chain);
  return { event: input.event, rules: input.rules, chain };
}

/** Checks a list of rules whose ids are all different. */
export function readRuleList(rules: readonly Rule[]): readonly Rule[] {
  requireList(rules, 'rules');
  indexById(rules, 'rules');
  for (const rule of rules) checkRule(rule, `rules[${rule.id}]`);
  return rules;
}

function checkEvent(event: RuleEvent): void {
  requireObject(event, 'event');
  for (const field of ['id', 'kind', 'subject'] as const) requireId(event[field], `event.${field}`);
  checkFacts(event.facts, 'event.facts');
}

function checkRule(rule: Rule, at: string): void {
  if (!RULE_LEVEL.includes(rule.level)) refuse({ kind: 'invalid-field', at: `${at}.level`, expected: RULE_LEVEL.join(', ') });
  if (rule.level !== 'agency') requireId(rule[rule.level], `${at}.${rule.level}`);
  if (typeof rule.isOn !== 'boolean') refuse({ kind: 'invalid-field', at: `${at}.isOn`, expected: 'true or false' });
  if (rule.replaces !== undefined && requireId(rule.replaces, `${at}.replaces`) === rule.id)
    refuse({ kind: 'invalid-field', at: `${at}.replaces`, expected: 'another rule' });
  requireObject(rule.when, `${at}.when`);
  requireId(rule.when.kind, `${at}.when.kind`);
  checkFacts(rule.when.is ?? {}, `${at}.when.is`);
  checkConditions(rule, at);
  requireList(rule.then, `${at}.then`);
  for (const [place, effect] of rule.then.entries()) {
    requireObject(effect, `${at}.then[${place}]`);
    requireId(effect.do, `${at}.then[${place}].do`);
  }
}

function checkConditions({ if: conditions = [] }: Rule, rule: string): void {
  requireList(conditions, `${rule}.if`);
  for (const [place, condition] of conditions.entries()) {
    const at = `${rule}.if[${place}]`;
    requireObject(condition, at);
    requireId(condition.fact, `${at}.fact`);
    if (!CONDITION_OP.includes(condition.op)) refuse({ kind: 'invalid-field', at: `${at}.op`, expected: CONDITION_OP.join(', ') });
    if (condition.op !== 'is-empty') checkFact(condition.value, `${at}.value`);
  }
}

function checkChain(chain: Chain): void {
  requireObject(chain, 'chain');
  requireWhole(chain.depth, 'chain.depth', 0);
  requireList(chain.ran, 'chain.ran');
  for (const [place, pair] of chain.ran.entries()) {
    requireList(pair, `chain.ran[${place}]`);
    for (const part of [0, 1] as const) requireId(pair[part], `chain.ran[${place}][${part}]`);
  }
}

function checkFacts(facts: unknown, at: string): void {
  requireObject(facts, at);
  for (const [name, fact] of Object.entries(facts)) checkFact(fact, `${at}.${name}`);
}

function checkFact(fact: unknown, at: string): void {
  const isPlain = typeof fact === 'string' || typeof fact === 'boolean' || (typeof fact === 'number' && Number.isFinite(fact));
  if (isPlain || (Array.isArray(fact) && fact.every((item) => typeof item === 'string'))) return;
  refuse({ kind: 'invalid-field', at, expected: 'text, a number, true or false, or a list of texts' });
}
