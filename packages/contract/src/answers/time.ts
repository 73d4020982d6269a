/* Time worked. Days are ISO days, time is seconds or minutes as named. */

/** Somebody's one timer. */
export interface TimerView {
  readonly task: { readonly id: string; readonly title: string; readonly engagement: { readonly id: string; readonly name: string } };
  /** Seconds it had counted when this was answered. */
  readonly elapsedSeconds: number;
  readonly isRunning: boolean;
  /** The day it was started on. */
  readonly day: string;
  /** It was started on another day than today: how much of it was work has to be said. */
  readonly isLeft: boolean;
  /** What was probably worked, when it was left; else null. */
  readonly guessMinutes: number | null;
}

export interface TimerState {
  readonly timer: TimerView | null;
}

/** What a timer that was stopped came to; no minutes when it was too short to be worth an entry. */
export interface TimerStopped {
  readonly minutes: number;
  readonly day: string;
  readonly title: string;
}
