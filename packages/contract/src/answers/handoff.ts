import type { IsoDay } from '@crew/core';
import type { TURN_EVENTS } from '../events.ts';
import type { Baton, CheckKind, ClientHue, HandoffState, TaskStatus } from '../words.ts';
import type { ClientRef } from './client.ts';
import type { PersonRef } from './crew.ts';
import type { WayOut } from './task.ts';

/* Handoffs and their gates. Days are ISO days, effort is minutes, times are ISO instants. */

export interface GateCheckView {
  readonly id: string;
  readonly kind: CheckKind;
  readonly text: string;
  readonly isClear: boolean;
  readonly missing: string | null;
  readonly clearedBy: string | null;
}

export interface HandoffLine {
  readonly id: string;
  readonly version: number;
  readonly state: HandoffState;
  readonly baton: Baton;
  readonly engagement: { readonly id: string; readonly name: string; readonly client: ClientRef };
  readonly from: { readonly id: string; readonly name: string; readonly finish: IsoDay };
  readonly to: { readonly id: string; readonly name: string } | null;
  readonly toRole: string | null;
  readonly giver: PersonRef | null;
  readonly receiver: PersonRef | null;
  /** Who may take it while the receiver is away; null while they are there. */
  readonly standIn: PersonRef | null;
  readonly since: string | null;
  readonly question: string | null;
  readonly checks: readonly { readonly isClear: boolean }[];
  readonly missing: readonly string[];
  readonly canPickUp: boolean;
  readonly canHandOff: boolean;
}

export interface HandoffBoard {
  readonly lines: readonly HandoffLine[];
  /** How long handoffs usually wait (the median), in the receiver's own working minutes. */
  readonly pickUpMinutes: { readonly thisMonth: number | null; readonly lastMonth: number | null };
}

export interface HandoffTurn {
  readonly kind: (typeof TURN_EVENTS)[number];
  readonly at: string;
  /** Null for a rule, and for somebody whose access was removed. */
  readonly who: PersonRef | null;
  readonly words: string;
  /** Undoes it; null where the reader cannot, and for all but the last. */
  readonly changeId: string | null;
}

/** Somebody who may pick up a handoff. */
export interface HandoffReceiver extends PersonRef {
  /** Of the phase that is next. */
  readonly holdsRole: boolean;
  /** The last day of the time off they are on today; null when they are here. */
  readonly awayUntil: IsoDay | null;
}

/** The cases of a column in one month; null where there is no case. */
export interface HandoffSpeedPoint {
  /** As `2026-11`. */
  readonly month: string;
  readonly cases: number;
  /** The median of working days in the phase. */
  readonly days: number | null;
  /** How many were picked up, and the median of working minutes until then. */
  readonly waits: number;
  readonly waitMinutes: number | null;
  /** How many came back with a question. */
  readonly back: number;
}

export interface HandoffSpeedColumn {
  readonly key: string;
  readonly name: string;
  readonly cases: number;
  readonly plannedDays: number | null;
  readonly points: readonly HandoffSpeedPoint[];
}

/** Handoff times by month. */
export interface HandoffSpeed {
  readonly templates: readonly { readonly id: string; readonly name: string }[];
  readonly months: readonly string[];
  readonly columns: readonly HandoffSpeedColumn[];
  readonly all: HandoffSpeedColumn;
  /** What may have changed the times: rules about handoffs that were added, and reminders that were set. */
  readonly marks: readonly { readonly day: IsoDay; readonly words: string }[];
}

/** One handoff behind a number. */
export interface HandoffCase {
  readonly id: string;
  readonly engagement: { readonly id: string; readonly name: string; readonly hue: ClientHue };
  readonly from: string;
  readonly to: string | null;
  readonly giver: PersonRef | null;
  readonly receiver: PersonRef | null;
  readonly handedOffAt: string;
  /** Null while it is still waiting, or came back. */
  readonly pickedUpAt: string | null;
  /** So far, while it is waiting. */
  readonly waitMinutes: number;
  readonly isWaiting: boolean;
  readonly days: number | null;
  readonly plannedDays: number | null;
  readonly questions: readonly string[];
}

/** What goes along with a handoff; it is put together from the phase. */
export interface HandoffPacket {
  readonly doneTasks: readonly {
    readonly id: string;
    readonly number: number;
    readonly title: string;
    readonly finish: IsoDay;
    readonly who: readonly string[];
  }[];
  readonly openTasks: readonly { readonly id: string; readonly number: number; readonly title: string; readonly status: TaskStatus }[];
  /**
   * What was decided: reviews and decisions that are done, what the client has answered, checks somebody confirmed, and
   * why another round was started. Those that are tasks are among the finished tasks too.
   */
  readonly decisions: readonly {
    readonly id: string;
    readonly kind: 'decided' | 'answered' | 'confirmed' | 'round';
    readonly text: string;
    readonly by: string | null;
    readonly day: IsoDay;
  }[];
  /** What is not answered yet: reviews, decisions and the client's tasks that are open, and tasks that wait for somebody. */
  readonly questions: readonly { readonly id: string; readonly text: string; readonly who: string | null }[];
  /** Files of its tasks. */
  readonly files: readonly { readonly id: string; readonly name: string; readonly bytes: number; readonly task: string }[];
  readonly involved: readonly { readonly person: PersonRef; readonly minutes: number }[];
}

/** The packet and everything around it. */
export interface HandoffSheet extends HandoffLine, HandoffPacket {
  /** When the packet was handed off: it is what the receiver saw then. Null while it still changes with the phase. */
  readonly packetAt: string | null;
  readonly gate: readonly GateCheckView[];
  readonly words: string;
  readonly turns: readonly HandoffTurn[];
  readonly onPickUp: {
    readonly start: IsoDay;
    readonly finish: IsoDay;
    readonly tasks: number;
    readonly people: readonly { readonly person: PersonRef; readonly tasks: number; readonly minutes: number }[];
    readonly unassigned: number;
  } | null;
  /** Other ways out of its phase: another round, or an ending. */
  readonly ways: readonly WayOut[];
  /** Who may receive it, people with the next phase's role first. */
  readonly receivers: readonly HandoffReceiver[];
}
