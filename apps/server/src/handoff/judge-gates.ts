import { Injectable } from '@nestjs/common';
import { isGateClear } from '@crew/core';
import { GATE_EVENTS, type EventKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import type { Follower, PendingEvent } from '../platform/area.ts';
import { rowsOf } from '../platform/database.ts';
import { gateOf, judgeGate, type GateRow } from './gate-facts.ts';

/**
 * Gates of phases that run, in engagements that events $1 belong to, with the last of those events. A handoff
 * that somebody changes at this moment is left to the event of that change.
 */
const GATES = `
  SELECT h.id, h.engagement_id AS "engagementId", h.clear_since IS NOT NULL AS "wasClear", ${gateOf('f')} AS gate,
    cause.id::text AS "causeId", cause.at, cause.run_id AS "runId"
  FROM handoff h JOIN phase f ON f.id = h.from_phase_id
  JOIN (SELECT DISTINCT ON (v.engagement_id) v.engagement_id, v.id, v.at, v.run_id FROM event v WHERE v.id = ANY($1::bigint[]) ORDER BY v.engagement_id, v.id DESC) cause
    ON cause.engagement_id = h.engagement_id
  WHERE f.state = 'running' AND h.state IN ('getting-ready', 'sent-back') ORDER BY h.id FOR NO KEY UPDATE OF h SKIP LOCKED`;

interface Judged {
  readonly id: string;
  readonly engagementId: string;
  readonly wasClear: boolean;
  readonly gate: GateRow;
  readonly causeId: string;
  readonly at: Date;
  readonly runId: string | null;
}

const JUDGED: ReadonlySet<EventKind> = new Set(GATE_EVENTS);

/**
 * Follows events that may have cleared the gate of a phase, and records the moment at which it became
 * clear: rules wait for that. A gate without checks is always clear and never becomes so.
 */
@Injectable()
export class JudgeGates implements Follower {
  async follow(manager: EntityManager, events: readonly PendingEvent[]): Promise<void> {
    const ids = events.filter(({ kind }) => JUDGED.has(kind)).map(({ id }) => id);
    const gates = await rowsOf<Judged>(manager, GATES, [ids]);
    const isClear = ({ gate }: Judged): boolean => gate.checks.length > 0 && isGateClear(judgeGate(gate));
    const cleared = gates.filter((one) => isClear(one) && !one.wasClear);
    const closed = gates.filter((one) => !isClear(one) && one.wasClear).map(({ id }) => id);
    if (closed.length > 0)
      await rowsOf(manager, `UPDATE handoff SET clear_since = NULL, ready_for_ids = '{}' WHERE id = ANY($1::uuid[])`, [closed]);
    for (const { id, engagementId, causeId, at, runId } of cleared) {
      await rowsOf(manager, 'UPDATE handoff SET clear_since = $2 WHERE id = $1', [id, at]);
      await record(manager, { actor: { job: 'gate' }, at, causeId, runId }, [
        { kind: 'gate-cleared', engagementId, subject: 'handoff', subjectId: id },
      ]);
    }
  }
}
