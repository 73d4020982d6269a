import type { IsoDay } from '@crew/core';
/* What template tasks really took. Effort is minutes, lengths are working days, days are ISO days. */

/** The middle and the range of most runs, by nearest rank. */
export interface LearnedRange {
  readonly p20: number;
  readonly middle: number;
  readonly p80: number;
}

/** One run of a template task: in which engagement, and what it took or that it was dropped. */
export interface LearnedRun {
  readonly taskId: string;
  readonly engagement: { readonly id: string; readonly name: string };
  readonly minutes: number | null;
  readonly days: number | null;
  readonly isDropped: boolean;
  readonly doneOn: IsoDay | null;
}

/** A proposed change of the template; `id` is sent back to accept it. */
export type LearnedProposal =
  | { readonly id: string; readonly kind: 'effort'; readonly from: number | null; readonly to: number }
  | { readonly id: string; readonly kind: 'length'; readonly from: number; readonly to: number }
  | { readonly id: string; readonly kind: 'add-step' | 'drop-step'; readonly title: string; readonly runs: number }
  | { readonly id: string; readonly kind: 'drop-task'; readonly runs: number; readonly of: number };

export interface LearnedTask {
  readonly taskId: string;
  readonly title: string;
  readonly phase: string;
  readonly estimateMinutes: number | null;
  readonly days: number;
  readonly n: number;
  readonly minutes: LearnedRange | null;
  readonly workingDays: LearnedRange | null;
  /** Share of all runs in which it was dropped, percent. */
  readonly dropped: number;
  readonly proposals: readonly LearnedProposal[];
  readonly runs: readonly LearnedRun[];
}

/** Tasks that people added in several engagements of this template, by title. */
export interface LearnedExtra {
  /** Sent back to add it to the template. */
  readonly id: string;
  readonly title: string;
  /** The phase of the template it would be added to. */
  readonly phase: string;
  readonly role: string | null;
  /** The middle of its runs; null where no time was logged. */
  readonly minutes: number | null;
  readonly days: number;
  readonly runs: readonly LearnedRun[];
}

export interface LearnedTemplate {
  readonly revision: number;
  readonly version: number;
  /** The working copy has changes that are in no version yet; they would be included. */
  readonly isChanged: boolean;
  readonly engagements: number;
  readonly tasks: readonly LearnedTask[];
  readonly extras: readonly LearnedExtra[];
}
