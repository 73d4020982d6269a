import { Injectable } from '@nestjs/common';
import type { SessionData } from 'express-session';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';

/** So many wrong passwords cost no wait; from then on each doubles it. */
const FREE_TRIES = 5;
const LONGEST_WAIT_SECONDS = 900;
/** Somebody who mistypes once or twice need not be warned about it. */
const WORTH_TELLING = 3;

/**
 * A try is counted before its password is looked at, in one statement: sixty at once from sixty
 * addresses are sixty tries. It is refused without being counted while the address has to wait.
 */
const COUNT = `
  INSERT INTO sign_in_attempt AS t (email, wrong, since, until) VALUES ($1, 1, $4, now())
  ON CONFLICT (email) DO UPDATE SET wrong = t.wrong + 1,
    until = CASE WHEN t.wrong + 1 < $2 THEN now() ELSE now() + make_interval(secs => least($3, 2 ^ least(t.wrong + 1 - $2, 20))) END
  WHERE t.until <= now() RETURNING wrong`;
const WAIT = 'SELECT ceil(extract(epoch FROM until - now()))::int AS seconds FROM sign_in_attempt WHERE email = $1';
const GIVE_BACK = 'UPDATE sign_in_attempt SET wrong = greatest(0, wrong - 1), until = now() WHERE email = $1';
const FORGET = 'DELETE FROM sign_in_attempt WHERE email = $1 RETURNING wrong - 1 AS count, since';

/** Wrong passwords by address, over all processes and wherever they come from. */
@Injectable()
export class SignInAttempts {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** Counts a try; refuses it with `too-many-tries` while the address has to wait. */
  async count(email: string): Promise<void> {
    if ((await this.database.rows(COUNT, [email, FREE_TRIES, LONGEST_WAIT_SECONDS, this.clock.now()])).length > 0) return;
    const wait = Math.max(1, (await this.database.row<{ seconds: number }>(WAIT, [email]))?.seconds ?? 1);
    throw new Refusal('too-many-tries', `Too many wrong passwords for this address. Wait ${waitWords(wait)}, then try again.`, {
      field: 'password',
      details: { seconds: wait },
    });
  }

  /** The password was right, and another code is asked for: this try was not wrong, those before stay counted. */
  async giveBack(email: string): Promise<void> {
    await this.database.rows(GIVE_BACK, [email]);
  }

  /** The password was right: earlier tries are forgotten, and answered when the owner should know of them. */
  async forget(email: string): Promise<SessionData['wrongPasswords'] | undefined> {
    const tried = await this.database.row<{ count: number; since: Date }>(FORGET, [email]);
    return tried === null || tried.count < WORTH_TELLING ? undefined : { count: tried.count, since: tried.since.toISOString() };
  }
}

const waitWords = (seconds: number): string =>
  seconds < 60
    ? `${seconds} ${seconds === 1 ? 'second' : 'seconds'}`
    : `${Math.ceil(seconds / 60)} ${seconds <= 60 ? 'minute' : 'minutes'}`;
