import { Injectable } from '@nestjs/common';
import { of } from '@crew/contract';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import { requireCan, type Who } from '../platform/rights.ts';
import { refuseAtRest } from '../engagement/refuse-at-rest.ts';
import { HandoffRepository } from './handoff.repository.ts';

/** Confirms a check of a gate that a person has to confirm. The other kinds of checks are computed and cannot be confirmed. */
@Injectable()
export class GiveWord {
  private readonly database: Database;
  private readonly handoffs: HandoffRepository;
  private readonly clock: Clock;
  constructor(database: Database, handoffs: HandoffRepository, clock: Clock) {
    this.database = database;
    this.handoffs = handoffs;
    this.clock = clock;
  }

  run(who: Who, checkId: string, isClear: boolean): Promise<void> {
    return this.database.transaction(async (manager) => {
      const sql = `SELECT k.kind, k.text, p.id AS "phaseId", e.id AS "engagementId",
                     (SELECT h.id FROM handoff h WHERE h.from_phase_id = p.id ORDER BY h.state = 'picked-up' LIMIT 1) AS "handoffId"
                   FROM gate_check k JOIN phase p ON p.id = k.phase_id JOIN engagement e ON e.id = p.engagement_id WHERE k.id = $1 AND e.agency_id = $2`;
      type Row = { kind: string; text: string; phaseId: string; engagementId: string; handoffId: string };
      const read = async (): Promise<Row> => requireFound(await firstRow<Row>(manager, sql, [checkId, who.agencyId]), 'check');
      await lockEngagements(manager, [(await read()).engagementId]);
      const check = await read();
      await refuseAtRest(manager, [check.engagementId]);
      const handoff = { id: check.handoffId, today: this.clock.today() };
      const { row } = requireFound(await this.handoffs.find(manager, who, handoff), 'check');
      requireCan(who, 'handoff.hand-off', {
        subject: of(row.giver?.id),
        words: 'Only who hands it off or the crew of the agency can confirm this.',
      });
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
