import type { PersonInput } from '../calendar/capacity.ts';
import type { IsoDay } from '../calendar/day.ts';
import type { LoadInput, LoadTaskInput } from '../load/types.ts';

/** Somebody work could go to: the roles held, and the clients and engagements worked for. */
export interface EasePerson extends PersonInput {
  readonly roles?: readonly string[];
  readonly knows?: readonly string[];
}

/**
 * A task that could be eased. `slack` in working days before a deadline moves; without it the task has
 * none. `stays`: its day is fixed, so it can only be reassigned. `begun`: it is under way, so its
 * start can no longer move. `coming`: it is not created yet, so it counts in the load and cannot be
 * changed. `for` names client and engagement, compared with `knows`.
 */
export interface EaseTask extends LoadTaskInput {
  readonly role?: string | null;
  readonly slack?: number;
  readonly stays?: boolean;
  readonly begun?: boolean;
  readonly coming?: boolean;
  readonly for?: readonly string[];
}

/** Whose load is to be eased, within `from … to`; `most` proposals at most (12 when left out). */
export interface EaseInput extends Omit<LoadInput, 'people' | 'tasks'> {
  readonly person: string;
  readonly people: readonly EasePerson[];
  readonly tasks: readonly EaseTask[];
  readonly most?: number;
}

/** The busiest day of somebody: the largest part of the capacity, or any work on a day with none. */
export interface Peak {
  readonly date: IsoDay;
  readonly load: number;
  readonly capacity: number;
}

/** One touched person before and after, within the days asked for: minutes over capacity and the busiest day. */
export interface EaseEffect {
  readonly person: string;
  readonly before: { readonly over: number; readonly peak: Peak };
  readonly after: { readonly over: number; readonly peak: Peak };
}

/** What could be done with a task. Days are working days, minutes are of work. */
export type EaseStep =
  | { readonly kind: 'move'; readonly days: number; readonly slack: number }
  | { readonly kind: 'give'; readonly to: string; readonly freeMinutes: number; readonly knows: boolean }
  | {
      readonly kind: 'split';
      readonly with: string;
      readonly minutes: number;
      readonly keeps: number;
      readonly freeMinutes: number;
      readonly knows: boolean;
    }
  | { readonly kind: 'extend'; readonly days: number; readonly slack: number }
  | { readonly kind: 'slip'; readonly days: number; readonly slack: number };

/** A step with what it does: where the task would lie, who would have it, and what it relieves. */
export interface EaseProposal {
  readonly task: string;
  readonly step: EaseStep;
  readonly start: IsoDay;
  readonly due: IsoDay;
  readonly assignees: readonly { readonly person: string; readonly share: number }[];
  /** Minutes above capacity that go within the days asked for, over all touched people. */
  readonly relieved: number;
  /** Promises and fixed days that could no longer be kept. */
  readonly deadlinesMoved: number;
  readonly effects: readonly EaseEffect[];
}

/** Minutes over within the window, on how many days, and what could be done, best first. */
export interface Ease {
  readonly over: number;
  readonly overDays: number;
  readonly proposals: readonly EaseProposal[];
}
