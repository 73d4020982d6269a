import type { AnchorAt, CheckKind, TaskKind, TemplateKind } from '../words.ts';
import type { PersonRef } from './crew.ts';

/* Templates and their dry run. Days are ISO days, effort is minutes, times are ISO instants. */

export interface TemplateSummary {
  readonly id: string;
  readonly kind: TemplateKind;
  readonly name: string;
  readonly description: string;
  readonly version: number;
  readonly phases: readonly { readonly name: string; readonly tasks: number; readonly days: number }[];
  readonly taskCount: number;
  readonly effortMinutes: number;
  readonly usedTimes: number;
}

export interface TemplateTaskView {
  readonly id: string;
  readonly phaseId: string;
  readonly title: string;
  readonly kind: TaskKind;
  readonly roleId: string | null;
  readonly role: string | null;
  readonly estimateMinutes: number | null;
  readonly days: number;
  readonly anchor: { readonly at: AnchorAt; readonly offset: number };
  readonly after: readonly { readonly taskId: string; readonly title: string; readonly type: string; readonly lag: number }[];
  readonly steps: readonly string[];
  readonly start: string;
  readonly finish: string;
  readonly slack: number;
}

export interface TemplatePhaseView {
  readonly id: string;
  readonly name: string;
  readonly role: string | null;
  readonly roleId: string | null;
  readonly stateLine: string;
  readonly rounds: number | null;
  readonly checks: readonly { readonly kind: CheckKind; readonly text: string }[];
  readonly start: string;
  readonly finish: string;
  readonly workingDays: number;
}

/** One person proposed for a role, with the reason as data. */
export interface Suggestion {
  readonly person: PersonRef;
  readonly freeMinutes: number;
  readonly neededMinutes: number;
  readonly pastEngagements: number;
  readonly isFull: boolean;
}

export interface RoleNeed {
  readonly roleId: string;
  readonly role: string;
  readonly tasks: number;
  readonly minutes: number;
  readonly chosen: PersonRef | null;
  readonly suggestions: readonly Suggestion[];
}

/** A template laid on the real calendar: nothing is saved. */
export interface DryRun {
  readonly template: {
    readonly id: string;
    readonly kind: TemplateKind;
    readonly name: string;
    readonly description: string;
    readonly version: number;
    readonly usedTimes: number;
  };
  readonly start: string;
  readonly finish: string;
  readonly promise: string | null;
  readonly closedDays: number;
  readonly effortMinutes: number;
  readonly phases: readonly TemplatePhaseView[];
  readonly tasks: readonly TemplateTaskView[];
  readonly conflicts: readonly { readonly taskId: string; readonly title: string; readonly days: number }[];
  readonly roles: readonly RoleNeed[];
  readonly overloads: readonly {
    readonly person: PersonRef;
    readonly minutes: number;
    readonly firstDay: string;
    readonly percent: number;
  }[];
}
