import type { EntityManager } from 'typeorm';
import type { Database } from './database.ts';

/** Ends a trial: the transaction goes back, the answer is kept. */
class RolledBack extends Error {}

const trials = new WeakSet<EntityManager>();

/** Whether what a transaction does will be taken back: then it keeps no history and announces nothing. */
export const isTrial = (manager: EntityManager): boolean => trials.has(manager);

/** Does some work in a transaction, answers what came of it, and takes all of it back: a preview that cannot differ from the deed. */
export async function tryOut<Outcome>(database: Database, work: (manager: EntityManager) => Promise<Outcome>): Promise<Outcome> {
  const seen: { outcome?: Outcome } = {};
  await database
    .transaction(async (manager) => {
      trials.add(manager);
      seen.outcome = await work(manager);
      throw new RolledBack();
    })
    .catch((error: unknown) => {
      if (!(error instanceof RolledBack)) throw error;
    });
  return seen.outcome as Outcome;
}
