import type { TemplateContent, IsoDay } from '@crew/core';
import type { AnchorAt, CheckKind, EngagementState, DependencyType, TaskKind, TemplateKind } from '../words.ts';
import type { ClientRef } from './client.ts';
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
  readonly lastUsed: string | null;
  /** Whether the working copy is ahead of the newest version. */
  readonly isChanged: boolean;
  readonly isArchived: boolean;
  /** The titles of its tasks, to find it by. */
  readonly words: string;
}

/** The working copy of a template. */
export interface TemplateContentView {
  readonly id: string;
  readonly kind: TemplateKind;
  readonly version: number;
  readonly revision: number;
  readonly isChanged: boolean;
  readonly isArchived: boolean;
  readonly usedTimes: number;
  readonly content: TemplateContent;
}

export interface TemplateVersionLine {
  readonly version: number;
  readonly note: string;
  readonly madeAt: string;
  readonly madeBy: string | null;
  readonly usedTimes: number;
}

/** An engagement made from a template, or with parts of it: then of no version. */
export interface TemplateUse {
  readonly id: string;
  readonly name: string;
  readonly state: EngagementState;
  readonly version: number | null;
  readonly start: IsoDay;
  readonly client: ClientRef;
}

/** Where a template is used: in engagements, and in other templates that have parts of it. */
export interface TemplateUses {
  readonly engagements: readonly TemplateUse[];
  readonly templates: readonly { readonly id: string; readonly name: string; readonly kind: TemplateKind }[];
}

/** A template made from an engagement; what could not be made relative, in words. */
export interface SavedBack {
  readonly id: string;
  readonly notes: readonly string[];
}

/** One difference between two versions, in words. */
export interface DifferenceLine {
  readonly id: string;
  readonly part: 'template' | 'phase' | 'task' | 'way';
  readonly kind: 'added' | 'removed' | 'changed';
  readonly name: string;
  readonly phase: string | null;
  /** Its changed fields, each as a sentence. */
  readonly words: readonly string[];
}

/** A change of a template, as seen from an engagement made from an older version; why it cannot be applied, or null. */
export interface TemplateNewsLine extends DifferenceLine {
  readonly hindrance: string | null;
  /** The phase that has to be applied with it, by the id of its own line; else null. */
  readonly needs: string | null;
}

/** Template updates of an engagement; nothing when it is of the newest version. */
export interface TemplateNews {
  readonly from: number | null;
  readonly to: number | null;
  readonly lines: readonly TemplateNewsLine[];
}

/** The result of importing a file. `id` is null for a preview. */
export type { ExchangedTemplate } from '@crew/core';

export interface TemplateImported {
  readonly id: string | null;
  readonly kind: TemplateKind;
  readonly name: string;
  readonly phases: number;
  readonly tasks: number;
  readonly missingRoles: readonly string[];
  /** People the agency does not have; their tasks follow the role. */
  readonly missingPeople: readonly string[];
  /** Custom fields the agency did not have. */
  readonly newFields: readonly string[];
  readonly files: number;
}

export interface TemplateTaskView {
  readonly id: string;
  readonly phaseId: string;
  readonly parentId: string | null;
  readonly isGroup: boolean;
  readonly title: string;
  /** The thing the client gets that it is for, by name. */
  readonly deliverable: string | null;
  readonly kind: TaskKind;
  readonly roleId: string | null;
  readonly role: string | null;
  /** A certain person, whoever holds the role. */
  readonly person: PersonRef | null;
  readonly estimateMinutes: number | null;
  readonly days: number;
  readonly anchor: { readonly at: AnchorAt; readonly offset: number };
  readonly after: readonly { readonly taskId: string; readonly title: string; readonly type: DependencyType; readonly lag: number }[];
  readonly steps: readonly string[];
  readonly start: IsoDay;
  readonly finish: IsoDay;
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
  readonly start: IsoDay;
  readonly finish: IsoDay;
  readonly workingDays: number;
}

/** One person suggested for a role, with the reason as data. */
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

/** A template scheduled on the real calendar: nothing is saved. */
/** A part that could be left out, and how many working days nearer the finish would be. */
export interface Omission {
  readonly kind: 'phase' | 'deliverable' | 'task';
  /** Of a deliverable, its name. */
  readonly id: string;
  readonly name: string;
  /** The effort that would not be done. */
  readonly minutes: number;
  readonly days: number;
  /** The promise could be kept without it. */
  readonly isEnough: boolean;
}

/** A promise that cannot be met. */
export interface LatePromise {
  /** The day it would begin: the one asked for, or today. */
  readonly start: IsoDay;
  /** The earliest finish from there. */
  readonly finish: IsoDay;
  /** Working days by which that misses the promise. */
  readonly days: number;
  /** What could be left out, the best first. */
  readonly omissions: readonly Omission[];
}

export interface DryRun {
  readonly template: {
    readonly id: string;
    readonly kind: TemplateKind;
    readonly name: string;
    readonly description: string;
    readonly version: number;
    readonly usedTimes: number;
    readonly isChanged: boolean;
  };
  /** The engagement it copies, when it is scheduled as a copy. */
  readonly copyOf: { readonly id: string; readonly name: string; readonly clientId: string } | null;
  /** What could not be copied from there as it was, each as a sentence. */
  readonly notes: readonly string[];
  readonly start: IsoDay;
  readonly finish: IsoDay;
  readonly promise: IsoDay | null;
  /** Why the promise cannot be met; null when it can, or none is given. */
  readonly late: LatePromise | null;
  readonly closedDays: number;
  readonly effortMinutes: number;
  /** Tasks without effort, which count so many minutes each in the load. */
  readonly unestimated: { readonly tasks: number; readonly minutesEach: number };
  readonly effortByRole: readonly { readonly role: string; readonly minutes: number }[];
  readonly phases: readonly TemplatePhaseView[];
  readonly tasks: readonly TemplateTaskView[];
  readonly conflicts: readonly { readonly taskId: string; readonly title: string; readonly days: number }[];
  readonly roles: readonly RoleNeed[];
  readonly overloads: readonly {
    readonly person: PersonRef;
    readonly minutes: number;
    readonly firstDay: IsoDay;
    readonly percent: number;
  }[];
}
