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
  readonly start: string;
  readonly due: string;
  readonly remainingMinutes: number;
  readonly estimateMinutes: number | null;
  readonly loggedMinutes: number;
  readonly waitingFor: string | null;
  readonly since: string | null;
  readonly holdsUp: number;
  readonly version: number;
}

/** Work given to an outside maker whose brief has to go out soon, or should have. */
export interface DeskBrief extends DeskTask {
  readonly outside: OutsideWork;
}

export interface DeskDay {
  readonly date: string;
  readonly capacity: number;
  readonly load: number;
  readonly over: number;
  readonly tasks: readonly {
    readonly id: string;
    readonly title: string;
    readonly engagement: string;
    readonly hue: ClientHue;
    readonly minutes: number;
    readonly isDue: boolean;
  }[];
}

export interface Desk {
  readonly person: PersonRef;
  readonly now: DeskTask | null;
  readonly overdue: readonly DeskTask[];
  readonly ready: readonly DeskTask[];
  readonly waiting: readonly DeskTask[];
  readonly fresh: readonly DeskTask[];
  /** Briefs to send within a week, the most pressing first. */
  readonly briefs: readonly DeskBrief[];
  readonly handoffs: readonly HandoffLine[];
  readonly days: readonly DeskDay[];
  readonly week: { readonly plannedMinutes: number; readonly capacityMinutes: number; readonly loggedMinutes: number };
}
