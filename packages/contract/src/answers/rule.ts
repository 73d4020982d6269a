import type { HeldWhy, RuleFinding, RuleLevel } from '@crew/core';
import type { EventKind } from '../events.ts';
import type { EffectState, RuleContent, RuleNames, RuleThen, RunState } from '../rule/index.ts';
import type { ClientHue } from '../words.ts';

/* Rules, their runs and their previews. Times are ISO instants. */

/** An engagement as rules name it. */
export interface RuleEngagement {
  readonly id: string;
  readonly name: string;
  readonly hue: ClientHue;
  readonly client: string;
}

/** Where a rule is switched off. */
export interface RuleException {
  readonly id: string;
  readonly name: string;
  readonly of: 'template' | 'engagement';
}

export interface RuleLine {
  readonly id: string;
  readonly version: number;
  readonly level: RuleLevel;
  readonly template: { readonly id: string; readonly name: string } | null;
  readonly engagement: RuleEngagement | null;
  readonly isOn: boolean;
  readonly replacesId: string | null;
  readonly content: RuleContent;
  readonly exceptions: readonly RuleException[];
  /** In the last 30 days. */
  readonly runs: number;
  readonly failed: number;
  readonly lastRunAt: string | null;
}

/** Every rule, the agency's first, then those of templates, then those of open engagements, each in their order. */
export interface RuleList {
  readonly rules: readonly RuleLine[];
  readonly findings: readonly RuleFinding[];
  readonly names: RuleNames;
  /** How many open engagements each template has. */
  readonly openByTemplate: Readonly<Record<string, number>>;
}

/** A rule as it stands after a change; `changeId` undoes it. */
export interface RuleSaved {
  readonly rule: RuleLine;
  readonly changeId: string | null;
}

interface Named {
  readonly id: string;
  readonly name: string;
}

/** What can be chosen in the slots of a rule. */
export interface RuleChoices {
  readonly phases: readonly string[];
  readonly titles: readonly string[];
  readonly labels: readonly string[];
  readonly people: readonly Named[];
  readonly roles: readonly Named[];
  readonly clients: readonly Named[];
  readonly templates: readonly Named[];
  readonly engagements: readonly (Named & { readonly client: string })[];
  readonly webhooks: readonly Named[];
  /** Single tasks of the library. */
  readonly savedTasks: readonly Named[];
  readonly fields: readonly (Named & { readonly kind: string; readonly options: readonly string[] })[];
}

/** One event of the past a rule is tried on. */
export interface TriedEvent {
  readonly at: string;
  readonly engagement: RuleEngagement | null;
  /** What it was about, such as a phase, a task or a person. */
  readonly about: string;
  readonly by: string | null;
  /** Null when it would have run. */
  readonly held: {
    readonly why: HeldWhy;
    /** Which of its conditions failed, from 0. */ readonly condition: number | null;
  } | null;
  /** What it would have done, and to whom as things are today; empty when it was held. */
  readonly effects: readonly { readonly then: RuleThen; readonly whom: readonly string[] }[];
}

/** A preview of a rule over past events. Nothing was done. */
export interface RuleTrial {
  readonly days: number;
  readonly runs: number;
  readonly held: number;
  /** The newest 50. */
  readonly events: readonly TriedEvent[];
  readonly names: RuleNames;
  /** For days and hours: counted from the plan as it is now, because nothing was recorded for them. */
  readonly isFromPlan: boolean;
}

/** One effect of a run. */
export interface RunEffect {
  readonly place: number;
  readonly then: RuleThen;
  readonly state: EffectState;
  /** The result, or why it failed. */
  readonly said: string;
  /** The change it made; null when it changed nothing. */
  readonly changeId: string | null;
}

/** A run of a rule at an event, or that it was held. */
export interface RunLine {
  readonly id: string;
  readonly at: string;
  readonly rule: { readonly id: string; readonly isRemoved: boolean; readonly content: RuleContent };
  readonly state: RunState;
  readonly why: HeldWhy | null;
  readonly condition: number | null;
  readonly cause: { readonly kind: EventKind; readonly about: string; readonly by: string | null; readonly at: string };
  readonly engagement: RuleEngagement | null;
  /** The run that led to the event, where a rule did. */
  readonly causedBy: string | null;
  readonly effects: readonly RunEffect[];
}

export interface RunPage {
  readonly runs: readonly RunLine[];
  /** Of what is older than the last of them; null at the end. */
  readonly before: string | null;
  readonly names: RuleNames;
}

/** What undoing a run restored, and what stays because it was changed since or cannot be undone. */
export interface RunUndone {
  readonly undone: number;
  readonly kept: readonly string[];
}
