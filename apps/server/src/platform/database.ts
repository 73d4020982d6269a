import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import pg, { type Pool } from 'pg';
import { DataSource, DefaultNamingStrategy, type DataSourceOptions, type EntityManager } from 'typeorm';
import { entities } from '../entities.ts';
import { migrations } from '../migrations/index.ts';

// A calendar day stays the text it is; a Date would drag a time zone in.
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);

/** Columns and keys in snake case; tables are named by their entity. */
class SnakeNaming extends DefaultNamingStrategy {
  override columnName(property: string, custom: string | undefined): string {
    return custom ?? snake(property);
  }
}

const snake = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/** How the server, the migrations and the tests reach PostgreSQL. */
export function databaseOptions(url: string, poolSize = 10): DataSourceOptions {
  return {
    type: 'postgres',
    url,
    entities,
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

const MIGRATION_LOCK = 724_101;

/** Brings the schema up to date; several processes may start at once, one migrates. */
export async function migrate(source: DataSource): Promise<void> {
  const runner = source.createQueryRunner();
  try {
    await runner.query('SELECT pg_advisory_lock($1)', [MIGRATION_LOCK]);
    await source.runMigrations();
  } finally {
    await runner.query('SELECT pg_advisory_unlock($1)', [MIGRATION_LOCK]);
    await runner.release();
  }
}

/** What a use case may read and write through: the pool, or the connection of a transaction. */
type Way = Pick<Pool, 'query'>;

const names = new Map<string, string>();

/** A statement is planned once per connection and found again by a name made from its text. */
function prepared(sql: string, values: readonly unknown[]): { name: string; text: string; values: unknown[] } {
  let name = names.get(sql);
  if (name === undefined) names.set(sql, (name = createHash('sha256').update(sql).digest('base64url').slice(0, 40)));
  return { name, text: sql, values: [...values] };
}

async function run<Row>(way: Way, sql: string, values: readonly unknown[]): Promise<{ rows: Row[]; count: number }> {
  const { rows, rowCount } = await way.query(prepared(sql, values));
  return { rows: rows as Row[], count: rowCount ?? 0 };
}

/** The connection a transaction runs on, or the pool outside of one. */
async function wayOf(manager: EntityManager): Promise<Way> {
  if (manager.queryRunner === undefined) return poolOf(manager.connection);
  return (await manager.queryRunner.connect()) as Way;
}

const poolOf = (source: DataSource): Pool => (source.driver as unknown as { readonly master: Pool }).master;

/** The two ways in: reading rows, and one transaction for everything a use case changes. */
@Injectable()
export class Database {
  private readonly source: DataSource;
  constructor(source: DataSource) {
    this.source = source;
  }

  /** All or nothing. */
  transaction<Value>(work: (manager: EntityManager) => Promise<Value>): Promise<Value> {
    return this.source.transaction(work);
  }

  /** Rows of a statement that stands alone. */
  async rows<Row>(sql: string, values: readonly unknown[] = []): Promise<Row[]> {
    return (await run<Row>(poolOf(this.source), sql, values)).rows;
  }

  /** The first row of a read, or null. */
  async row<Row>(sql: string, values: readonly unknown[] = []): Promise<Row | null> {
    return (await this.rows<Row>(sql, values))[0] ?? null;
  }

  /** For reads that share helpers with a transaction. */
  get manager(): EntityManager {
    return this.source.manager;
  }
}

/** Rows of a statement inside a transaction. */
export async function rowsOf<Row>(manager: EntityManager, sql: string, values: readonly unknown[] = []): Promise<Row[]> {
  return (await run<Row>(await wayOf(manager), sql, values)).rows;
}

/** The first row of a read inside a transaction, or null. */
export async function firstRow<Row>(manager: EntityManager, sql: string, values: readonly unknown[]): Promise<Row | null> {
  return (await rowsOf<Row>(manager, sql, values))[0] ?? null;
}

/** Runs a change and says how many rows it touched; none of a versioned row means somebody was faster. */
export async function affectedRows(manager: EntityManager, sql: string, values: readonly unknown[]): Promise<number> {
  return (await run(await wayOf(manager), sql, values)).count;
}
