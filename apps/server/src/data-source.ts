import { DataSource, DefaultNamingStrategy, type DataSourceOptions } from 'typeorm';
import { areas } from './areas.ts';
import { migrations } from './migrations/index.ts';

/** Columns and keys in snake case; tables are named by their entity. */
class SnakeNaming extends DefaultNamingStrategy {
  override columnName(property: string, custom: string | undefined): string {
    return custom ?? snake(property);
  }
}

const snake = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/**
 * How long anything waits for the database, in milliseconds. After that the request is refused with
 * `unavailable` and its transaction rolled back.
 */
const PATIENCE = {
  /** For a free connection of the pool. */
  connection: 4000,
  /** For a row that somebody else has locked. */
  lock: 8000,
  /** For one statement. */
  statement: 10_000,
  /** For any answer at all, as when the database is frozen. */
  answer: 12_000,
  /** Of a transaction whose process does nothing any more. */
  idle: 60_000,
} as const;

/** How the migrations and the tests reach PostgreSQL: without limits. */
export function databaseOptions(url: string, poolSize = 10): DataSourceOptions {
  return {
    type: 'postgres',
    url,
    entities: areas.flatMap((area) => [...(area.entities ?? [])]),
    migrations,
    namingStrategy: new SnakeNaming(),
    synchronize: false,
    migrationsTransactionMode: 'each',
    poolSize,
    applicationName: 'nimble-crew',
    parseInt8: true,
    uuidExtension: 'pgcrypto',
    installExtensions: false,
  };
}

/** How the server reaches PostgreSQL: within `PATIENCE`. */
export function servingOptions(url: string): DataSourceOptions {
  return {
    ...databaseOptions(url),
    extra: {
      connectionTimeoutMillis: PATIENCE.connection,
      query_timeout: PATIENCE.answer,
      statement_timeout: PATIENCE.statement,
      lock_timeout: PATIENCE.lock,
      idle_in_transaction_session_timeout: PATIENCE.idle,
      keepAlive: true,
      // The data of an agency fits into memory: there a row by its index costs no more than the next one.
      options: '-c random_page_cost=1.1',
    },
    // Idle connections that break are replaced by the pool; whoever needs one is told.
    poolErrorHandler: () => undefined,
  } as DataSourceOptions;
}

const MIGRATION_LOCK = 724_101;

/** Brings the schema up to date; several processes may start at once, one migrates. */
export async function migrate(url: string): Promise<void> {
  const source = await new DataSource(databaseOptions(url, 2)).initialize();
  const runner = source.createQueryRunner();
  try {
    await runner.query('SELECT pg_advisory_lock($1)', [MIGRATION_LOCK]);
    await source.runMigrations();
  } finally {
    await runner.query('SELECT pg_advisory_unlock($1)', [MIGRATION_LOCK]);
    await runner.release();
    await source.destroy();
  }
}
