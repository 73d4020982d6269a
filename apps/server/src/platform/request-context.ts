import { AsyncLocalStorage } from 'node:async_hooks';
import { createHash } from 'node:crypto';
import type { Topic } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from './database.ts';
import { Refusal } from './refusal.ts';

/** How a request says that it is the same one, sent again. */
export const IDEMPOTENCY_HEADER = 'idempotency-key';

/** What is known of the request that is being answered, wherever in the server that is done. */
interface RequestContext {
  readonly key: string | null;
  /** The window of the browser that sent it. */
  readonly window: string | null;
  readonly origin: RequestOrigin;
  /** What its changes have touched so far. */
  readonly topics: Set<Topic>;
  /** Set once it is known who asks, and for what. */
  asked: { readonly accountId: string; readonly request: string } | null;
  isUsed: boolean;
}

/** Where a request comes from, for the security log: its address, and the browser and system it names. */
export interface RequestOrigin {
  readonly ip: string;
  readonly userAgent: string;
}

const contexts = new AsyncLocalStorage<RequestContext>();

/** Runs the answering of a request, known by what its headers say. */
export function withRequest(
  said: { readonly key: string | undefined; readonly window: string | undefined; readonly origin: RequestOrigin },
  answer: () => void,
): void {
  const window = /^[\w-]{8,64}$/.test(said.window ?? '') ? (said.window as string) : null;
  contexts.run({ key: said.key ?? null, window, origin: said.origin, topics: new Set(), asked: null, isUsed: false }, answer);
}

/** The window of the browser that sent the request that is being answered; null for jobs. */
export const windowOfRequest = (): string | null => contexts.getStore()?.window ?? null;

/** Where the request that is being answered comes from; nothing is known of jobs. */
export const originOfRequest = (): RequestOrigin => contexts.getStore()?.origin ?? { ip: '', userAgent: '' };

/** Remembers what the request has touched, and answers all of it. */
export function touchedByRequest(topics: readonly Topic[] = []): readonly Topic[] {
  const context = contexts.getStore();
  for (const topic of topics) context?.topics.add(topic);
  return [...(context?.topics ?? [])];
}

/** Binds the key of the request, if it has one, to who asks and what for: nobody else's request is the same one. */
export function bindKey(accountId: string, request: { readonly method: string; readonly url: string; readonly body: unknown }): void {
  const context = contexts.getStore();
  if (context === undefined || context.key === null) return;
  if (!/^[\w-]{8,100}$/.test(context.key))
    throw new Refusal('invalid-input', 'An idempotency key has 8 to 100 letters, digits, dashes or underscores.', {
      field: IDEMPOTENCY_HEADER,
    });
  const text = `${request.method} ${request.url} ${JSON.stringify(request.body ?? null)}`;
  context.asked = { accountId, request: createHash('sha256').update(text).digest('base64url') };
}

/** What a transaction answered, as it is kept; a whole template is too large for that. */
export interface KeptValue {
  readonly value?: unknown;
  readonly isTooLarge?: boolean;
}
const MOST_KEPT = 100_000;

/** Thrown inside a transaction whose request was carried out before: what it answered stands for what would be done. */
export class DoneBefore extends Error {
  readonly value: unknown;
  constructor(value: unknown) {
    super('done before');
    this.value = value;
  }
}

/** What keeps the value of a transaction, so that the same request, sent again, gets the same. */
export type KeepValue = (value: unknown) => Promise<void>;

/**
 * Uses the key of the request, if it has one, for this transaction; only the first of a request
 * does. Throws `DoneBefore` when the request was carried out, by whichever process; while it is
 * being carried out this waits for it. Rolled back, the key is free again.
 */
export async function useKey(manager: EntityManager): Promise<KeepValue | null> {
  const context = contexts.getStore();
  if (context === undefined || context.asked === null || context.isUsed) return null;
  const { accountId, request } = context.asked;
  const insert = `INSERT INTO idempotency_key (account_id, key, request) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING RETURNING key`;
  const inserted = await rowsOf(manager, insert, [accountId, context.key, request]);
  context.isUsed = true;
  if (inserted.length === 0) {
    const kept = await firstRow<{ request: string; value: KeptValue }>(
      manager,
      'SELECT request, value FROM idempotency_key WHERE account_id = $1 AND key = $2',
      [accountId, context.key],
    );
    if (kept?.request !== request)
      throw new Refusal('invalid-input', 'This key was used for another request. Make a new one for each.', { field: IDEMPOTENCY_HEADER });
    if (kept.value.isTooLarge === true)
      throw new Refusal('wrong-moment', 'This was done already, by the same request sent before. Reload to see it.');
    throw new DoneBefore(kept.value.value);
  }
  return async (value) => {
    const text = JSON.stringify({ value } satisfies KeptValue);
    const kept = text.length > MOST_KEPT ? JSON.stringify({ isTooLarge: true } satisfies KeptValue) : text;
    await rowsOf(manager, 'UPDATE idempotency_key SET value = $3 WHERE account_id = $1 AND key = $2', [accountId, context.key, kept]);
  };
}

/** The key of the request, for a change that is one statement and keeps it, with its answer, itself; null where there is none. */
export function keyOfRequest(): { readonly key: string; readonly request: string } | null {
  const context = contexts.getStore();
  if (context === undefined || context.key === null || context.asked === null) return null;
  return { key: context.key, request: context.asked.request };
}

/**
 * What the request was answered when it was carried out before, by its key; null when it was not.
 * A transaction that uses the key itself knows that it was not.
 */
export async function doneBefore(manager: EntityManager, accountId: string): Promise<KeptValue | null> {
  const asked = keyOfRequest();
  if (asked === null || contexts.getStore()?.isUsed === true) return null;
  const sql = 'SELECT value FROM idempotency_key WHERE account_id = $1 AND key = $2 AND request = $3';
  return (await firstRow<{ value: KeptValue }>(manager, sql, [accountId, asked.key, asked.request]))?.value ?? null;
}

/** A transaction that went back has not used its key. */
export function freeKey(): void {
  const context = contexts.getStore();
  if (context !== undefined) context.isUsed = false;
}
