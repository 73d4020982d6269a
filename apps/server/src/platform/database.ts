import { AsyncLocalStorage } from 'node:async_hooks';
import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import pg, { type Pool } from 'pg';
import { DataSource, type EntityManager, type QueryRunner } from 'typeorm';
import { isAbsence, isRace, refuseAbsence, refuseUnsure } from './database-faults.ts';
import { DoneBefore, freeKey, useKey, type KeepValue } from './request-context.ts';
import { NotItsTurn, HeldTurns, Turns, turnsOf } from './turns.ts';

// A calendar day stays the text it is; a Date would drag a time zone in.
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);

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
  const { rows, rowCount } = await way.query(prepared(sql, values)).catch(refuseAbsence);
  return { rows: rows as Row[], count: rowCount ?? 0 };
}

/** Rolls a transaction back; a connection that cannot even do that is closed, or the next user would continue in it. */
async function rollBack(runner: QueryRunner, error: unknown): Promise<void> {
  const close = (fault: unknown): Promise<void> =>
    (runner as unknown as { releasePostgresConnection(fault: unknown): Promise<void> }).releasePostgresConnection(fault);
  if (isAbsence(error)) return close(error);
  if (runner.isTransactionActive) await runner.rollbackTransaction().catch(close);
}

/** The connection a transaction runs on, or the pool outside of one. */
async function wayOf(manager: EntityManager): Promise<Way> {
  if (manager.queryRunner === undefined) return poolOf(manager.connection);
  return (await manager.queryRunner.connect()) as Way;
}

const poolOf = (source: DataSource): Pool => (source.driver as unknown as { readonly master: Pool }).master;

/** The transaction that everything done here and now is part of; see `Database.together`. */
const joined = new AsyncLocalStorage<{ readonly manager: EntityManager; isOver: boolean }>();

/** The transaction of `Database.together`, while it lasts; timers and other work started in it that run on are not part of it. */
function wholeTransaction(): EntityManager | null {
  const whole = joined.getStore();
  return whole === undefined || whole.isOver ? null : whole.manager;
}

/** A transaction that lost a race it could not foresee is run again this often in all. */
const TRIES = 4;

/** The two ways in: reading rows, and one transaction for everything a use case changes. */
@Injectable()
export class Database {
  private readonly source: DataSource;
  /** Who changes an engagement here and now; the others wait without holding a connection. */
  private readonly turns = new Turns();
  constructor(source: DataSource) {
    this.source = source;
  }

  /**
   * All or nothing. `work` may be run more than once: when it has to wait for its turn at an
   * engagement, and when the database ended it for a deadlock; so it must do nothing but read,
   * compute and write here. Sent again with the same key, it is not run: what it answered the
   * first time is the answer. Refuses with `unavailable` when the database cannot be had in time.
   */
  async transaction<Value>(work: (manager: EntityManager) => Promise<Value>): Promise<Value> {
    const whole = wholeTransaction();
    if (whole !== null) return work(whole);
    const turns = new HeldTurns(this.turns);
    try {
      for (let tries = 1; ;) {
        const ended = await this.once(work, turns);
        if (ended.kind === 'done') return ended.value;
        if (ended.error instanceof DoneBefore) return ended.error.value as Value;
        if (ended.error instanceof NotItsTurn) await turns.wait(ended.error.ids);
        else if (!isRace(ended.error) || tries++ === TRIES) throw ended.error;
      }
    } finally {
      turns.release();
    }
  }

  /**
   * One transaction for everything that is done in it, also by use cases that would open one of their own:
   * their reads and writes are part of this one, and go back with it.
   */
  together<Value>(work: (manager: EntityManager) => Promise<Value>): Promise<Value> {
    return this.transaction(async (manager) => {
      const whole = { manager, isOver: false };
      try {
        return await joined.run(whole, () => work(manager));
      } finally {
        whole.isOver = true;
      }
    });
  }

  /** For work that locks this engagement in one statement: waits for its turn first, and says whether it had to. */
  async inTurn<Value>(engagementId: string, work: (hasWaited: boolean) => Promise<Value>): Promise<Value> {
    const whole = wholeTransaction();
    if (whole !== null) {
      turnsOf(whole)?.take([engagementId]);
      return work(true);
    }
    const turns = new HeldTurns(this.turns);
    try {
      const isFree = turns.tryTake([engagementId]);
      if (!isFree) await turns.wait([engagementId]);
      return await work(!isFree);
    } finally {
      turns.release();
    }
  }

  private async once<Value>(
    work: (manager: EntityManager) => Promise<Value>,
    turns: HeldTurns,
  ): Promise<{ readonly kind: 'done'; readonly value: Value } | { readonly kind: 'failed'; readonly error: unknown }> {
    const runner = this.source.createQueryRunner();
    turns.attach(runner.manager);
    let keepValue: KeepValue | null = null;
    try {
      await runner.startTransaction().catch(refuseAbsence);
      keepValue = await useKey(runner.manager);
      const value = await work(runner.manager);
      await keepValue?.(value);
      await runner.commitTransaction().catch(refuseUnsure);
      return { kind: 'done', value };
    } catch (error) {
      if (keepValue !== null) freeKey();
      await rollBack(runner, error);
      return { kind: 'failed', error };
    } finally {
      await runner.release();
    }
  }

  /** Rows of a statement that stands alone. */
  async rows<Row>(sql: string, values: readonly unknown[] = []): Promise<Row[]> {
    return rowsOf<Row>(this.manager, sql, values);
  }

  /** The first row of a read, or null. */
  async row<Row>(sql: string, values: readonly unknown[] = []): Promise<Row | null> {
    return (await this.rows<Row>(sql, values))[0] ?? null;
  }

  /** For reads that share helpers with a transaction. */
  get manager(): EntityManager {
    return wholeTransaction() ?? this.source.manager;
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
