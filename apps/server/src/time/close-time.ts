import type { IsoDay } from '@crew/core';
import { Injectable } from '@nestjs/common';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { holdTimeBook, lockAgency } from '../platform/locks.ts';
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

  run(who: Who, through: IsoDay | null): Promise<void> {
    if (through !== null && through >= this.clock.today())
      throw new Refusal('invalid-day', 'Only days that are over can be closed. Choose yesterday or earlier.', { field: 'through' });
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      await holdTimeBook(manager, who.agencyId, { isClosing: true });
      const before = await closedThrough(manager, who.agencyId);
      if (before === through) return;
      await rowsOf(manager, 'UPDATE agency SET time_closed_through = $2 WHERE id = $1', [who.agencyId, through]);
      await record(manager, { actor: who, at: this.clock.now() }, [
        {
          ...{ kind: 'time-closed', engagementId: null, subject: 'agency', subjectId: who.agencyId },
          changes: [{ field: 'through', from: before, to: through }],
        },
      ]);
    });
  }
}
