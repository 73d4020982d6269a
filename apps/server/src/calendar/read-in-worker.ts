import { Worker } from 'node:worker_threads';
import { Refusal } from '../platform/refusal.ts';
import type { FileAnswer, FileToRead } from './ical-worker.ts';
import type { ReadFile, ReadingBy } from './read-ical.ts';

/** Compiled beside this file; a test runs from the source and uses the compiled one too. */
const WORKER = new URL('./ical-worker.js', import.meta.url.replace('/server/src/', '/server/dist/'));
const PATIENCE_MS = 5000;
/** The machine is there for others too. */
const AT_ONCE = 2;
const MEMORY_MB = 192;

let running = 0;
const waiting: (() => void)[] = [];

/**
 * Reads a calendar file away from the thread that answers everybody else: nobody knows what
 * somebody's file holds. Refuses one that is no calendar, and one that takes too long.
 */
export async function readInWorker(text: string, by: ReadingBy): Promise<ReadFile> {
  if (running >= AT_ONCE) await new Promise<void>((resolve) => waiting.push(resolve));
  running++;
  try {
    const answer = await readOne({ text, ...by });
    if (answer.kind === 'read') return answer.file;
    throw new Refusal('faulty-file', answer.message, { field: 'text' });
  } finally {
    running--;
    waiting.shift()?.();
  }
}

function readOne(file: FileToRead): Promise<FileAnswer> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(WORKER, { workerData: file, resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB } });
    const tooMuch = (): void =>
      reject(
        new Refusal('faulty-file', 'This calendar takes too long to read. Export a shorter time, or fewer events that repeat.', {
          field: 'text',
        }),
      );
    const timer = setTimeout(() => {
      void worker.terminate();
      tooMuch();
    }, PATIENCE_MS);
    worker.once('message', resolve);
    worker.once('error', (error) => ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooMuch() : reject(error)));
    worker.once('exit', () => clearTimeout(timer));
  });
}
