import { Injectable } from '@nestjs/common';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';

/** Mail about an engagement is part of its record; the rest goes after this time, and so do the bundled mailboxes' mails. */
const KEPT_DAYS = 180;

const OLD = [
  `DELETE FROM mail WHERE engagement_id IS NULL AND state <> 'waiting' AND created_at < $1::timestamptz - make_interval(days => ${KEPT_DAYS})`,
  `DELETE FROM caught_mail WHERE at < $1::timestamptz - make_interval(days => ${KEPT_DAYS})`,
];

/** Removes mail nobody needs any more. Doing it twice changes nothing. */
@Injectable()
export class PruneMail {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async run(): Promise<void> {
    for (const sql of OLD) await this.database.rows(sql, [this.clock.now()]);
  }
}
