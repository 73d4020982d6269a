import type { SecondFactorFor } from '../access-words.ts';
import type { ActorKind, EventKind, EventSubject } from '../events.ts';
import type { ClientHue } from '../words.ts';
import type { PersonRef } from './crew.ts';

/* The history. Times are ISO instants. */

/** A job of the server that changes something by itself. */
export type ActingJob = 'plan' | 'repeat' | 'remind' | 'gate' | 'dates' | 'mail';

/** A field that changed; ids are given as the names they had then. */
export interface HistoryChange {
  readonly field: string;
  readonly from: unknown;
  readonly to: unknown;
}

/** Something that happened. */
export interface HistoryLine {
  readonly id: string;
  readonly at: string;
  readonly kind: EventKind;
  readonly by: {
    readonly kind: ActorKind;
    /** The job that did it: the planner, what makes repeating work, what reminds, judges gates, or watches dates. */
    readonly job: ActingJob | null;
    /** Null for a job, for a rule, and for somebody whose access was removed. */
    readonly person: PersonRef | null;
    readonly name: string | null;
  };
  readonly subject: { readonly kind: EventSubject; readonly id: string; readonly name: string | null };
  readonly engagement: { readonly id: string; readonly name: string; readonly hue: ClientHue } | null;
  readonly changes: readonly HistoryChange[];
  /** Text that came with it: a message, a question, a reason, the name of a step or check. */
  readonly note: string | null;
  /** All that was changed with it; null for changes from before this was recorded. */
  readonly changeId: string | null;
  /** Whether the reader can undo all of that change. */
  readonly canUndo: boolean;
  /** Of a change that was undone: the change whose undoing brings it back. */
  readonly redoId: string | null;
  /** Whether it is the undoing of an earlier change. */
  readonly isUndoing: boolean;
  /** The run of a rule that did it, or that led to it. */
  readonly runId: string | null;
  /** How much more the same change did, where only this line of it is shown. */
  readonly effects: number;
}

/** A part of a history, the newest first. */
export interface HistoryPage {
  readonly lines: readonly HistoryLine[];
  /** The id to read on before, or null at the end. */
  readonly before: string | null;
}

/** What the agency decides once for everything. */
export interface AgencySettings {
  readonly name: string;
  /** The time zone its days are counted in, as `Europe/London`. */
  readonly zone: string;
  /** Whose public holidays the agency is closed on; null until it is chosen. See `GET /holidays/countries`. */
  readonly country: string | null;
  readonly region: string | null;
  /** ISO 4217, as `EUR`. */
  readonly currency: string;
  /** As `#0b5d57`, for what clients see. */
  readonly colour: string;
  /** Where the logo is, which changes with it; null without one. */
  readonly logo: string | null;
  /** How long the history of finished engagements is kept. */
  readonly historyMonths: number;
  /** After so many working hours whoever holds a handoff is reminded of it, and then the lead; 0 reminds nobody. */
  readonly remindHours: number;
  readonly remindLeadHours: number;
  /** As for handoffs, of tasks that are overdue, or wait for a colleague or a supplier. */
  readonly remindTaskHours: number;
  readonly remindTaskLeadHours: number;
  /** As for handoffs, of what we wait for from a client: after so many working hours the contact gets a mail, and then the lead is told. */
  readonly remindClientHours: number;
  readonly remindClientLeadHours: number;
  /** After so many working hours whoever did a task is reminded that they have logged no time on it. */
  readonly remindLoggingHours: number;
  /** Who has to use a second factor: `leads` are owners and leads. */
  readonly secondFactorFor: SecondFactorFor;
}
