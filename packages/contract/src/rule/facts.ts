import type { ConditionOp } from '@crew/core';
import type { EventFacts } from '../events.ts';

/** What the value of a condition is chosen from. */
export type FactValueOf =
  | 'client'
  | 'template'
  | 'role'
  | 'person'
  | 'phase'
  | 'title'
  | 'kind'
  | 'status'
  | 'priority'
  | 'label'
  | 'days'
  | 'number'
  | 'percent'
  | 'hours';

export interface FactSpec {
  /** As it reads after "if": “the client is …”. */
  readonly words: string;
  readonly of: FactValueOf;
  readonly fact: keyof EventFacts;
}

/** Every fact a condition can ask, by name. For an event without that fact the condition fails. */
export const RULE_FACTS = {
  client: { words: 'the client', of: 'client', fact: 'clientId' },
  template: { words: 'the template', of: 'template', fact: 'template' },
  lead: { words: 'the engagement’s lead', of: 'person', fact: 'leadId' },
  phase: { words: 'the phase', of: 'phase', fact: 'phase' },
  role: { words: 'the role', of: 'role', fact: 'roleId' },
  person: { words: 'the person', of: 'person', fact: 'personId' },
  task: { words: 'the task', of: 'title', fact: 'task' },
  kind: { words: 'the kind of task', of: 'kind', fact: 'taskKind' },
  status: { words: 'the status before', of: 'status', fact: 'from' },
  priority: { words: 'the priority', of: 'priority', fact: 'priority' },
  labels: { words: 'the task', of: 'label', fact: 'labels' },
  round: { words: 'the round', of: 'number', fact: 'round' },
  percent: { words: 'the work done', of: 'percent', fact: 'percent' },
  daysLate: { words: 'the delay against the promise', of: 'days', fact: 'daysLate' },
  hoursUsed: { words: 'the logged time', of: 'hours', fact: 'hoursUsed' },
  hoursPlanned: { words: 'the planned effort', of: 'hours', fact: 'hoursPlanned' },
} as const satisfies Readonly<Record<string, FactSpec>>;

export type RuleFact = keyof typeof RULE_FACTS;
export const RULE_FACT = Object.keys(RULE_FACTS) as readonly RuleFact[];

const NUMBERS: ReadonlySet<FactValueOf> = new Set(['days', 'number', 'percent', 'hours']);

export const isNumberFact = (fact: RuleFact): boolean => NUMBERS.has(RULE_FACTS[fact].of);

/** The questions that can be asked of a fact, the most usual first. */
export function opsOf(fact: RuleFact): readonly ConditionOp[] {
  if (fact === 'labels') return ['has'];
  return isNumberFact(fact) ? ['more-than', 'less-than', 'is'] : ['is', 'is-not', 'is-empty'];
}

/** How a question reads. */
export const OP_WORDS: Readonly<Record<ConditionOp, string>> = {
  is: 'is',
  'is-not': 'is not',
  in: 'is one of',
  'more-than': 'is more than',
  'less-than': 'is less than',
  has: 'has the label',
  'is-empty': 'is not set',
};
