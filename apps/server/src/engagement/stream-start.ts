import type { StartLine } from '@crew/contract';
import type { Response } from 'express';
import { errorBodyOf } from '../platform/error-filter.ts';
import { openLines } from '../platform/lines.ts';

/**
 * Answers one line of JSON for each step of a long request, and last with the result or the refusal.
 * What is refused before the first step is refused as everywhere else.
 */
export async function answerInLines(
  response: Response,
  work: (tell: (line: StartLine) => void) => Promise<{ readonly id: string }>,
): Promise<void> {
  const write = openLines<StartLine>(response);
  try {
    const { id } = await work(write);
    write({ kind: 'made', id });
  } catch (error) {
    if (!response.headersSent) throw error;
    write({ kind: 'refused', refusal: errorBodyOf(error) });
  }
  response.end();
}
