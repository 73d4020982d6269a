import type { IsoDay } from '@crew/core';
import type { PersonRef } from './crew.ts';

/* The agency's calendar and who is away. Days are ISO days, time is minutes. */

export interface ClosedDayLine {
  readonly day: IsoDay;
  readonly name: string;
}

export interface TimeOffLine {
  readonly id: string;
  readonly person: PersonRef;
  readonly from: IsoDay;
  readonly to: IsoDay;
  /** Minutes a day; null for whole days. */
  readonly minutes: number | null;
  readonly note: string;
}

/** The agency's week and closed days from the beginning of last year on, and time off that is not over. */
export interface AgencyCalendar {
  readonly week: readonly number[];
  readonly closed: readonly ClosedDayLine[];
  readonly timeOff: readonly TimeOffLine[];
}

/** An open task that falls in somebody's time off. */
export interface TaskInTimeOff {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly start: IsoDay;
  readonly due: IsoDay;
  readonly engagement: { readonly id: string; readonly name: string };
}

/** Time off that was kept, and the work that now needs a decision. */
export interface TimeOffAdded {
  readonly ids: readonly string[];
  readonly tasks: readonly TaskInTimeOff[];
}

/** What an iCalendar file holds. */
export interface CalendarFile {
  readonly days: readonly ClosedDayLine[];
  readonly spans: readonly { readonly from: IsoDay; readonly to: IsoDay; readonly minutes: number | null; readonly note: string }[];
  /** What could not be taken, each as a sentence. */
  readonly leftOut: readonly string[];
  readonly isKept: boolean;
}

/** What an iCalendar file of somebody's absences holds, with what keeping it did. */
export interface TimeOffFile extends CalendarFile, TimeOffAdded {}
