import type { Priority, TaskKind, TaskStatus, WaitingOn } from '../words.ts';
import type { ClientRef } from './client.ts';
import type { PersonRef } from './crew.ts';

/* Tasks and what a change to one does. Days are ISO days, effort is minutes, times are ISO instants. */

export interface PlanTask {
  readonly id: string;
  readonly number: number;
  readonly phaseId: string;
  readonly title: string;
  readonly kind: TaskKind;
  readonly role: string | null;
  readonly status: TaskStatus;
  readonly waitingOn: WaitingOn | null;
  readonly waitingSince: string | null;
  readonly priority: Priority;
  readonly assignees: readonly PersonRef[];
  readonly start: string;
  readonly due: string;
  readonly days: number;
  readonly slack: number;
  readonly isCritical: boolean;
  readonly missedDays: number;
  readonly fixedDay: string | null;
  readonly estimateMinutes: number | null;
  readonly loggedMinutes: number;
  readonly stepsDone: number;
  readonly stepsAll: number;
  readonly after: readonly number[];
  readonly openPredecessors: number;
  readonly isShownToClient: boolean;
  readonly version: number;
}

export interface TaskStep {
  readonly id: string;
  readonly title: string;
  readonly isDone: boolean;
}

export interface TaskTie {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly status: TaskStatus;
}

export interface HappenedLine {
  readonly id: string;
  readonly at: string;
  readonly who: string | null;
  readonly what: string;
  readonly changes: readonly { readonly field: string; readonly from: unknown; readonly to: unknown }[];
}

export interface TaskSheet extends PlanTask {
  readonly description: string;
  readonly engagement: { readonly id: string; readonly name: string; readonly client: ClientRef };
  readonly phase: string;
  readonly steps: readonly TaskStep[];
  readonly waitsFor: readonly TaskTie[];
  readonly holdsUp: readonly TaskTie[];
  readonly happened: readonly HappenedLine[];
}

export interface TaskMove {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly from: { readonly start: string; readonly due: string };
  readonly to: { readonly start: string; readonly due: string };
}

/** What an edit does to the plan around it. */
export interface PlanEffect {
  readonly moves: readonly TaskMove[];
  readonly newConflicts: readonly { readonly id: string; readonly title: string; readonly days: number }[];
  readonly finish: { readonly from: string; readonly to: string };
  readonly promise: string | null;
  readonly overloads: readonly { readonly person: PersonRef; readonly minutes: number; readonly firstDay: string }[];
}

/** `effect` is null for a status alone: the plan behind it follows a moment later and is announced. */
export interface TaskEdited {
  readonly task: TaskSheet;
  readonly effect: PlanEffect | null;
}
