import type { IsoDay } from '@crew/core';
import type { ClientHue, TaskStatus } from '../words.ts';
import type { ClientRef } from './client.ts';
import type { PersonRef } from './crew.ts';
import type { HandoffLine } from './handoff.ts';
import type { OutsideWork } from './task.ts';

/* One person’s work. Days are ISO days, effort is minutes, times are ISO instants. */

export interface DeskTask {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly status: TaskStatus;
  readonly engagement: { readonly id: string; readonly name: string; readonly client: ClientRef };
  readonly phase: string;
  readonly start: IsoDay;
  readonly due: IsoDay;
  readonly remainingMinutes: number;
  readonly estimateMinutes: number | null;
  readonly loggedMinutes: number;
  /** What would end the waiting, in words; for a waiting status, whom it waits on. */
  readonly waitingFor: string | null;
  /** When the work it waits for is due. */
  readonly waitsUntil: IsoDay | null;
  readonly since: IsoDay | null;
  readonly holdsUp: number;
  readonly assignees: readonly PersonRef[];
  readonly version: number;
}

/** Work given to an outside maker whose brief has to go out soon, or should have. */
export interface DeskBrief extends DeskTask {
  readonly outside: OutsideWork;
}

/** A task on a day of the week: put there by somebody, or by the plan. */
export interface DeskDayTask {
  readonly id: string;
  readonly title: string;
  readonly engagement: string;
  readonly hue: ClientHue;
  readonly minutes: number;
  /** Without an estimate, its hours are the agency's usual ones for such work. */
  readonly hasEstimate: boolean;
  readonly due: IsoDay;
  readonly isDue: boolean;
  /** Somebody put it on this day; otherwise the plan spreads it over the task's own days. */
  readonly isPlaced: boolean;
}

export interface DeskDay {
  readonly date: IsoDay;
  readonly capacity: number;
  readonly load: number;
  readonly over: number;
  readonly loggedMinutes: number;
  /** What was put here first, in its order. */
  readonly tasks: readonly DeskDayTask[];
  /** Load of repeating units that are not created yet. */
  readonly coming: readonly DeskComing[];
}

/** How days of somebody's week were before a step: restoring them undoes it. Tasks in the order of their day. */
export interface DeskPlaces {
  readonly personId: string;
  readonly taskId: string;
  readonly days: readonly IsoDay[];
  readonly places: readonly { readonly taskId: string; readonly day: IsoDay; readonly minutes: number }[];
}

/** Work of a unit that is not created yet. */
export interface DeskComing {
  readonly seriesId: string;
  readonly title: string;
  readonly unit: string;
  readonly hue: ClientHue;
  readonly minutes: number;
}

/** Work that is done without time logged by this person, and what such work usually took (minutes). */
export interface DeskUnlogged extends DeskTask {
  readonly doneOn: IsoDay;
  readonly usualMinutes: number | null;
}

export interface DeskDone {
  readonly id: string;
  readonly title: string;
  readonly engagement: string;
  readonly hue: ClientHue;
  readonly doneOn: IsoDay;
  readonly loggedMinutes: number;
}

export interface Desk {
  readonly person: PersonRef;
  readonly now: DeskTask | null;
  readonly overdue: readonly DeskTask[];
  /** Tasks with nothing open before them, not waiting, whose phase has begun or that can start early. */
  readonly ready: readonly DeskTask[];
  readonly waiting: readonly DeskTask[];
  /** Their tasks after this week, in phases that have not begun, by the day they begin. */
  readonly later: readonly DeskTask[];
  readonly fresh: readonly DeskTask[];
  /** Briefs to send within a week, the most pressing first. */
  readonly briefs: readonly DeskBrief[];
  readonly handoffs: readonly HandoffLine[];
  readonly days: readonly DeskDay[];
  /** The Monday of the week that is shown. */
  readonly monday: IsoDay;
  readonly unlogged: readonly DeskUnlogged[];
  readonly doneThisWeek: readonly DeskDone[];
  /** Working days of the last two weeks with less than half of their hours logged. */
  readonly forgottenDays: readonly IsoDay[];
  readonly week: {
    /** Load and capacity of today and what is left of the week. */
    readonly plannedMinutes: number;
    readonly capacityMinutes: number;
    /** Logged in the whole of it. */
    readonly loggedMinutes: number;
  };
}
