import { can, type ForecastLine, type ForecastState, type ForecastView } from '@crew/contract';
import { useCallback, useEffect, useRef, useState } from 'react';
import { mutate } from 'swr';
import { ApiError, callInLines, troubleWords } from '../../api/client.ts';
import { useForecastState } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';

export interface Forecasting {
  readonly forecast: ForecastView | null;
  /** What is shown was computed from older facts. */
  readonly isStale: boolean;
  /** How many of how many runs are done, while it is computed. */
  readonly progress: { readonly done: number; readonly of: number } | null;
  readonly problem: string | null;
  readonly make: () => void;
  readonly stop: () => void;
}

/**
 * The forecast of an engagement, for people who may see it: when the facts have changed it is computed
 * anew, once; stopped, it waits until somebody asks for it.
 */
export function useForecast(engagementId: string): Forecasting | undefined {
  const { data, error } = useForecastState(can(useWho(), 'forecast.use') ? engagementId : null);
  const [progress, setProgress] = useState<Forecasting['progress']>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const stopping = useRef<AbortController | null>(null);
  const path = `/engagements/${engagementId}/forecast`;
  const make = useCallback((): void => {
    if (stopping.current !== null) return;
    const control = new AbortController();
    stopping.current = control;
    setProblem(null);
    setProgress({ done: 0, of: 1 });
    const hear = (line: ForecastLine): void => {
      if (line.kind === 'running') setProgress({ done: line.done, of: line.of });
      else if (line.kind === 'refused') throw new ApiError(line.refusal);
      else void mutate(path, { forecast: line.forecast, isStale: false } satisfies ForecastState, { revalidate: false });
    };
    callInLines(path, {}, { onLine: hear, signal: control.signal })
      .catch((fault: unknown) => {
        if (!control.signal.aborted) setProblem(troubleWords(fault));
      })
      .finally(() => {
        if (stopping.current === control) stopping.current = null;
        setProgress(null);
      });
  }, [path]);
  const wasStopped = useRef(false);
  const isStale = data?.isStale ?? false;
  useEffect(() => {
    if (isStale && !wasStopped.current) make();
  }, [isStale, make]);
  useEffect(() => () => stopping.current?.abort(), []);
  if (error !== undefined && data === undefined)
    return { forecast: null, isStale: false, progress: null, problem: error.message, make, stop: () => undefined };
  if (data === undefined) return undefined;
  return {
    forecast: data.forecast,
    ...{ isStale, progress, problem },
    make: () => {
      wasStopped.current = false;
      make();
    },
    stop: () => {
      wasStopped.current = true;
      stopping.current?.abort();
    },
  };
}
