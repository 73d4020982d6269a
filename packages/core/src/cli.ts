#!/usr/bin/env node
import { createInterface } from 'node:readline';
import { readFileSync, writeSync } from 'node:fs';
import { answerVerb, VERBS, type Answer } from './verbs.ts';

/**
 * The core's own small command line: JSON on standard input, JSON on standard output.
 * `npm run -s core -- schedule < in.json`; a problem is printed as data and exits 1.
 */
async function main(verb: string | undefined): Promise<number> {
  if (verb === 'batch') return answerBatch();
  if (verb === undefined || !VERBS.includes(verb)) {
    print({ error: 'unknown-verb', message: `Name one of: ${[...VERBS, 'batch'].join(', ')}.`, at: 'verb' });
    return 1;
  }
  const answer = answerText(verb, readFileSync(0, 'utf8'));
  print(answer.body);
  return answer.ok ? 0 : 1;
}

/** One `{"verb", "case"}` a line in, one answer a line out, in order; errors are answers. */
async function answerBatch(): Promise<number> {
  for await (const line of createInterface({ input: process.stdin })) {
    if (line.trim() === '') continue;
    print(answerLine(line).body);
  }
  return 0;
}

function answerLine(line: string): Answer {
  const parsed = parse(line);
  if (!parsed.ok) return parsed;
  const { verb, case: input } = (parsed.body ?? {}) as { verb?: unknown; case?: unknown };
  return answerVerb(String(verb), input);
}

function answerText(verb: string, text: string): Answer {
  const parsed = parse(text);
  return parsed.ok ? answerVerb(verb, parsed.body) : parsed;
}

function parse(text: string): Answer {
  try {
    return { ok: true, body: JSON.parse(text) as unknown };
  } catch (error) {
    return { ok: false, body: { error: 'invalid-json', message: `This is not JSON: ${(error as Error).message}.`, at: 'input' } };
  }
}

function print(body: unknown): void {
  let rest = Buffer.from(`${JSON.stringify(body)}\n`);
  while (rest.length > 0) {
    try {
      rest = rest.subarray(writeSync(1, rest));
    } catch (error) {
      // A full pipe says EAGAIN; its reader is still there, so write the rest.
      if ((error as { code?: string }).code !== 'EAGAIN') throw error;
    }
  }
}

process.exitCode = await main(process.argv[2]);
