import type { ConditionOp, RuleFinding } from '@crew/core';
import {
  conditionParts,
  RULE_FACTS,
  ruleWords,
  type RuleList,
  type RuleNames,
  type RunLine,
  type RunState,
  type TriedEvent,
} from '@crew/contract';
import { count } from '../../words/format.ts';

/** What a slot is, for whoever hears it named apart from its sentence. */
export const SLOT_LABELS: Readonly<Record<string, string>> = {
  ...{ phase: 'Phase', task: 'Task', status: 'Status', days: 'Days', date: 'Date', percent: 'Percent', of: 'Hours of' },
  ...{ person: 'Person', who: 'Whom', whom: 'Whom', text: 'Text', title: 'Title', day: 'Day', priority: 'Priority' },
  ...{ item: 'Saved task', hook: 'Webhook', label: 'Label', field: 'Custom field', fact: 'Condition', op: 'Comparison', value: 'Value' },
};

/** How many rules there are and what they did. */
export function summaryWords({ rules }: RuleList): string {
  const runs = rules.reduce((sum, rule) => sum + rule.runs, 0);
  const failed = rules.reduce((sum, rule) => sum + rule.failed, 0);
  return `${count(rules.length, 'rule')} · ${count(runs, 'run')} in the last 30 days, ${failed === 0 ? 'none failed' : `${failed} failed`}`;
}

const WHY: Readonly<Record<NonNullable<RunLine['why']>, string>> = {
  off: 'it is switched off',
  replaced: 'it is switched off here, or another rule replaces it',
  'too-deep': 'too many rules led to this already',
  'already-ran': 'it already ran for this, and a rule never triggers itself',
  condition: 'its condition is not met',
};

/** That a condition is not met. */
const NOT_WORDS: Readonly<Record<ConditionOp, string>> = {
  ...{ is: 'is not', 'is-not': 'is', in: 'is none of', 'is-empty': 'is set' },
  ...{ 'more-than': 'is not more than', 'less-than': 'is not less than', has: 'does not have the label' },
};

/** Why a rule was held; a condition is named as it stands in the rule. */
export function heldWords(
  { why, condition }: NonNullable<TriedEvent['held']>,
  { content, names }: { readonly content: RunLine['rule']['content']; readonly names: RuleNames },
): string {
  const failed = why === 'condition' && condition !== null ? content.if[condition] : undefined;
  if (failed === undefined) return WHY[why];
  const value = conditionParts(failed, names).find(({ slot }) => slot === 'value')?.text;
  return [RULE_FACTS[failed.fact].words, NOT_WORDS[failed.op], ...(value === undefined ? [] : [value])].join(' ');
}

export const RUN_STATE_WORDS: Readonly<Record<RunState, string>> = {
  waiting: 'under way',
  done: 'done',
  failed: 'failed',
  held: 'held',
  undone: 'undone',
};

/** What happened, as the cause of a run. */
const CAUSE: Partial<Readonly<Record<RunLine['cause']['kind'], string>>> = {
  'task-status-changed': 'Status changed:',
  'gate-cleared': 'Gate clear:',
  'handed-off': 'Handed off:',
  'picked-up': 'Picked up:',
  'sent-back': 'Sent back:',
  'phase-started': 'Started:',
  'day-reached': 'Date reached:',
  'hours-reached': 'Hours reached:',
  'round-started': 'New round:',
  'engagement-started': 'Started:',
  'engagement-completed': 'Completed:',
  'time-off-added': 'Away:',
};

export const causeWords = ({ kind, about, by }: RunLine['cause']): string =>
  `${CAUSE[kind] ?? 'Changed:'} ${about}${by === null ? '' : `, by ${by}`}`;

/** What is wrong with a rule, seen from it, with the other rules concerned. */
export function findingWords(finding: RuleFinding, ruleId: string, { rules, names }: Pick<RuleList, 'rules' | 'names'>): string {
  const others = finding.rules.filter((id) => id !== ruleId);
  const named = others.flatMap((id) => {
    const rule = rules.find((one) => one.id === id);
    return rule === undefined ? [] : [`“${ruleWords(rule.content, names)}”`];
  });
  switch (finding.kind) {
    case 'never':
      return 'This rule never runs: its conditions contradict each other.';
    case 'always-replaced':
      return finding.rules[0] === ruleId ? `This rule never runs: ${named.join('')} always replaces it.` : '';
    case 'differ':
      return `Another rule sets the same thing to something else: ${named.join('')} Where both run, the nearer one, or else the later one, decides.`;
    case 'ring':
      return named.length === 0
        ? 'This rule would trigger itself. It runs once for each thing.'
        : `These rules trigger each other: ${named.join(', ')} Each runs once for each thing.`;
  }
}
