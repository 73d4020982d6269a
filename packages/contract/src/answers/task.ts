import type { CustomFieldEntry, IsoDay } from '@crew/core';
import type { DependencyType, OutsideState, Priority, TaskKind, TaskStatus, WaitingOn } from '../words.ts';
import type { ClientRef } from './client.ts';
import type { PersonRef } from './crew.ts';
import type { KeptFile } from './file.ts';

/* Tasks and what a change to one does. Days are ISO days, effort is minutes, times are ISO instants. */

/** A dependency on a task that has to come first; lag in working days. */
export interface PlanDependency {
  readonly id: string;
  readonly number: number;
  readonly type: DependencyType;
  readonly lag: number;
}

/** The part an outside maker does, and the last day to send the brief. */
export interface OutsideWork {
  readonly maker: string;
  readonly turnaroundDays: number;
  readonly bufferDays: number;
  /** Set by hand, or null: then it is needed when the first task that waits for it begins. */
  readonly neededOn: IsoDay | null;
  readonly state: OutsideState;
  readonly briefBy: IsoDay;
}

export interface PlanTask {
  readonly id: string;
  readonly number: number;
  readonly phaseId: string;
  /** The task it is a part of. */
  readonly parentId: string | null;
  /** Whether it has subtasks: then they decide its dates, effort and status. */
  readonly isGroup: boolean;
  readonly deliverableId: string | null;
  readonly labels: readonly string[];
  readonly title: string;
  readonly kind: TaskKind;
  readonly role: string | null;
  readonly status: TaskStatus;
  readonly waitingOn: WaitingOn | null;
  readonly waitingSince: IsoDay | null;
  readonly priority: Priority;
  readonly assignees: readonly PersonRef[];
  readonly start: IsoDay;
  readonly due: IsoDay;
  /** When it will be done as things are; `due` is the planned day. */
  readonly expected: IsoDay;
  readonly days: number;
  readonly slack: number;
  readonly isCritical: boolean;
  readonly missedDays: number;
  readonly fixedDay: IsoDay | null;
  readonly notBefore: IsoDay | null;
  readonly realStart: IsoDay | null;
  /** Its days in the baseline; null for what was added since. */
  readonly baselineStart: IsoDay | null;
  readonly baselineDue: IsoDay | null;
  readonly outside: OutsideWork | null;
  readonly estimateMinutes: number | null;
  readonly loggedMinutes: number;
  readonly stepsDone: number;
  readonly stepsAll: number;
  readonly after: readonly PlanDependency[];
  readonly openPredecessors: number;
  readonly isShownToClient: boolean;
  readonly isChargeable: boolean;
  readonly mayStartEarly: boolean;
  /** The series it belongs to; null for one that does not repeat. */
  readonly seriesId: string | null;
  readonly version: number;
}

export interface TaskStep {
  readonly id: string;
  readonly title: string;
  readonly isDone: boolean;
}

export interface TaskDependency {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly status: TaskStatus;
  readonly type: DependencyType;
  readonly lag: number;
}

/** A way out of a task beside the ordinary next ones: back to an earlier task, or to an ending of the engagement. */
export interface WayOut {
  readonly id: string;
  /** The task it leads from. */
  readonly taskId: string;
  /** The task it leads back to; null when it ends the engagement. */
  readonly to: { readonly id: string; readonly number: number; readonly title: string } | null;
  readonly ending: string | null;
  readonly reason: string;
}

export interface TaskSheet extends PlanTask {
  readonly ways: readonly WayOut[];
  readonly description: string;
  readonly pageLinks: readonly { readonly title: string; readonly url: string }[];
  readonly files: readonly KeptFile[];
  readonly customFields: readonly CustomFieldEntry[];
  /** Crew members that custom fields name. */
  readonly fieldPeople: readonly PersonRef[];
  readonly engagement: { readonly id: string; readonly name: string; readonly client: ClientRef };
  readonly phase: string;
  readonly steps: readonly TaskStep[];
  readonly waitsFor: readonly TaskDependency[];
  readonly holdsUp: readonly TaskDependency[];
}

export interface TaskMove {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly from: { readonly start: IsoDay; readonly due: IsoDay };
  readonly to: { readonly start: IsoDay; readonly due: IsoDay };
}

/** What an edit does to the plan around it. */
export interface PlanEffect {
  readonly moves: readonly TaskMove[];
  readonly newConflicts: readonly {
    readonly id: string;
    readonly title: string;
    readonly days: number;
    readonly fixedDay: IsoDay | null;
  }[];
  /** Tasks that cannot begin on the day asked for, and what holds them. */
  readonly held: readonly {
    readonly id: string;
    readonly title: string;
    readonly wanted: IsoDay;
    readonly start: IsoDay;
    readonly by: string | null;
  }[];
  /** Briefs to outside makers that are due on another day. */
  readonly briefs: readonly {
    readonly id: string;
    readonly title: string;
    readonly from: IsoDay | null;
    readonly to: IsoDay;
    readonly isLate: boolean;
  }[];
  readonly finish: { readonly from: IsoDay; readonly to: IsoDay };
  readonly promise: IsoDay | null;
  /** Working days between the finish and the promise; negative when late. */
  readonly promiseSlack: { readonly from: number; readonly to: number } | null;
  readonly overloads: readonly { readonly person: PersonRef; readonly minutes: number; readonly firstDay: IsoDay }[];
}

/** `effect` is null for a status alone: the plan follows a moment later and is announced. */
export interface TaskEdited {
  readonly task: TaskSheet;
  readonly effect: PlanEffect | null;
  /** Undoes it, with everything it moved; null for a status alone. */
  readonly changeId: string | null;
}

/** A change that was made; `changeId` undoes it, and is null when nothing changed. */
export interface ChangeMade {
  readonly changeId: string | null;
}

/** What followed from a status, once the plan has been computed; `due` is null where only the first day moved. */
export interface ChangeFollowed {
  readonly isPlanned: boolean;
  readonly moves: readonly { readonly id: string; readonly title: string; readonly due: IsoDay | null }[];
}

/** A field that was changed again since, and so stays as it is when a change is undone. */
export interface FieldKept {
  /** The task, or whatever else it is a field of. */
  readonly subjectId: string;
  readonly title: string;
  /** The name of the field; `added` for a task that stays, `deleted` for one that is gone. */
  readonly field: string;
  /** Who changed it last. */
  readonly by: string | null;
}

/** What undoing a change left as it is; everything else is restored. Undoing `changeId` brings the change back. */
export interface ChangeUndone {
  readonly changeId: string;
  readonly kept: readonly FieldKept[];
}

/** A change of the plan that was applied; `changeId` undoes it, and is null when nothing changed. */
export interface PlanChanged {
  readonly changeId: string | null;
  readonly effect: PlanEffect;
}
