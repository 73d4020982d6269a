import type { TaskSheet } from './task.ts';
import type { IsoDay } from '@crew/core';
import type { ClientHue } from '../words.ts';
import type { PersonRef } from './crew.ts';

/* Time worked. Days are ISO days, time is seconds or minutes as named. */

/** Somebody's one timer. */
export interface TimerView {
  readonly task: { readonly id: string; readonly title: string; readonly engagement: { readonly id: string; readonly name: string } };
  /** Seconds it had counted when this was answered. */
  readonly elapsedSeconds: number;
  readonly isRunning: boolean;
  /** The day it was started on. */
  readonly day: IsoDay;
  /** It ran past midnight or for more than ten hours: somebody has to say how much of it was work. */
  readonly isLeft: boolean;
  /** That day's period was closed meanwhile: only leads log time in it, with a reason. */
  readonly isClosed: boolean;
  /** The likely minutes of work, when it was left running; else null. */
  readonly guessMinutes: number | null;
}

export interface TimerState {
  readonly timer: TimerView | null;
}

/** What a stopped timer logged; no minutes when it was too short for an entry. */
export interface TimerStopped {
  readonly minutes: number;
  readonly day: IsoDay;
  readonly title: string;
  /** What undoes it (`POST /timer/restore`). */
  readonly undo: TimerBefore;
}

/** A timer as it was before it was stopped, and the entry the stop made. */
export interface TimerBefore {
  readonly entryId: string | null;
  readonly taskId: string;
  readonly day: IsoDay;
  readonly bankedSeconds: number;
  readonly runningSince: string | null;
}

/** Minutes worked on a task on a day. */
export interface TimeEntryView {
  readonly id: string;
  readonly day: IsoDay;
  readonly minutes: number;
  /** The minute of the day it began at; null when unknown. */
  readonly startMinute: number | null;
  readonly note: string;
  readonly isChargeable: boolean;
  readonly version: number;
}

/** The task time was logged on, with the entry. */
export interface TimeLogged extends TaskSheet {
  readonly entry: TimeEntryView;
}

/** A task of a week: what was logged on it, or nothing yet when it is one of the person's tasks. */
export interface TimeRow {
  readonly task: { readonly id: string; readonly title: string; readonly isOpen: boolean; readonly isChargeable: boolean };
  /** Under way or with time in this week; the others are theirs too and can be logged on. */
  readonly isAtHand: boolean;
  readonly engagement: { readonly id: string; readonly name: string; readonly hue: ClientHue };
  readonly entries: readonly TimeEntryView[];
}

export interface TimeDay {
  readonly date: IsoDay;
  readonly capacity: number;
  /** The agency is closed, or they are away or never work on this day. */
  readonly isOff: boolean;
  /** Its period is closed: only leads change it, with a reason. */
  readonly isLocked: boolean;
  /** A past working day with less than half of its hours logged. */
  readonly isForgotten: boolean;
}

/** Somebody's week. Totals follow from the entries. */
export interface WeekSheet {
  readonly person: PersonRef;
  readonly days: readonly TimeDay[];
  readonly rows: readonly TimeRow[];
  /** Entries of a day that cover the same minutes. */
  readonly overlaps: readonly { readonly day: IsoDay; readonly first: string; readonly second: string; readonly minutes: number }[];
  readonly closedThrough: IsoDay | null;
}

/** What each of the crew logged day by day. */
export interface CrewTime {
  readonly dates: readonly IsoDay[];
  readonly people: readonly {
    readonly person: PersonRef;
    readonly minutes: readonly number[];
    readonly capacity: readonly number[];
    readonly chargeableMinutes: number;
  }[];
  readonly closedThrough: IsoDay | null;
  /** What was changed after its period had been closed, the latest first. */
  readonly lateChanges: readonly {
    readonly id: string;
    readonly at: string;
    readonly who: string | null;
    readonly whose: string;
    readonly task: string;
    readonly what: string;
    readonly day: IsoDay;
    readonly from: number | null;
    readonly to: number | null;
    readonly reason: string;
  }[];
}
