/**
 * How the core answers: a value, or a problem as data. The core never throws for
 * unusable input; callers decide what a problem means (an HTTP status, an exit code).
 */
export type Result<Value> = { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly problem: Problem };

/** Everything that can be wrong with what the core is given. `at` names the field and the id, e.g. `tasks[draft].after`. */
export type Problem =
  | { readonly kind: 'invalid-field'; readonly at: string; readonly expected: string }
  | { readonly kind: 'invalid-day'; readonly at: string; readonly given: string }
  | { readonly kind: 'duplicate-id'; readonly at: string; readonly id: string }
  | { readonly kind: 'unknown-id'; readonly at: string; readonly id: string }
  | { readonly kind: 'loop'; readonly at: string; readonly path: readonly string[] }
  | { readonly kind: 'no-working-day'; readonly at: string }
  | { readonly kind: 'promise-too-early'; readonly at: string; readonly promise: string }
  | { readonly kind: 'never'; readonly at: string; readonly id: string };

export type ProblemKind = Problem['kind'];

/** Wraps a computed value. */
export const success = <Value>(value: Value): Result<Value> => ({ ok: true, value });

/** Wraps a problem. */
export const failure = (problem: Problem): Result<never> => ({ ok: false, problem });

/** One sentence for people: the fact, the value, the next step. `nameOf` turns ids into titles. */
export function describeProblem(problem: Problem, nameOf: (id: string) => string = (id) => id): string {
  switch (problem.kind) {
    case 'invalid-field':
      return `${problem.at} must be ${problem.expected}.`;
    case 'invalid-day':
      return `${problem.at} is “${problem.given}”, which is not a calendar day. Write it as 2026-12-14.`;
    case 'duplicate-id':
      return `${problem.at} uses the id “${problem.id}” twice. Give each its own id.`;
    case 'unknown-id':
      return `${problem.at} names “${nameOf(problem.id)}”, which is not there. Name one that is, or remove it.`;
    case 'loop':
      return `These wait on each other: ${[...problem.path, problem.path[0] ?? ''].map(nameOf).join(' → ')}. Remove one link.`;
    case 'no-working-day':
      return `${problem.at} has no working day in the week. Give at least one weekday some minutes.`;
    case 'promise-too-early':
      return `No start is early enough to finish by ${problem.promise}: a fixed day lies after it. Move the fixed day or the promise.`;
    case 'never':
      return `“${nameOf(problem.id)}” does not work again within 4000 days. Choose somebody who does.`;
  }
}

/** Carries a problem out of deep validation code; caught by `attempt`, never seen by callers. */
export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(problem.kind);
    this.problem = problem;
  }
}

/** Runs `compute`; a `ProblemError` thrown inside becomes a failure, anything else is a bug and passes through. */
export function attempt<Value>(compute: () => Value): Result<Value> {
  try {
    return success(compute());
  } catch (error) {
    if (error instanceof ProblemError) return failure(error.problem);
    throw error;
  }
}
