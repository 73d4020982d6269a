import type { IsoDay } from '@crew/core';
import type { ErrorBody } from '../errors.ts';
import type { PersonRef } from './crew.ts';

/* The finish forecast. Days are ISO days, shares are percent of the runs. */

/** A task that often decides when the engagement is finished. */
export interface ForecastDriver {
  readonly id: string;
  readonly title: string;
  readonly phase: string;
  /** In how many of the runs it was on the longest chain. */
  readonly onChain: number;
  readonly due: IsoDay;
  readonly assignees: readonly PersonRef[];
}

/** The forecast as lists show it. */
export interface ForecastDays {
  /** Half of the runs had finished by this day. */
  readonly likely: IsoDay;
  /** Four of five runs had finished. */
  readonly safe: IsoDay;
  /** Percent of the runs that met the promise; null without one. */
  readonly chance: number | null;
}

export interface ForecastView extends ForecastDays {
  readonly computedAt: string;
  readonly runs: number;
  /** Nineteen of twenty runs had finished. */
  readonly almostSure: IsoDay;
  readonly promise: IsoDay | null;
  /** The finish with every length as planned. */
  readonly planned: IsoDay;
  readonly drivers: readonly ForecastDriver[];
  /** How many runs finished on each working day. */
  readonly spread: readonly { readonly date: IsoDay; readonly runs: number }[];
  /** Finished tasks the lengths were drawn from; roles with enough of their own, and open work of roles without. */
  readonly basis: { readonly finishedTasks: number; readonly ownRoles: readonly string[]; readonly sharedRoles: readonly string[] };
}

/** The forecast as last computed, and whether the facts have changed since. */
export interface ForecastState {
  readonly forecast: ForecastView | null;
  readonly isStale: boolean;
}

/** One line while it is computed. */
export type ForecastLine =
  | { readonly kind: 'running'; readonly done: number; readonly of: number }
  | { readonly kind: 'made'; readonly forecast: ForecastView }
  | { readonly kind: 'refused'; readonly refusal: ErrorBody };
