import { parentPort, workerData } from 'node:worker_threads';
import { openForecast, type ChunkOfRuns, type ForecastInput } from '@crew/core';

/** What a worker is given: the whole input, and which chunks of runs are its own. */
export interface WorkerTask {
  readonly input: ForecastInput;
  readonly chunks: readonly number[];
}

const { input, chunks } = workerData as WorkerTask;
const plan = openForecast(input);
for (const chunk of chunks) parentPort?.postMessage(plan.chunkOf(chunk) satisfies ChunkOfRuns);
