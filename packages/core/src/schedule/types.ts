import type { AnchorAt, DependencyType, PhaseEdge } from '../words.ts';
import type { CalendarInput } from '../calendar/calendar.ts';
import type { IsoDay } from '../calendar/day.ts';

/** A dependency to a predecessor; `lag` in open days, may be negative. */
export interface DependencyInput {
  readonly task: string;
  readonly type: DependencyType;
  readonly lag?: number;
}

/** Where a task is placed when no predecessor holds it back; `offset` in open days. */
export interface AnchorInput {
  readonly at: AnchorAt;
  readonly offset: number;
}

/** What really happened: a start, and once it is over a finish. */
export interface ActualInput {
  readonly start: IsoDay;
  readonly finish?: IsoDay;
}

/** A phase; without `after` it starts with the engagement. */
export interface PhaseInput {
  readonly id: string;
  readonly after?: { readonly phase: string; readonly edge: PhaseEdge; readonly lag: number };
  readonly actual?: ActualInput;
}

/**
 * A task of `days` open days (0 = milestone). `remaining` days count only for a task under way. With
 * subtasks (others name it as `parent`) it has no days of its own but spans theirs. It begins on
 * `notBefore` at the earliest, whatever its anchor says. A detached task, such as a meeting that
 * repeats, keeps its own day: neither its phase nor the finish waits for it, its phase does not hold
 * it, and it is never on the longest chain.
 */
export interface TaskInput {
  readonly id: string;
  readonly phase: string;
  readonly parent?: string | null;
  readonly days: number;
  readonly notBefore?: IsoDay | null;
  readonly anchor?: AnchorInput;
  readonly after?: readonly DependencyInput[];
  readonly fixed?: IsoDay;
  readonly actual?: ActualInput;
  readonly remaining?: number;
  readonly isDetached?: boolean;
}

/** Everything `schedule` needs. With `today` the plan is that of a running engagement. */
export interface ScheduleInput {
  readonly calendar: CalendarInput;
  readonly start: IsoDay;
  readonly promise?: IsoDay;
  readonly today?: IsoDay;
  readonly phases: readonly PhaseInput[];
  readonly tasks: readonly TaskInput[];
}

/** A task with its dates; slack in working days, critical when it has none. */
export interface ScheduledTask {
  readonly id: string;
  readonly start: IsoDay;
  readonly finish: IsoDay;
  readonly slack: number;
  readonly critical: boolean;
}

/** A phase with its first and last day. */
export interface ScheduledPhase {
  readonly id: string;
  readonly start: IsoDay;
  readonly finish: IsoDay;
}

/** A fixed day or a late anchor the plan misses by `days` working days. */
export interface ScheduleConflict {
  readonly task: string;
  readonly days: number;
}

/** The computed plan, in the order of the input. */
export interface Schedule {
  readonly tasks: readonly ScheduledTask[];
  readonly phases: readonly ScheduledPhase[];
  readonly conflicts: readonly ScheduleConflict[];
  readonly finish: IsoDay;
}
