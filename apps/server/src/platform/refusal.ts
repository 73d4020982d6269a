import { describeProblem, type Problem, type ProblemKind, type Result } from '@crew/core';
import type { ErrorCode } from '@crew/contract';

/** Something the server will not do, with the sentence the user reads. */
export class Refusal extends Error {
  readonly code: ErrorCode;
  readonly field: string | undefined;
  readonly details: unknown;

  constructor(code: ErrorCode, message: string, more: { readonly field?: string; readonly details?: unknown } = {}) {
    super(message);
    this.code = code;
    this.field = more.field;
    this.details = more.details;
  }
}

const CODE_OF: Readonly<Record<ProblemKind, ErrorCode>> = {
  'invalid-field': 'invalid-input',
  'invalid-day': 'invalid-day',
  'duplicate-id': 'invalid-input',
  'unknown-id': 'unknown-id',
  loop: 'waits-in-a-loop',
  'no-working-day': 'invalid-input',
  'promise-too-early': 'promise-too-early',
  never: 'wrong-moment',
};

/** The value of a core result; a problem becomes a refusal in people's words. */
export function unwrap<Value>(result: Result<Value>, nameOf?: (id: string) => string): Value {
  if (result.ok) return result.value;
  throw refusalOf(result.problem, nameOf);
}

/** A core problem as a refusal. */
export function refusalOf(problem: Problem, nameOf?: (id: string) => string): Refusal {
  return new Refusal(CODE_OF[problem.kind], describeProblem(problem, nameOf), { field: problem.at });
}

/** The row that must be there and be visible. */
export function requireFound<Value>(value: Value | null | undefined, what: string): Value {
  if (value === null || value === undefined) throw new Refusal('not-found', `There is no ${what} here, or it is not yours to see.`);
  return value;
}
