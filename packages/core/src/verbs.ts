import { briefBy } from './calendar/calendar.ts';
import { forecast } from './forecast/forecast.ts';
import { waits } from './handoff/waits.ts';
import { learn } from './learn/learn.ts';
import { load } from './load/load.ts';
import { reply } from './mail/reply.ts';
import { progress } from './progress/progress.ts';
import { describeProblem, type Result } from './result.ts';
import { runRules } from './rules/run-rules.ts';
import { schedule, scheduleBack } from './schedule/schedule.ts';
import type { ScheduleInput } from './schedule/types.ts';

/** The answer of a verb: the computed value, or `{error, message, at}`. */
export interface Answer {
  readonly ok: boolean;
  readonly body: unknown;
}

type Verb = (input: never) => Result<unknown>;

/** Without a start but with a promise, `schedule` plans back. */
const scheduleEitherWay = (input: ScheduleInput): Result<unknown> => (isPlannedBack(input) ? scheduleBack(input) : schedule(input));

function isPlannedBack(input: Partial<ScheduleInput> | null): boolean {
  return typeof input === 'object' && input !== null && input.start === undefined && input.promise !== undefined;
}

const verbs: Readonly<Record<string, Verb>> = {
  schedule: scheduleEitherWay,
  load,
  progress,
  briefby: briefBy,
  learn,
  forecast,
  rules: runRules,
  waits,
  reply,
};

/** The verbs of the command line. */
export const VERBS: readonly string[] = Object.keys(verbs);

/** Answers one case; unusable input becomes an answer too, never an exception. */
export function answerVerb(verb: string, input: unknown): Answer {
  const compute = Object.hasOwn(verbs, verb) ? verbs[verb] : undefined;
  if (compute === undefined) {
    return { ok: false, body: { error: 'unknown-verb', message: `Name one of: ${VERBS.join(', ')}.`, at: 'verb' } };
  }
  const result = compute(input as never);
  if (result.ok) return { ok: true, body: result.value };
  const { problem } = result;
  return { ok: false, body: { error: problem.kind, message: describeProblem(problem), at: problem.at } };
}
