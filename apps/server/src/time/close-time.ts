import { Injectable } from '@nestjs/common';
import { recordEvent } from '../event/record-event.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { holdTimeBook } from '../platform/locks.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { closedThrough } from './closed-time.ts';

/** Closes the agency's time through a day, or opens it again; each is kept with who and when. */
@Injectable()
export class CloseTimePeriod {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  run(who: Who, through: string | null): Promise<void> {
    if (through !== null && through >= this.clock.today())
      throw new Refusal('invalid-day', 'Only days that are over can be closed. Choose yesterday or earlier.', { field: 'through' });
    return this.database.transaction(async (manager) => {
      await holdTimeBook(manager, who.agencyId, { isClosing: true });
      const before = await closedThrough(manager, who.agencyId);
      if (before === through) return;
      await rowsOf(manager, 'INSERT INTO time_closing (agency_id, through_day, account_id, at) VALUES ($1, $2, $3, $4)', [
        ...[who.agencyId, through, who.accountId, this.clock.now()],
      ]);
      const changes = [{ field: 'through', from: before, to: through }];
      const happening = { engagementId: null, subject: 'time', subjectId: who.agencyId, kind: 'time-closed', changes } as const;
      await recordEvent(manager, { who, at: this.clock.now() }, happening);
    });
  }
}
