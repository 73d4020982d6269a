import type { EntityManager } from 'typeorm';
import { rowsOf } from './database.ts';
import { turnsOf } from './turns.ts';

/**
 * What is locked, in the one order in which everybody locks. Phases, gates, handoffs, dependencies and
 * assignments have no lock of their own: whoever changes them has their engagement.
 */
const ORDER = ['agency', 'engagement_series', 'template', 'custom_field', 'engagement', 'task', 'person'] as const;
type Locked = (typeof ORDER)[number];

/**
 * `change` is what an update of a row takes anyway: rows that refer to it (a file, a time
 * entry, an event) can still be added meanwhile. `remove` keeps those out too. `keep` only
 * holds off that the row is removed.
 */
export type LockFor = 'change' | 'remove' | 'keep';
const STRENGTH: Readonly<Record<LockFor, string>> = { change: 'NO KEY UPDATE', remove: 'UPDATE', keep: 'KEY SHARE' };

/** What a transaction has locked, and the furthest it has come in the order. */
interface Held {
  rank: number;
  /** By table, id and purpose. */
  readonly rows: Set<string>;
  readonly engagements: Set<string>;
}
const helds = new WeakMap<EntityManager, Held>();

function heldBy(manager: EntityManager): Held {
  const held = helds.get(manager) ?? { rank: 0, rows: new Set<string>(), engagements: new Set<string>() };
  helds.set(manager, held);
  return held;
}

interface Wanted {
  readonly ids: readonly string[];
  readonly purpose: LockFor;
}

/**
 * Locks rows until the transaction ends, by id, and answers the ids of those that are there;
 * what is held already is left alone. A lock against the order is a fault of the program and
 * throws: two such would wait for each other for ever.
 */
async function lock(manager: EntityManager, table: Locked, { ids, purpose }: Wanted): Promise<string[]> {
  const held = heldBy(manager);
  const nameOf = (id: string): string => `${table} ${id} ${purpose}`;
  const wanted = [...new Set(ids)].filter((id) => !held.rows.has(nameOf(id)));
  if (wanted.length > 0) {
    const rank = ORDER.indexOf(table);
    // Tasks of one engagement after people of another are no ring: the engagements are held.
    if (rank < held.rank && table !== 'task') throw new Error(`${table} is locked after ${ORDER[held.rank]}: see the order in locks.ts`);
    held.rank = Math.max(held.rank, rank);
    const sql = `SELECT id FROM ${table} WHERE id = ANY($1::uuid[]) ORDER BY id FOR ${STRENGTH[purpose]}`;
    for (const { id } of await rowsOf<{ id: string }>(manager, sql, [wanted])) held.rows.add(nameOf(id));
  }
  return ids.filter((id) => held.rows.has(nameOf(id)));
}

/** Locks the agency: its calendar, its closing of time, who owns it. */
export const lockAgency = (manager: EntityManager, agencyId: string): Promise<string[]> =>
  lock(manager, 'agency', { ids: [agencyId], purpose: 'change' });

/** Locks a row of the agency's own making. Answers whether it is there. */
export const lockKept = async (
  manager: EntityManager,
  table: 'engagement_series' | 'template' | 'custom_field',
  id: string,
): Promise<boolean> => (await lock(manager, table, { ids: [id], purpose: 'change' })).length > 0;

/**
 * Locks engagements, and with them their whole plans. Name all that will be needed at once:
 * one that comes before one that is held already would be against the order. In this process
 * each has one turn (see `turns.ts`). Answers the ids of those that are there.
 */
export async function lockEngagements(manager: EntityManager, ids: readonly string[], purpose: LockFor = 'change'): Promise<string[]> {
  const { engagements } = heldBy(manager);
  const wanted = [...new Set(ids)].filter((id) => purpose === 'remove' || !engagements.has(id)).sort();
  const first = wanted.find((id) => !engagements.has(id));
  if (first !== undefined && [...engagements].some((id) => id > first))
    throw new Error('engagements are locked out of order: name them all at once');
  turnsOf(manager)?.take(wanted);
  for (const id of await lock(manager, 'engagement', { ids: wanted, purpose })) engagements.add(id);
  return ids.filter((id) => engagements.has(id));
}

/**
 * Holds off that engagements are removed, for what is written about many of them at once. It waits for nobody:
 * answers the ids of those that nobody is removing at this moment.
 */
export async function holdEngagements(manager: EntityManager, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const sql = 'SELECT id FROM engagement WHERE id = ANY($1::uuid[]) ORDER BY id FOR KEY SHARE SKIP LOCKED';
  return new Set((await rowsOf<{ id: string }>(manager, sql, [[...new Set(ids)]])).map(({ id }) => id));
}

/** Locks tasks of engagements that are locked, or one that only has to stay (`keep`). Answers the ids of those that are there. */
export const lockTasks = (manager: EntityManager, ids: readonly string[], purpose: LockFor = 'change'): Promise<string[]> =>
  lock(manager, 'task', { ids, purpose });

/** Locks people: their timer, their day's 24 hours, the places of their week. Last in the order. */
export const lockPeople = (manager: EntityManager, ids: readonly string[]): Promise<string[]> =>
  lock(manager, 'person', { ids, purpose: 'change' });

/** Logging time and closing time wait for each other, and logging does not wait for logging. */
export const holdTimeBook = (manager: EntityManager, agencyId: string, { isClosing }: { readonly isClosing: boolean }): Promise<unknown> =>
  rowsOf(manager, `SELECT pg_advisory_xact_lock${isClosing ? '' : '_shared'}(hashtextextended('time ' || $1, 0))`, [agencyId]);
