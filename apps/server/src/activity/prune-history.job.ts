import { Injectable } from '@nestjs/common';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';

/** Few enough that nobody waits long for the rows they lock. */
const AT_ONCE = 5000;

/** The history of open engagements is kept whole. */
const ENDED = `
  DELETE FROM event WHERE id IN (
    SELECT v.id FROM event v JOIN agency y ON y.id = v.agency_id LEFT JOIN engagement e ON e.id = v.engagement_id
    WHERE v.at < $1::timestamptz - make_interval(months => y.history_months) AND (e.id IS NULL OR e.state NOT IN ('proposal', 'open'))
    ORDER BY v.id LIMIT ${AT_ONCE}) RETURNING id`;

/** Removes what is older than an agency keeps its history, but for engagements that are open. Doing it twice changes nothing. */
@Injectable()
export class PruneHistoryJob {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async run(): Promise<void> {
    let removed = AT_ONCE;
    while (removed === AT_ONCE) removed = (await this.database.rows(ENDED, [this.clock.now()])).length;
  }
}
