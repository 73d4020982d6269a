import type { IsoDay } from '@crew/core';
import type { ClientHue } from '../words.ts';
import type { PersonRef } from './crew.ts';
import type { PlanEffect } from './task.ts';
import type { DryRun, RoleNeed } from './template.ts';

/* The load grid. Days are ISO days, effort is minutes, times are ISO instants. */

/** One of the crew against the days of the window: columns, one number for each of `dates`. */
export interface WorkloadRow {
  readonly person: PersonRef;
  readonly roles: readonly string[];
  readonly roleIds: readonly string[];
  readonly capacity: readonly number[];
  readonly load: readonly number[];
  /** The part of the load that is only likely: work of proposals, and of repeating units that are not created yet. */
  readonly likely: readonly number[];
  /** Indexes of the days on which somebody is away, or never works. */
  readonly off: readonly number[];
  readonly tasks: readonly WorkloadTask[];
}

export interface WorkloadTask {
  readonly id: string;
  readonly title: string;
  readonly engagement: { readonly id: string; readonly name: string; readonly hue: ClientHue };
  readonly start: IsoDay;
  readonly due: IsoDay;
  /** Working days planned. */
  readonly days: number;
  /** What is left of it, for all its people; weighed by its likelihood. */
  readonly minutes: number;
  readonly hasEstimate: boolean;
  /** In percent, of work in a proposal; null for agreed work. */
  readonly likelihood: number | null;
  readonly assigneeIds: readonly string[];
  readonly roleId: string | null;
  readonly slack: number;
  readonly fixedDay: IsoDay | null;
  /** Of a unit that is not created yet: it cannot be changed. Its engagement's id is that of its series. */
  readonly isComing: boolean;
  /** Under way: its start is behind it. */
  readonly isBegun: boolean;
  readonly version: number;
}

export interface Workload {
  readonly from: IsoDay;
  readonly to: IsoDay;
  readonly dates: readonly { readonly date: IsoDay; readonly isClosed: boolean }[];
  readonly rows: readonly WorkloadRow[];
  readonly unassigned: readonly WorkloadTask[];
  /** Work within the window without an estimate; it counts `defaultMinutes` each. */
  readonly unestimated: readonly WorkloadTask[];
  readonly defaultMinutes: number;
}

/** How full somebody is: minutes above capacity in all, and the busiest day. */
export interface Fullness {
  readonly over: number;
  readonly peak: { readonly date: IsoDay; readonly load: number; readonly capacity: number };
}

/** One touched person, before and after. */
export interface LoadEffect {
  readonly person: PersonRef;
  readonly before: Fullness;
  readonly after: Fullness;
}

/** What could be done with a task to ease somebody's load. Days are working days. */
export type EaseStepView =
  | { readonly kind: 'move' | 'extend' | 'slip'; readonly days: number; readonly slack: number }
  | {
      readonly kind: 'give';
      readonly person: PersonRef;
      readonly role: string | null;
      readonly freeMinutes: number;
      readonly knows: boolean;
    }
  | {
      readonly kind: 'split';
      readonly person: PersonRef;
      readonly role: string | null;
      readonly freeMinutes: number;
      readonly knows: boolean;
      readonly minutes: number;
      readonly keeps: number;
    };

/** A step with what it does, and the change that applies it. */
export interface EaseProposalView {
  readonly id: string;
  readonly task: { readonly id: string; readonly title: string };
  readonly engagement: { readonly id: string; readonly name: string; readonly hue: ClientHue; readonly promise: IsoDay | null };
  readonly step: EaseStepView;
  readonly start: IsoDay;
  readonly due: IsoDay;
  readonly relieved: number;
  readonly deadlinesMoved: number;
  readonly effects: readonly LoadEffect[];
  readonly change: {
    readonly id: string;
    readonly version: number;
    readonly assigneeIds?: readonly string[];
    readonly shares?: readonly number[];
    readonly notBefore?: IsoDay;
    readonly days?: number;
  };
}

/** What could ease somebody's load, best first; nothing is saved. */
export interface EaseView {
  readonly person: PersonRef;
  readonly over: number;
  readonly overDays: number;
  readonly proposals: readonly EaseProposalView[];
}

/** What changes across engagements would do, together; `load` is that of each touched person over the days asked for. */
export interface PlansTried {
  readonly effects: readonly { readonly engagement: { readonly id: string; readonly name: string }; readonly effect: PlanEffect }[];
  readonly people: readonly (LoadEffect & { readonly load: readonly number[] })[];
}

/** Changes across engagements that were applied; `changeId` undoes all of them. */
export interface PlansChanged extends PlansTried {
  readonly changeId: string | null;
}

/** A new engagement tried on the real load; nothing is saved. */
export interface TriedEngagement {
  readonly start: IsoDay;
  readonly finish: IsoDay;
  readonly effortMinutes: number;
  readonly unestimated: DryRun['unestimated'];
  readonly roles: readonly RoleNeed[];
  /** Effort of roles without a person: it is in nobody's load yet. */
  readonly unmannedMinutes: number;
  readonly overloads: readonly { readonly person: PersonRef; readonly minutes: number; readonly firstDay: IsoDay }[];
  /** Everybody it would touch, before and after; `load` over the days asked for. */
  readonly people: PlansTried['people'];
  /** The earliest start from the day asked for that overloads nobody; when none of the days searched does, the one that overloads least. */
  readonly earliest: {
    readonly start: IsoDay;
    readonly finish: IsoDay;
    readonly fits: boolean;
    /** Who would do the work of roles without a person, if it started then. */
    readonly roles: readonly { readonly roleId: string; readonly person: PersonRef }[];
    /** Who would not have the time for that start, being full or away. */
    readonly over: readonly { readonly person: PersonRef; readonly minutes: number }[];
    /** Who is over by this work alone, whenever it starts. */
    readonly alone: readonly { readonly person: PersonRef; readonly minutes: number }[];
  };
  readonly searchedDays: number;
}

/** Somebody who could do a task, best first, with the reason as data. */
export interface SuggestedAssignee {
  readonly person: PersonRef;
  /** What is left of their time in the task's days after taking it; negative when over. */
  readonly freeMinutes: number;
  readonly neededMinutes: number;
  readonly isFull: boolean;
  /** Worked on this very engagement, or for this client before. */
  readonly knows: 'engagement' | 'client' | null;
  /** Minutes missing from their usual ones in the task's days: time off. */
  readonly awayMinutes: number;
  readonly isAssigned: boolean;
}

/** Who should do a task: people with its role who are there. */
export interface WhoShouldDoIt {
  readonly role: string | null;
  readonly start: IsoDay;
  readonly due: IsoDay;
  readonly people: readonly SuggestedAssignee[];
  /** People with the role who are away on all of its days. */
  readonly away: readonly PersonRef[];
}
