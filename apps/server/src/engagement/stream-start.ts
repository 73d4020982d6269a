import type { StartLine } from '@crew/contract';
import type { Response } from 'express';
import { errorBodyOf } from '../platform/error-filter.ts';

/**
 * Answers with one line of JSON for each step of a long work, and last with what was made or why
 * it was not. What is refused before the first step is refused as everywhere else.
 */
export async function answerInLines(
  response: Response,
  work: (tell: (line: StartLine) => void) => Promise<{ readonly id: string }>,
): Promise<void> {
  const write = (line: StartLine): void => {
    if (!response.headersSent) response.status(201).type('application/x-ndjson').setHeader('Cache-Control', 'no-store');
    response.write(`${JSON.stringify(line)}\n`);
  };
  try {
    const { id } = await work(write);
    write({ kind: 'made', id });
  } catch (error) {
    if (!response.headersSent) throw error;
    write({ kind: 'refused', refusal: errorBodyOf(error) });
  }
  response.end();
}
