import { TOPICS_HEADER, WINDOW_HEADER, type ErrorBody, type ErrorCode, type KeptFile } from '@crew/contract';
import { inTurn, oneByOne, thingOf } from './in-turn.ts';
import { sendOnce } from './send-once.ts';
import { keepTouched, WINDOW } from './touched.ts';

/** A refusal of the server, in its own words. */
export class ApiError extends Error {
  readonly code: ErrorCode | 'no-connection';
  readonly field: string | undefined;
  readonly details: unknown;
  constructor(body: Omit<ErrorBody, 'code'> & { readonly code: ErrorCode | 'no-connection' }) {
    super(body.message);
    this.code = body.code;
    this.field = body.field;
    this.details = body.details;
  }
}

/**
 * The message for something that went wrong: refusals in their own words. Anything else is a fault of
 * this page; it goes to the console whole, and the message says that it is one.
 */
export function troubleWords(error: unknown): string {
  if (error instanceof ApiError) return error.message;
  console.error(error);
  return 'Something went wrong on this page, and this may not be saved. Reload the page to check.';
}

/** The thing as it is now, when a change of it was refused because somebody was faster; else null. */
export function currentOf<Thing>(error: unknown): Thing | null {
  if (!(error instanceof ApiError) || error.code !== 'changed-meanwhile') return null;
  return (error.details as { current?: Thing } | undefined)?.current ?? null;
}

let token = '';

/** The token that goes with every change, renewed with the session. */
export function keepToken(next: string): void {
  token = next;
}

type Method = 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE';

/** Requests that change nothing: a preview, a question that is too long for an address, what a window shows. */
const isLooking = (path: string): boolean => /\/(preview|query|presence)$/.test(path);

/**
 * Calls the API; refusals and lost connections become an `ApiError`. Changes of one thing are
 * sent one after the other, in the order in which they were asked for, and each begins from the
 * version the one before has left; so no screen has to think of that.
 */
export const call = <Answer>(method: Method, path: string, body?: object): Promise<Answer> =>
  send<Answer>({ method, path, body, wholes: [] });

/** As `call` for a PATCH that gives some fields whole, made of what was read: lists with one more in them. */
export const patchWholes = <Answer>(path: string, body: object, wholes: readonly string[]): Promise<Answer> =>
  send<Answer>({ method: 'PATCH', path, body, wholes });

interface Call {
  readonly method: Method;
  readonly path: string;
  readonly body: object | undefined;
  readonly wholes: readonly string[];
}

async function send<Answer>({ method, path, body, wholes }: Call): Promise<Answer> {
  if (method === 'GET' || isLooking(path)) return ask<Answer>(path, requestOf(method, body));
  const sending =
    (sent: object | undefined) =>
    (key: string): Promise<Answer> =>
      ask<Answer>(path, requestOf(method, sent, key));
  const said = (sent: object | undefined): string => `${method} ${path} ${JSON.stringify(sent)}`;
  const thing = thingOf(path);
  const read = (body as { readonly version?: unknown } | undefined)?.version;
  // Sent twice, a change without a version is recognised by its key, which it has from the start.
  if (typeof read !== 'number') return sendOnce(said(body), (key) => oneByOne(thing, () => sending(body)(key)));
  return inTurn({ thing, read, wholes }, (version) => {
    const sent = { ...body, version };
    return sendOnce(said(sent), sending(sent));
  });
}

const requestOf = (method: Method, body: object | undefined, key?: string): RequestInit => ({
  method,
  headers: {
    ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
    ...(method === 'GET' ? {} : { 'X-Crew-Token': token, [WINDOW_HEADER]: WINDOW }),
    ...(key === undefined ? {} : { 'Idempotency-Key': key }),
  },
  ...(body === undefined ? {} : bodyOf(body, method)),
});

/** Browsers let only small requests outlive the page. */
const MOST_KEPT_ALIVE = 30_000;

/** A change is still sent when the page is left at the same moment. */
function bodyOf(body: object, method: Method): RequestInit {
  const text = JSON.stringify(body);
  return { body: text, keepalive: method !== 'GET' && text.length < MOST_KEPT_ALIVE };
}

/** Reads the lines of an answer, and can stop it. */
export interface Hearing<Line> {
  readonly onLine: (line: Line) => void;
  readonly signal?: AbortSignal;
}

/** Calls for something that takes a while: each line of the answer is passed on as it comes. */
export async function callInLines<Line>(path: string, body: object, hearing: Hearing<Line>): Promise<void> {
  const text = JSON.stringify(body);
  await sendOnce(`POST ${path} ${text}`, async (key) => {
    const response = await reach(path, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'X-Crew-Token': token, 'Idempotency-Key': key },
      body: text,
      ...(hearing.signal === undefined ? {} : { signal: hearing.signal }),
    });
    if (!response.ok || response.body === null) throw await refusalOf(response);
    keepTouched(null);
    await hearLines(response.body, hearing.onLine);
  });
}

async function hearLines<Line>(body: ReadableStream<Uint8Array>, onLine: (line: Line) => void): Promise<void> {
  let rest = '';
  const tell = (text: string): void => {
    const lines = (rest + text).split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) if (line !== '') onLine(JSON.parse(line) as Line);
  };
  const [reader, decoder] = [body.getReader(), new TextDecoder()];
  for (let part = await reader.read(); !part.done; part = await reader.read()) tell(decoder.decode(part.value, { stream: true }));
  tell('\n');
}

/** Sends a file; its id can then be put on a task. */
export function sendFile(file: File): Promise<KeptFile> {
  const body = new FormData();
  body.append('file', file);
  return sendOnce(`POST /files ${file.name} ${file.size} ${file.lastModified}`, (key) =>
    ask<KeptFile>('/files', { method: 'POST', headers: { 'X-Crew-Token': token, 'Idempotency-Key': key }, body }),
  );
}

/** A lost connection becomes an `ApiError` in words. */
const reach = (path: string, request: RequestInit): Promise<Response> =>
  fetch(`/api${path}`, request).catch(() => {
    throw new ApiError({
      code: 'no-connection',
      message: 'The server did not answer. What you typed is still here; try again in a moment.',
    });
  });

async function ask<Answer>(path: string, request: RequestInit): Promise<Answer> {
  const response = await reach(path, request);
  if (!response.ok) throw await refusalOf(response);
  if (request.method !== 'GET' && !isLooking(path)) keepTouched(response.headers.get(TOPICS_HEADER));
  if (response.status === 204) return undefined as Answer;
  return (await response.json().catch(() => null)) as Answer;
}

async function refusalOf(response: Response): Promise<ApiError> {
  const answer: unknown = await response.json().catch(() => null);
  return new ApiError(
    isErrorBody(answer) ? answer : { code: 'internal-fault', message: 'Something went wrong on our side. Nothing was saved; try again.' },
  );
}

const isErrorBody = (answer: unknown): answer is ErrorBody =>
  typeof answer === 'object' && answer !== null && 'code' in answer && 'message' in answer;

/** The fetcher of every query. */
export const read = <Answer>(path: string): Promise<Answer> => call<Answer>('GET', path);
