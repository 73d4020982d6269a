import { Injectable } from '@nestjs/common';
import { Database } from '../platform/database.ts';

/** What has served its time: sessions that have ended, keys nobody sends again, wrong passwords long forgotten, workers long gone. */
const ENDED = [
  'DELETE FROM session WHERE expire < now()',
  `DELETE FROM idempotency_key WHERE at < now() - interval '1 day'`,
  `DELETE FROM sign_in_attempt WHERE until < now() - interval '90 days'`,
  `DELETE FROM security_event WHERE at < now() - interval '24 months'`,
  `DELETE FROM access_link WHERE expires_at < now() - interval '90 days'`,
  `DELETE FROM webhook_delivery WHERE state <> 'waiting' AND created_at < now() - interval '60 days'`,
  `DELETE FROM worker_heartbeat WHERE at < now() - interval '1 hour'`,
];

/** Removes what is kept for a time only. Doing it twice changes nothing. */
@Injectable()
export class PruneJob {
  private readonly database: Database;
  constructor(database: Database) {
    this.database = database;
  }

  async run(): Promise<void> {
    for (const sql of ENDED) await this.database.rows(sql);
  }
}
