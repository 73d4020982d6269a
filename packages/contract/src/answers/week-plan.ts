import type { IsoDay } from '@crew/core';
import type { ClientHue } from '../words.ts';
import type { PersonRef } from './crew.ts';

/* The week's planning. Days are ISO days, weeks are named by their Monday, effort is minutes. */

export interface WeekPlanTask {
  readonly id: string;
  readonly title: string;
  readonly engagementId: string;
  readonly due: IsoDay;
  readonly minutes: number;
  /** Without an estimate, its hours are the agency's usual ones for such work. */
  readonly hasEstimate: boolean;
  /** In their order; `everybody` says who they are. */
  readonly assigneeIds: readonly string[];
  /** Nothing open in front of it, and its phase has begun. */
  readonly isReady: boolean;
  readonly plannedWeek: IsoDay | null;
  readonly carried: number;
  readonly version: number;
}

/** Somebody's capacity and load, the same as in the workload: of this week from today on, and of the next. */
export interface WeekPlanPerson {
  readonly person: PersonRef;
  readonly roles: readonly string[];
  readonly capacity: readonly [number, number];
  readonly load: readonly [number, number];
}

/** Work to be assigned and planned: what is unassigned, what is in no week, and what this week and the next hold. */
export interface WeekPlan {
  readonly thisWeek: IsoDay;
  readonly nextWeek: IsoDay;
  /** Work that is in no week is listed when it starts by this day, or up to a week later with nothing open before it. */
  readonly until: IsoDay;
  readonly people: readonly WeekPlanPerson[];
  readonly engagements: readonly { readonly id: string; readonly name: string; readonly hue: ClientHue }[];
  /** Everybody who may be an assignee, and those who have left. */
  readonly everybody: readonly PersonRef[];
  readonly tasks: readonly WeekPlanTask[];
}

/** Tasks were put into weeks. */
export interface PlacedInWeek {
  /** Undoes it; null when all of them were there already. */
  readonly changeId: string | null;
}
