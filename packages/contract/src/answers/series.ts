import type { Carry, Occurrence, OnClosed, RetainerBalance, IsoDay } from '@crew/core';
import type { EngagementState, SeriesKind, SeriesPlaces, TaskStatus, WhenMissed } from '../words.ts';
import type { ClientRef } from './client.ts';
import type { PersonRef } from './crew.ts';
import type { PlansTried } from './workload.ts';

/* Work that repeats. Days are ISO days, effort is minutes. */

/** The days of a rule: its own, and the working days they are moved to. */
export interface RuleDays {
  readonly days: readonly Occurrence[];
}

/** A task that a series made. */
export interface MadeTask {
  readonly id: string;
  readonly title: string;
  readonly status: TaskStatus;
  /** The day of the rule it was made for, and the day it is on. */
  readonly day: IsoDay;
  readonly start: IsoDay;
}

/** How a task repeats, with the tasks made and to come. */
export interface TaskSeriesView {
  readonly id: string;
  readonly version: number;
  readonly engagement: { readonly id: string; readonly name: string };
  readonly title: string;
  readonly rule: string;
  readonly firstDay: IsoDay;
  readonly onClosed: OnClosed;
  readonly whenMissed: WhenMissed;
  /** Repeats only while this phase runs; null as long as the engagement does. */
  readonly phase: { readonly id: string; readonly name: string } | null;
  readonly skipped: readonly IsoDay[];
  readonly extra: readonly IsoDay[];
  readonly stoppedOn: IsoDay | null;
  readonly made: readonly MadeTask[];
  /** From today on, as far as it goes; made or not. */
  readonly coming: readonly Occurrence[];
}

/** A task that repeats, with the next of it. */
export interface TaskSeriesLine {
  readonly id: string;
  readonly title: string;
  readonly engagement: { readonly id: string; readonly name: string; readonly client: ClientRef };
  readonly rule: string;
  readonly stoppedOn: IsoDay | null;
  /** The next one that was made, and its day; null when there is none. */
  readonly taskId: string | null;
  readonly next: IsoDay | null;
  readonly assignees: readonly PersonRef[];
}

/** How often, from a day on. */
export interface RhythmView {
  readonly from: IsoDay;
  readonly rule: string;
  readonly each: number;
  /** It has not begun: it can be removed. */
  readonly isAhead: boolean;
}

/** One engagement of a series. */
export interface SeriesUnit {
  readonly id: string;
  readonly number: number;
  readonly name: string;
  /** The day of the rule it stands for. */
  readonly day: IsoDay;
  readonly state: EngagementState;
  readonly phase: string | null;
  readonly start: IsoDay;
  readonly finish: IsoDay;
  readonly promise: IsoDay | null;
  readonly percent: number;
  readonly effortMinutes: number;
  readonly loggedMinutes: number;
  readonly lateDays: number;
  /** Agreed hours and how they were used; null where nothing is agreed. */
  readonly balance: RetainerBalance | null;
}

/** Engagements that repeat, or a production line. */
export interface SeriesView {
  readonly id: string;
  readonly version: number;
  readonly kind: SeriesKind;
  readonly name: string;
  readonly unitName: string;
  readonly client: ClientRef;
  readonly lead: PersonRef;
  readonly template: { readonly id: string; readonly name: string };
  readonly places: SeriesPlaces;
  readonly onClosed: OnClosed;
  readonly rhythms: readonly RhythmView[];
  readonly skipped: readonly IsoDay[];
  readonly extra: readonly IsoDay[];
  readonly roles: readonly { readonly roleId: string; readonly role: string; readonly person: PersonRef | null }[];
  readonly aheadDays: number;
  readonly retainerMinutes: number | null;
  readonly carry: Carry;
  readonly stoppedOn: IsoDay | null;
  /** By number; units made ahead are the last. */
  readonly units: readonly SeriesUnit[];
  /** From today on, not created yet. */
  readonly coming: readonly Occurrence[];
}

/** A rhythm change that was applied: how many units were removed and added. */
export interface RhythmChanged {
  readonly series: SeriesView;
  readonly removed: number;
  readonly made: number;
}

/** The hours a line needs from a role in each week, and those its people have beside their other work. */
export interface LineRole {
  readonly roleId: string | null;
  readonly role: string;
  /** The effort one unit needs from it. */
  readonly unitMinutes: number;
  readonly before: readonly number[];
  readonly after: readonly number[];
  /** Hours of the people with this role that other work leaves; null where nobody has it. */
  readonly room: readonly number[] | null;
  /** An ordinary week once a change has settled, without closed days: what the line needs, and what other work leaves. */
  readonly settled: { readonly before: number; readonly after: number; readonly room: number | null };
}

/** What another rhythm of a line would do, before it is applied. */
export interface RhythmTried {
  readonly from: IsoDay;
  /** Mondays. */
  readonly weeks: readonly IsoDay[];
  readonly unitsBefore: readonly number[];
  readonly unitsAfter: readonly number[];
  readonly roles: readonly LineRole[];
  /** Everybody whose work differs, with their load over the days asked for. */
  readonly people: PlansTried['people'];
  /** The first Monday from which it would put nobody further over; null when none of those tried does. */
  readonly earliest: IsoDay | null;
  readonly searchedWeeks: number;
  /** Who is over by the line's own work alone: no other day would help them. */
  readonly alone: readonly { readonly person: PersonRef; readonly minutes: number }[];
}
