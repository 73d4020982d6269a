import { backBy, perform } from '../../session/perform.ts';
import type { StopTimer, TimerStopped, TimerView } from '@crew/contract';
import { useEffect, useState } from 'react';
import { call } from '../../api/client.ts';
import { useTimerState } from '../../api/queries.ts';
import { hourWords } from '../../words/format.ts';

/** One's own timer with what it has counted up to now, and what can be done with it. */
export interface Timing {
  /** Undefined until it is known, null when there is none. */
  readonly timer: TimerView | null | undefined;
  readonly seconds: number;
  readonly start: (taskId: string) => Promise<void>;
  readonly pause: () => Promise<void>;
  /** True when it was logged; what is refused is told. */
  readonly stop: (input?: StopTimer) => Promise<boolean>;
  readonly discard: () => Promise<void>;
}

/** The server counts; here only the seconds since it was asked are added, so sleep and other devices cannot part them. */
export function useTimer(): Timing {
  const { data } = useTimerState();
  const timer = data?.timer;
  const isRunning = timer?.isRunning === true;
  const now = useNow(isRunning);
  const since = data === undefined || !isRunning ? 0 : Math.max(0, Math.floor((now - data.readAt) / 1000));
  return {
    timer,
    seconds: (timer?.elapsedSeconds ?? 0) + since,
    start: async (taskId) => void (await perform({ send: () => call('POST', '/timer', { taskId }) })),
    pause: async () => void (await perform({ send: () => call('POST', '/timer/pause') })),
    stop: stopTimer,
    discard: async () => void (await perform({ send: () => call('DELETE', '/timer') })),
  };
}

/** Stops one's own timer and logs what it counted. True when it was logged; what is refused is told. */
export async function stopTimer(input: StopTimer = {}): Promise<boolean> {
  const { isDone } = await perform({
    send: () => call<TimerStopped>('POST', '/timer/stop', input),
    said: stoppedWords,
    undo: ({ undo }) => backBy(() => call('POST', '/timer/restore', undo)),
  });
  return isDone;
}

/** The present moment, anew each second while it matters. */
function useNow(isTicking: boolean): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!isTicking) return;
    const tick = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(tick);
  }, [isTicking]);
  return now;
}

const stoppedWords = ({ minutes, title }: TimerStopped): string =>
  minutes === 0 ? `Less than a minute on “${title}”: nothing was logged.` : `${hourWords(minutes)} logged on “${title}”.`;

/** "42 min" or "10 h 50 min" of seconds. */
export function clockWords(seconds: number): string {
  const [hours, minutes] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60];
  return hours === 0 ? `${minutes} min` : `${hours} h ${String(minutes).padStart(2, '0')} min`;
}
