import type { IsoDay } from '@crew/core';
import type { ErrorBody } from '../errors.ts';
import type { Baton, CheckKind, EngagementState, PhaseState } from '../words.ts';
import type { ForecastDays } from './forecast.ts';
import type { ClientRef } from './client.ts';
import type { PersonRef } from './crew.ts';
import type { PlanEffect, PlanTask } from './task.ts';

/* Engagements as tracks and plans. Days are ISO days, effort is minutes, times are ISO instants. */

export interface TrackPhase {
  readonly id: string;
  readonly name: string;
  readonly state: PhaseState;
  readonly start: IsoDay;
  readonly finish: IsoDay;
  readonly percent: number;
  readonly baton: Baton;
  readonly stateLine: string;
}

export type StandingTone = 'on-time' | 'waiting' | 'late' | 'plain';

/** A reason for where an engagement stands, as facts; the words are made from it in one place. */
export type Standing =
  | { readonly kind: 'late'; readonly days: number; readonly finish: IsoDay }
  | { readonly kind: 'sent-back'; readonly since: string; readonly question: string }
  | { readonly kind: 'not-picked-up'; readonly since: string }
  | { readonly kind: 'waiting-on-client'; readonly title: string; readonly days: number }
  | { readonly kind: 'proposal' }
  | { readonly kind: 'fixed-day-missed'; readonly days: number }
  | { readonly kind: 'overdue'; readonly tasks: number }
  /** The plan meets the promise, but more than half of the runs of the forecast end after it. */
  | { readonly kind: 'likely-late'; readonly likely: IsoDay }
  | { readonly kind: 'finished'; readonly on: IsoDay }
  /** Closed without being finished; `ending` is the one of its map, where one was chosen. */
  | { readonly kind: 'dropped'; readonly on: IsoDay; readonly reason: string | null; readonly ending: string | null }
  | { readonly kind: 'on-time' };

export interface EngagementTrack {
  readonly id: string;
  readonly name: string;
  readonly clientId: string;
  readonly client: ClientRef;
  readonly lead: PersonRef;
  readonly state: EngagementState;
  readonly start: IsoDay;
  readonly promise: IsoDay | null;
  readonly finish: IsoDay;
  readonly percent: number;
  readonly loggedMinutes: number;
  readonly effortMinutes: number;
  readonly overdue: number;
  /** Every reason there is, the worst first; one at least. */
  readonly standing: readonly [Standing, ...Standing[]];
  /** As last computed, at most a minute ago; null before that and for finished engagements. */
  readonly forecast: ForecastDays | null;
  readonly phases: readonly TrackPhase[];
  /** The series it belongs to; null for one that does not repeat. */
  readonly series: { readonly id: string; readonly name: string } | null;
  /** Where it stands with the roles of the query; null when none were given. */
  readonly stands: RoleStand | null;
}

/** An engagement as somebody with a role needs it: the role's current phase, and its tasks in it. */
export interface RoleStand {
  readonly phase: string;
  readonly stateLine: string;
  /** Handed to the role, not picked up yet. */
  readonly isComing: boolean;
  readonly until: IsoDay;
  /** Open tasks of the role in that phase. */
  readonly openTasks: number;
  readonly nextDue: IsoDay | null;
  /** All phases the role owns. */
  readonly phaseIds: readonly string[];
}

export interface PlanPhase extends TrackPhase {
  readonly roleId: string | null;
  readonly role: string | null;
  readonly startedOn: IsoDay | null;
  readonly finishedOn: string | null;
  readonly handoffId: string | null;
  readonly baselineStart: IsoDay | null;
  readonly baselineFinish: IsoDay | null;
  /** How many rounds were agreed; null where nothing repeats. */
  readonly rounds: number | null;
  /** Which of them it is in. */
  readonly round: number;
  readonly gate: { readonly clear: number; readonly all: number };
}

/** What starting an engagement is doing at this moment. */
export type StartStep = 'phases' | 'tasks' | 'people' | 'days';

/** One line of an answer that shows progress. `done` and `of` count the tasks. */
export type StartLine =
  | { readonly kind: 'making'; readonly step: StartStep; readonly done: number; readonly of: number }
  | { readonly kind: 'made'; readonly id: string }
  | { readonly kind: 'refused'; readonly refusal: ErrorBody };

/** A phase of an engagement, to be edited. */
/** A role in an engagement, and the open work of it. */
export interface EngagementRoleLine {
  readonly role: { readonly id: string; readonly name: string };
  /** Null for nobody. */
  readonly person: PersonRef | null;
  /** Open tasks of the role, whoever has them, and what is left of their effort. */
  readonly tasks: number;
  readonly minutes: number;
}

export interface PhaseView {
  readonly id: string;
  readonly name: string;
  readonly stateLine: string;
  readonly state: PhaseState;
  readonly roleId: string | null;
  readonly checks: readonly {
    readonly id: string;
    readonly kind: CheckKind;
    readonly text: string;
    readonly wants: readonly string[];
  }[];
  /** Of its tasks. */
  readonly titles: readonly string[];
}

export interface EngagementPlan {
  readonly engagement: EngagementTrack & {
    readonly contactId: string | null;
    readonly contact: string | null;
    /** How likely a proposal is to be accepted, in percent; 100 once it is. */
    readonly likelihood: number;
    readonly template: {
      readonly id: string;
      readonly name: string;
      readonly version: number;
      /** The newest version there is. */
      readonly newest: number;
    } | null;
    readonly version: number;
  };
  readonly phases: readonly PlanPhase[];
  readonly deliverables: readonly { readonly id: string; readonly name: string }[];
  /** What working days are counted by: minutes Monday … Sunday, and closed days. */
  readonly calendar: { readonly week: readonly number[]; readonly closed: readonly IsoDay[] };
  /** The baseline: the plan as it was promised, to measure drift against. */
  readonly baseline: { readonly keptOn: IsoDay; readonly finish: IsoDay; readonly promise: IsoDay | null };
  readonly tasks: readonly PlanTask[];
}

/** An engagement after a change, and what the change did to its plan. */
export interface EngagementChanged {
  readonly version: number;
  /** Undoes it; null when nothing changed. */
  readonly changeId: string | null;
  readonly effect: PlanEffect;
}

/** The version something has after a change. */
export interface Versioned {
  readonly version: number;
}
