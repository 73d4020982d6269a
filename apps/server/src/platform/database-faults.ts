import pg from 'pg';

/** The database could not be had: it is away, frozen, or had no connection or time left. Nothing was saved. */
export class DatabaseAbsent extends Error {}

/** The line broke while the transaction was being committed: nobody knows whether it was. */
export class CommitUnsure extends DatabaseAbsent {}

/** What was read before the locks is not what is there under them: the transaction is run again. */
export class DoAgain extends Error {}

/** The driver's own error, or the one the mapper wraps around it. */
export const driverErrorOf = (error: unknown): unknown => (error as { driverError?: unknown } | null)?.driverError ?? error;

/** PostgreSQL's SQLSTATE of an error, or an empty text. */
export function sqlStateOf(error: unknown): string {
  const driver = driverErrorOf(error);
  return driver instanceof pg.DatabaseError ? (driver.code ?? '') : '';
}

/** Connection exceptions, operator intervention (shutdown, crash), and too many connections. */
const ABSENT = /^(08|57P|53)/;

/**
 * For the `catch` of a statement: what the database itself says of a statement goes on as it
 * is; what means that it was not there becomes `DatabaseAbsent`.
 */
export function refuseAbsence(error: unknown): never {
  const state = sqlStateOf(error);
  if (error instanceof DatabaseAbsent || (state !== '' && !ABSENT.test(state))) throw error;
  throw new DatabaseAbsent(error instanceof Error ? error.message : String(error), { cause: error });
}

/** As `refuseAbsence`, for the `catch` of a commit. */
export function refuseUnsure(error: unknown): never {
  try {
    return refuseAbsence(error);
  } catch (refused) {
    if (refused instanceof DatabaseAbsent) throw new CommitUnsure(refused.message, { cause: error });
    throw refused;
  }
}

/** Whether an error means that the connection is of no use any more; also for statements of the mapper, which do not pass `refuseAbsence`. */
export function isAbsence(error: unknown): boolean {
  if (error instanceof DatabaseAbsent || ABSENT.test(sqlStateOf(error))) return true;
  const driver = (error as { driverError?: unknown } | null)?.driverError;
  return driver !== undefined && !(driver instanceof pg.DatabaseError);
}

/** A deadlock or a serialisation failure: the same work, done again, can succeed. */
export const isRace = (error: unknown): boolean => error instanceof DoAgain || ['40P01', '40001'].includes(sqlStateOf(error));

/** It took longer than anybody waits: a lock (55P03) or a statement (57014). */
export const isTooSlow = (error: unknown): boolean => ['55P03', '57014'].includes(sqlStateOf(error));
