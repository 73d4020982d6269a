import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import { openForecast, type ChunkOfRuns, type Forecast, type ForecastInput } from '@crew/core';
import type { WorkerTask } from './worker.ts';

/** Compiled beside this file; a test runs from the source and uses the compiled one too. */
const WORKER = new URL('./worker.js', import.meta.url.replace('/server/src/', '/server/dist/'));
const MOST_WORKERS = 4;

export interface Running {
  /** Told after every chunk: how many runs are done. */
  readonly onRuns: (done: number) => void;
  /** Stops all workers; the promise is then refused with `AbortError`. */
  readonly signal: AbortSignal;
  /** How many at most; with one, what others ask for is not held up. */
  readonly workers?: number;
}

/**
 * The forecast, simulated away from the thread that answers everybody else: chunks are shared
 * out, and the answer does not depend on how. Throws a problem for unusable input.
 */
export async function forecastInWorkers(input: ForecastInput, { onRuns, signal, workers = MOST_WORKERS }: Running): Promise<Forecast> {
  const plan = openForecast(input);
  const count = Math.min(workers, availableParallelism(), plan.chunks);
  let done = 0;
  const add = (runs: ChunkOfRuns): void => {
    plan.add(runs);
    done += runs.finishes.length;
    onRuns(done);
  };
  const shares = Array.from({ length: count }, (_, worker) =>
    Array.from({ length: plan.chunks }, (_unused, chunk) => chunk).filter((chunk) => chunk % count === worker),
  );
  await Promise.all(shares.map((chunks) => runOne({ input, chunks }, { add, signal })));
  return plan.answer();
}

function runOne(
  task: WorkerTask,
  { add, signal }: { readonly add: (runs: ChunkOfRuns) => void; readonly signal: AbortSignal },
): Promise<void> {
  return new Promise((resolve, reject) => {
    signal.throwIfAborted();
    const worker = new Worker(WORKER, { workerData: task });
    const stop = (): void => {
      void worker.terminate();
      reject(signal.reason as Error);
    };
    signal.addEventListener('abort', stop, { once: true });
    worker.on('message', add);
    worker.once('error', reject);
    worker.once('exit', (code) => {
      signal.removeEventListener('abort', stop);
      if (code === 0) resolve();
      else reject(new Error(`A worker of the forecast ended with ${code}.`));
    });
  });
}
