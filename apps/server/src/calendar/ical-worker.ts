import { parentPort, workerData } from 'node:worker_threads';
import { Refusal } from '../platform/refusal.ts';
import { readICalendar, type ReadFile, type ReadingBy } from './read-ical.ts';

/** What a worker is given. */
export interface FileToRead extends ReadingBy {
  readonly text: string;
}

/** What it answers: errors do not cross threads as what they are. */
export type FileAnswer = { readonly kind: 'read'; readonly file: ReadFile } | { readonly kind: 'refused'; readonly message: string };

function answer({ text, ...by }: FileToRead): FileAnswer {
  try {
    return { kind: 'read', file: readICalendar(text, by) };
  } catch (error) {
    if (error instanceof Refusal) return { kind: 'refused', message: error.message };
    throw error;
  }
}

parentPort?.postMessage(answer(workerData as FileToRead));
