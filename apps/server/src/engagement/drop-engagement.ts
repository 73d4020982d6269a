import { Injectable } from '@nestjs/common';
import type { DropEngagement as Input } from '@crew/contract';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import type { EntityManager } from 'typeorm';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { lockVersion } from './edit-engagement.ts';

/** Closes an engagement without finishing it (not a fit, or the client said no), and reopens it. Nothing of it is lost. */
@Injectable()
export class DropEngagement {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** From now on nothing of it counts in anybody's load. Answers its version. */
  drop(who: Who, id: string, { version, reason, ending }: Input): Promise<{ readonly version: number }> {
    return this.turn(who, { id, version, closing: { reason: reason.trim(), ending: ending ?? null } });
  }

  /** As it was: a proposal as likely as before, or open work. What was completed runs again in its last phase. */
  reopen(who: Who, id: string, version: number): Promise<{ readonly version: number }> {
    return this.turn(who, { id, version, closing: null });
  }

  private turn(who: Who, { id, version, closing }: Turn): Promise<{ readonly version: number }> {
    return this.database.transaction(async (manager) => {
      const { state, name, likelihood } = await lockVersion(manager, who, { id, version });
      const isRunning = state === 'proposal' || state === 'open';
      if (closing !== null && !isRunning) throw new Refusal('wrong-moment', `“${name}” is over already. There is nothing to close.`);
      if (closing === null && isRunning) throw new Refusal('wrong-moment', `“${name}” is not closed. It is still running.`);
      if (closing !== null && closing.ending !== null) await refuseUnknownEnding(manager, id, closing.ending);
      const next = closing !== null ? 'dropped' : likelihood < 100 ? 'proposal' : 'open';
      const today = this.clock.today();
      const closed = closing === null ? [null, null, null] : [today, closing.reason, closing.ending];
      const sql = `UPDATE engagement SET state = $2, closed_on = $3, closed_reason = $4, closed_ending = $5, version = version + 1 WHERE id = $1`;
      await rowsOf(manager, sql, [id, next, ...closed]);
      const by = { actor: who, at: this.clock.now() };
      const reopened = state === 'finished' ? await reopenLastPhases(manager, id) : [];
      await refreshEngagement(manager, id, { today, by, changed: [] });
      const about = { engagementId: id, subject: 'engagement', subjectId: id } as const;
      const changes = [{ field: 'state', from: state, to: next }];
      await record(manager, by, [
        closing === null
          ? { ...about, changes, kind: 'engagement-reopened' }
          : { ...about, changes, kind: 'engagement-closed', payload: closing },
        ...reopened.map((phase) => ({ kind: 'phase-reopened', engagementId: id, subject: 'phase', subjectId: phase.id }) as const),
      ]);
      return { version: version + 1 };
    });
  }
}

interface Turn {
  readonly id: string;
  readonly version: number;
  /** How it ends; null to reopen it. */
  readonly closing: { readonly reason: string; readonly ending: string | null } | null;
}

async function refuseUnknownEnding(manager: EntityManager, id: string, ending: string): Promise<void> {
  const sql = `SELECT 1 FROM task t CROSS JOIN LATERAL jsonb_array_elements(t.ways) w WHERE t.engagement_id = $1 AND w->>'ending' = $2 LIMIT 1`;
  if ((await firstRow(manager, sql, [id, ending])) === null)
    throw new Refusal('unknown-id', `The process map of this engagement has no ending “${ending}”. Leave it out, or choose one it has.`, {
      field: 'ending',
    });
}

/** A completed engagement goes on where it ended: its last phases run again, and have not been handed off. */
async function reopenLastPhases(manager: EntityManager, id: string): Promise<readonly { readonly id: string }[]> {
  const reopened = await rowsOf<{ id: string }>(
    manager,
    `UPDATE phase p SET state = 'running', finished_on = NULL WHERE p.engagement_id = $1 AND p.state = 'over'
       AND p.finished_on = (SELECT max(q.finished_on) FROM phase q WHERE q.engagement_id = $1) RETURNING p.id`,
    [id],
  );
  await rowsOf(
    manager,
    `UPDATE handoff SET state = 'getting-ready', giver_id = NULL, receiver_id = NULL, words = '', reason = NULL, question = NULL, since = NULL, version = version + 1
     WHERE from_phase_id = ANY($1)
       AND (to_phase_id IS NULL OR EXISTS (SELECT 1 FROM phase next WHERE next.id = handoff.to_phase_id AND next.state = 'ahead'))`,
    [reopened.map((phase) => phase.id)],
  );
  return reopened;
}
