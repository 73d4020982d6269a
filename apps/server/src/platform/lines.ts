import type { Response } from 'express';

/** Answers with one line of JSON after the other; the first one opens the answer, so that what is refused before it is refused as everywhere. */
export function openLines<Line>(response: Response): (line: Line) => void {
  return (line) => {
    if (response.writableEnded || response.destroyed) return;
    if (!response.headersSent) response.status(201).type('application/x-ndjson').setHeader('Cache-Control', 'no-store');
    response.write(`${JSON.stringify(line)}\n`);
  };
}
