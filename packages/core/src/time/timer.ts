/** A timer as it is kept: seconds of earlier runs, and since when it runs now (milliseconds of an instant); null while it is paused. */
export interface Timer {
  readonly bankedSeconds: number;
  readonly runningSince: number | null;
}

/** Whole seconds a timer has counted at an instant (milliseconds). A clock that was set back counts nothing. */
export const elapsedSeconds = ({ bankedSeconds, runningSince }: Timer, now: number): number =>
  bankedSeconds + (runningSince === null ? 0 : Math.max(0, Math.floor((now - runningSince) / 1000)));

/** The timer paused at an instant: what it counted is banked. */
export const pauseTimer = (timer: Timer, now: number): Timer => ({ bankedSeconds: elapsedSeconds(timer, now), runningSince: null });

/** The timer running on from an instant; one that runs already is left alone. */
export const resumeTimer = (timer: Timer, now: number): Timer => (timer.runningSince === null ? { ...timer, runningSince: now } : timer);

/** Minutes to log for so many seconds, to the nearest; 0 for less than half a minute, which is not worth an entry. */
export const minutesToLog = (seconds: number): number => Math.round(seconds / 60);

const LEAST_GUESS = 15;

/**
 * What was probably worked when a timer was left running: at most what it counted, and at most
 * what was left of that day's working hours; at least a quarter of an hour. Minutes.
 */
export function guessMinutes({
  seconds,
  dayMinutes,
  loggedMinutes,
}: {
  readonly seconds: number;
  readonly dayMinutes: number;
  readonly loggedMinutes: number;
}): number {
  return Math.max(LEAST_GUESS, Math.min(minutesToLog(seconds), dayMinutes - loggedMinutes));
}
