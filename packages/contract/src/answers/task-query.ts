import type { IsoDay } from '@crew/core';
import type { ClientRef } from './client.ts';
import type { PlanTask } from './task.ts';

/* Tasks of any engagements. Days are ISO days, effort is minutes. */

/** A task in a list across engagements. */
export interface TaskRow extends PlanTask {
  readonly engagement: { readonly id: string; readonly name: string; readonly client: ClientRef };
  readonly phase: string;
  /** Left of its estimate, or of the usual effort for work without one. */
  readonly remainingMinutes: number;
  /** Nothing open before it, not waiting, its phase begun or it can start early. */
  readonly isReady: boolean;
  readonly plannedWeek: IsoDay | null;
  readonly carried: number;
  readonly doneOn: IsoDay | null;
}

export interface TaskSums {
  readonly count: number;
  readonly estimateMinutes: number;
  readonly remainingMinutes: number;
  readonly loggedMinutes: number;
}

/** The tasks that have something in common; key and name are null for those without it. */
export interface TaskGroupSums extends TaskSums {
  readonly key: string | null;
  readonly name: string | null;
}

/** One page of the tasks that were asked for, with sums over all of them. */
export interface TaskPage {
  readonly rows: readonly TaskRow[];
  /** Where the next page begins; null on the last. */
  readonly next: string | null;
  readonly sums: TaskSums;
  /** By name; empty when no counts were asked for. */
  readonly groups: readonly TaskGroupSums[];
}
