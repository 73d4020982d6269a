/** Every refusal the API can give, with its HTTP status and what it means. One table, tested for completeness. */
export const ERRORS = {
  'not-signed-in': { status: 401, meaning: 'Nobody is signed in, or the session has ended.' },
  'wrong-sign-in': { status: 401, meaning: 'The mail address and the password do not belong together.' },
  'second-factor-needed': {
    status: 401,
    meaning: 'The password is right; the account also asks for a code of its second factor (`code`).',
  },
  'second-factor-missing': { status: 403, meaning: 'The agency asks for a second factor, and this account has none yet.' },
  'wrong-secret': { status: 401, meaning: 'The secret sent along is not the one of this installation.' },
  'not-allowed': { status: 403, meaning: 'Your access does not include this.' },
  'stale-page': { status: 403, meaning: 'The page was opened in an older session; the request carried no valid token.' },
  'not-found': { status: 404, meaning: 'There is nothing with this id that you may see.' },
  'invalid-input': { status: 400, meaning: 'A field is missing or wrong; `details` lists each field.' },
  'invalid-day': { status: 400, meaning: 'A day does not exist in the calendar.' },
  'unknown-id': { status: 400, meaning: 'An id in the request belongs to nothing you may use.' },
  'empty-template': { status: 400, meaning: 'The template has no phase, or every phase or task was left out.' },
  'faulty-template': { status: 400, meaning: 'Something in the template is wrong; `details.faults` lists each with its place.' },
  'faulty-file': {
    status: 400,
    meaning: 'The file is not a template of the open format; `details.faults` lists each fault with its place.',
  },
  'changed-meanwhile': { status: 409, meaning: 'Somebody changed this since you read it; `details.current` is what is there now.' },
  'waits-in-a-loop': { status: 409, meaning: 'The links would make tasks wait on each other.' },
  'promise-too-early': { status: 409, meaning: 'No start is early enough to finish by the promise.' },
  'gate-not-clear': { status: 409, meaning: 'Checks of the gate are still open.' },
  'wrong-moment': { status: 409, meaning: 'The thing is not in a state in which this can be done.' },
  'already-there': { status: 409, meaning: 'Something with this name or address exists already.' },
  'still-used': { status: 409, meaning: 'It cannot go while other things refer to it.' },
  'too-many-tries': { status: 429, meaning: 'Too many requests in a short time.' },
  'too-large': { status: 413, meaning: 'The request is larger than is accepted.' },
  'wrong-format': { status: 415, meaning: 'The body is not JSON in UTF-8.' },
  unavailable: {
    status: 503,
    meaning: 'The server is stopping, very busy, or without its database; nothing was saved. `Retry-After` says when to try again.',
  },
  'internal-fault': { status: 500, meaning: 'A fault of the server; nothing was saved.' },
} as const satisfies Record<string, { status: number; meaning: string }>;

export type ErrorCode = keyof typeof ERRORS;

/** The one shape of a refusal by the API. */
export interface ErrorBody {
  readonly code: ErrorCode;
  readonly message: string;
  readonly field?: string;
  readonly details?: unknown;
}
