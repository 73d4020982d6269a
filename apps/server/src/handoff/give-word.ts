import { Injectable } from '@nestjs/common';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';

/** A person's word on a check of a gate. The other kinds of check are computed and take no word. */
@Injectable()
export class GiveWord {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  run(who: Who, checkId: string, isClear: boolean): Promise<void> {
    return this.database.transaction(async (manager) => {
      const sql = `SELECT k.kind, k.text, p.id AS "phaseId", e.id AS "engagementId" FROM gate_check k JOIN phase p ON p.id = k.phase_id
                   JOIN engagement e ON e.id = p.engagement_id WHERE k.id = $1 AND e.agency_id = $2`;
      type Row = { kind: string; text: string; phaseId: string; engagementId: string };
      const read = async (): Promise<Row> => requireFound(await firstRow<Row>(manager, sql, [checkId, who.agencyId]), 'check');
      await lockEngagements(manager, [(await read()).engagementId]);
      const check = await read();
      if (check.kind !== 'word')
        throw new Refusal('wrong-moment', `“${check.text}” clears by itself when the tasks are done. Finish those.`);
      const at = this.clock.now();
      await rowsOf(manager, 'UPDATE gate_check SET given_by_id = $2, given_at = $3 WHERE id = $1', [
        checkId,
        isClear ? who.personId : null,
        isClear ? at : null,
      ]);
      await record(manager, { actor: who, at }, [
        {
          kind: isClear ? 'gate-check-confirmed' : 'gate-check-withdrawn',
          ...{ engagementId: check.engagementId, subject: 'phase', subjectId: check.phaseId, payload: { checkId, text: check.text } },
        },
      ]);
    });
  }
}
