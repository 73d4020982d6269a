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

/** A country whose public holidays are known, with its regions where those have days of their own. */
export interface HolidayCountry {
  readonly id: string;
  readonly name: string;
  readonly regions: readonly { readonly id: string; readonly name: string }[];
}

/** A holiday of a country or region. */
export interface PublicHoliday {
  readonly day: IsoDay;
  readonly name: string;
  /** Whether offices are closed by law; on bank and optional holidays many work. */
  readonly isUsuallyClosed: boolean;
}

/** An open task that falls into somebody's time off. */
export interface TaskInTimeOff {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly start: IsoDay;
  readonly due: IsoDay;
  readonly engagement: { readonly id: string; readonly name: string };
}

/** What a change of the calendar would do: the engagements whose plan or finish would change, and who would be over. */
export interface CalendarEffect {
  readonly engagements: readonly {
    readonly id: string;
    readonly name: string;
    readonly promise: IsoDay | null;
    readonly finish: { readonly from: IsoDay; readonly to: IsoDay };
    /** Planned tasks whose days change. */
    readonly moves: number;
    /** Fixed days that would be closed. */
    readonly fixed: readonly { readonly id: string; readonly title: string; readonly day: IsoDay }[];
  }[];
  readonly overloads: readonly { readonly person: PersonRef; readonly minutes: number; readonly firstDay: IsoDay }[];
}

/** The calendar after a change of it; `changeId` undoes that, and is null when nothing changed. */
export interface CalendarChanged extends AgencyCalendar {
  readonly changeId: string | null;
}

/** Time off that was saved, and the work that now needs a decision. */
export interface TimeOffAdded {
  readonly ids: readonly string[];
  readonly tasks: readonly TaskInTimeOff[];
  readonly changeId: string | null;
}

export interface TimeOffRemoved {
  readonly changeId: string | null;
}

/** What an iCalendar file holds. */
export interface CalendarFile {
  readonly days: readonly ClosedDayLine[];
  readonly spans: readonly { readonly from: IsoDay; readonly to: IsoDay; readonly minutes: number | null; readonly note: string }[];
  /** How many of its entries are in the calendar already, unchanged. */
  readonly unchanged: number;
  /** Entries imported from this file before that are now cancelled, or on another day. */
  readonly removed: readonly { readonly from: IsoDay; readonly to: IsoDay; readonly note: string }[];
  /** Entries that are ignored, each as a sentence that names its line. */
  readonly leftOut: readonly string[];
  /** Entries that could not be read, each as a sentence that names its line. */
  readonly faults: readonly string[];
  readonly isKept: boolean;
  readonly changeId: string | null;
}

/** The absences in an iCalendar file, and what importing them did. */
export interface TimeOffFile extends CalendarFile, TimeOffAdded {}
