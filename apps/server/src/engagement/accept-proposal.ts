import { Injectable } from '@nestjs/common';
import type { ChangeMade } from '@crew/contract';
import { changeIdOf, record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';

/** Mark as accepted: a proposal becomes open work and counts in full. */
@Injectable()
export class AcceptProposal {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** Answers the id that undoes it. */
  run(who: Who, engagementId: string): Promise<ChangeMade> {
    return this.database.transaction(async (manager) => {
      await lockEngagements(manager, [engagementId]);
      const sql = 'SELECT state, likelihood FROM engagement WHERE id = $1 AND agency_id = $2';
      type Row = { state: string; likelihood: number };
      const engagement = requireFound(await firstRow<Row>(manager, sql, [engagementId, who.agencyId]), 'engagement');
      if (engagement.state !== 'proposal')
        throw new Refusal('wrong-moment', 'This is no longer a proposal. Reload to see where it stands.');
      await rowsOf(manager, `UPDATE engagement SET state = 'open', likelihood = 100, version = version + 1 WHERE id = $1`, [engagementId]);
      await record(manager, { actor: who, at: this.clock.now() }, [
        {
          ...{ kind: 'engagement-accepted', engagementId, subject: 'engagement', subjectId: engagementId },
          changes: [
            { field: 'state', from: 'proposal', to: 'open' },
            ...(engagement.likelihood === 100 ? [] : [{ field: 'likelihood', from: engagement.likelihood, to: 100 }]),
          ],
        },
      ]);
      return { changeId: changeIdOf(manager) };
    });
  }
}
