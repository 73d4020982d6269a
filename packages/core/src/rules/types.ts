/** What rules can ask of an event, as it was at that moment. */
export type Fact = string | number | boolean | readonly string[];
export type Facts = Readonly<Record<string, Fact>>;

/** Something that happened, as rules see it. */
export interface RuleEvent {
  readonly id: string;
  readonly kind: string;
  readonly subject: string;
  readonly facts: Facts;
}

export const RULE_LEVEL = ['agency', 'template', 'engagement'] as const;
export type RuleLevel = (typeof RULE_LEVEL)[number];

/** What happens and, field by field, what a fact must be, or be one of. */
export interface When {
  readonly kind: string;
  readonly is?: Readonly<Record<string, Fact>>;
}

export const CONDITION_OP = ['is', 'is-not', 'in', 'more-than', 'less-than', 'has', 'is-empty'] as const;
export type ConditionOp = (typeof CONDITION_OP)[number];

export interface Condition {
  readonly fact: string;
  readonly op: ConditionOp;
  readonly value?: Fact;
}

/** What is done; `do` names it, the rest says how. Texts may have slots: `{phase}`. */
export interface Effect {
  readonly do: string;
  readonly [field: string]: unknown;
}

/** "When … happens, if …, then …", for the whole agency, one template or one engagement. */
export interface Rule {
  readonly id: string;
  readonly level: RuleLevel;
  readonly template?: string;
  readonly engagement?: string;
  readonly isOn: boolean;
  /** The rule it stands instead of where it concerns the event, also while it is off. */
  readonly replaces?: string;
  readonly when: When;
  /** All must hold. */
  readonly if?: readonly Condition[];
  readonly then: readonly Effect[];
}

/** The rules that led to an event: how many, and which have run for which subject. */
export interface Chain {
  readonly depth: number;
  readonly ran: readonly (readonly [rule: string, subject: string])[];
}

export interface RulesInput {
  readonly event: RuleEvent;
  /** In the order in which they run: the agency's first, then the template's, then the engagement's. */
  readonly rules: readonly Rule[];
  readonly chain?: Chain;
}

/** Why a rule that fits did not run, in the order in which that is looked at. */
export const HELD_WHY = ['off', 'replaced', 'too-deep', 'already-ran', 'condition'] as const;
export type HeldWhy = (typeof HELD_WHY)[number];

export interface RulesAnswer {
  readonly run: readonly { readonly rule: string; readonly effects: readonly Effect[] }[];
  /** `at` is the place of the first condition that fails, from 0. */
  readonly held: readonly { readonly rule: string; readonly why: HeldWhy; readonly at?: number }[];
}
