import { Injectable } from '@nestjs/common';
import {
  can,
  of,
  reachOf,
  TURN_EVENTS,
  type GateCheckView,
  type HandoffBoard,
  type HandoffLine,
  type HandoffSheet,
  type HandoffState,
  type HandoffTurn,
  type PhaseState,
  type TaskStatus,
  type WayOut,
} from '@crew/contract';
import type { IsoDay } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { canUndoBatch, undoableBy } from '../activity/undoable.ts';
import { Database, firstRow } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import type { Who } from '../platform/rights.ts';
import { assigneesOf, ENGAGEMENT, handoffsWaitingFor, holdsRole, PERSON_OR_NULL, standInFor, WAYS_OF_TASK } from '../platform/sql-words.ts';
import { handoffSeenBy } from '../platform/visible.ts';
import { batonOf } from './baton.ts';
import type { KeptPacket } from './handoff.entity.ts';
import { gateOf, judgeGate, type CheckRow, type GateRow } from './gate-facts.ts';
import { ReadSpeed } from './read-speed.ts';

/** The tasks of the phase a handoff closes. */
const TASKS_OF_PHASE = `coalesce((SELECT json_agg(json_build_object('id', t.id, 'number', t.number, 'title', t.title, 'status', t.status, 'kind', t.kind,
      'finish', t.done_on, 'who', ${assigneesOf('t', 'q.name')}) ORDER BY t.position, t.number)
    FROM task t WHERE t.phase_id = f.id AND NOT t.is_group AND t.status <> 'dropped' AND (t.series_id IS NULL OR t.status = 'done')), '[]')`;

/** A handoff with its gate's checks. */
const LINE_COLUMNS = `
  SELECT h.id, h.version, h.state, h.since, h.question, h.words, h.reason, f.state AS "fromState",
    ${ENGAGEMENT} AS engagement,
    json_build_object('id', f.id, 'name', f.name, 'finish', coalesce(f.finished_on, f.planned_finish)) AS "from",
    CASE WHEN n.id IS NULL THEN NULL ELSE json_build_object('id', n.id, 'name', n.name) END AS "to",
    r.name AS "toRole", coalesce(${PERSON_OR_NULL('g')}, ${PERSON_OR_NULL('o')}, ${PERSON_OR_NULL('l')}) AS giver, coalesce(${PERSON_OR_NULL('v')}, ${PERSON_OR_NULL('d')}) AS receiver, ${PERSON_OR_NULL('i')} AS "standIn",
    ${gateOf('f')} AS gate`;

/** What a line is read from, as of a day given as SQL. */
const lineTables = (day: string): string => `
  FROM handoff h
  JOIN phase f ON f.id = h.from_phase_id
  JOIN engagement e ON e.id = h.engagement_id
  JOIN client c ON c.id = e.client_id
  JOIN person l ON l.id = e.lead_id
  LEFT JOIN phase n ON n.id = h.to_phase_id
  LEFT JOIN role r ON r.id = n.role_id
  LEFT JOIN person g ON g.id = h.giver_id
  LEFT JOIN person v ON v.id = h.receiver_id
  LEFT JOIN person i ON h.state = 'handed-off' AND i.id <> h.receiver_id AND i.id = ${standInFor('h.receiver_id', { otherwise: 'e.lead_id', day })}
  LEFT JOIN engagement_role er ON er.engagement_id = e.id AND er.role_id = n.role_id AND ${holdsRole('er.person_id', 'er.role_id')}
  LEFT JOIN engagement_role eo ON eo.engagement_id = e.id AND eo.role_id = f.role_id AND ${holdsRole('eo.person_id', 'eo.role_id')}
  LEFT JOIN person o ON o.id = eo.person_id
  LEFT JOIN person d ON d.id = CASE WHEN n.id IS NULL THEN e.lead_id ELSE er.person_id END`;

const line = (day: string): string => `${LINE_COLUMNS} ${lineTables(day)}`;
/** With the tasks of the phase it closes, as a sheet shows them. */
const whole = (day: string): string => `${LINE_COLUMNS}, h.packet, ${TASKS_OF_PHASE} AS tasks ${lineTables(day)}`;

interface LineRow {
  readonly id: string;
  readonly version: number;
  readonly state: HandoffState;
  readonly since: Date | null;
  readonly question: string | null;
  readonly words: string;
  readonly reason: string | null;
  readonly fromState: PhaseState;
  readonly engagement: HandoffLine['engagement'];
  readonly from: HandoffLine['from'];
  readonly to: HandoffLine['to'];
  readonly toRole: string | null;
  readonly giver: HandoffLine['giver'];
  readonly receiver: HandoffLine['receiver'];
  readonly standIn: HandoffLine['standIn'];
  readonly gate: GateRow;
}

/** One handoff with the tasks of the phase it closes. */
interface WholeRow extends LineRow {
  readonly packet: KeptPacket | null;
  readonly tasks: readonly {
    readonly id: string;
    readonly number: number;
    readonly title: string;
    readonly status: TaskStatus;
    readonly kind: string;
    readonly finish: IsoDay | null;
    readonly who: readonly string[];
  }[];
}

/** A handoff as a change to it needs it. */
export interface HandoffFacts {
  readonly line: HandoffLine;
  readonly gate: readonly GateCheckView[];
  readonly row: WholeRow;
}

/** Who can receive a handoff: somebody active with a sign-in, who could pick it up. */
export const mayReceive = (person: string): string =>
  `(${person}.is_active AND EXISTS (SELECT 1 FROM account own WHERE own.person_id = ${person}.id))`;

@Injectable()
export class HandoffRepository {
  private readonly database: Database;
  private readonly speed: ReadSpeed;
  constructor(database: Database, speed: ReadSpeed) {
    this.database = database;
    this.speed = speed;
  }

  /** Handoffs in flight and those getting ready, with how fast the crew picks up. */
  async readBoard(who: Who, today: IsoDay): Promise<HandoffBoard> {
    const seen = handoffSeenBy(who, 2);
    const rows = await this.database.rows<LineRow>(
      `${line('$1::date')} WHERE ${seen.sql} AND e.state IN ('proposal', 'open') AND h.state <> 'picked-up'
         AND (h.state IN ('handed-off', 'sent-back') OR (h.state = 'getting-ready' AND f.state = 'running' AND f.planned_finish <= $1::date + 14))
       ORDER BY h.since, f.planned_finish, e.name`,
      [today, ...seen.values],
    );
    // Usual times are left out for somebody who sees only their own handoffs.
    const isOwn = reachOf(who, 'handoff.read') === 'own';
    const none = { thisMonth: null, lastMonth: null };
    const pickUpMinutes = isOwn ? none : await this.speed.pickUp(who.agencyId);
    return { lines: rows.map((row) => toFacts(row, who, today).line), pickUpMinutes };
  }

  /** What waits for one person: to pick up, or to answer. */
  async listFor(who: Who, personId: string, today: IsoDay): Promise<HandoffLine[]> {
    const rows = await this.database.rows<LineRow>(
      `${line('$3::date')} WHERE e.agency_id = $1 AND e.state IN ('proposal', 'open') AND h.id IN (${handoffsWaitingFor('$2', '$3::date')}) ORDER BY h.since`,
      [who.agencyId, personId, today],
    );
    return rows.map((row) => toFacts(row, who, today).line);
  }

  /** One handoff, or null when it may not be seen. */
  async find(manager: EntityManager, who: Who, handoff: { readonly id: string; readonly today: IsoDay }): Promise<HandoffFacts | null> {
    const seen = handoffSeenBy(who, 3);
    const row = await firstRow<WholeRow>(manager, `${whole('$2::date')} WHERE h.id = $1 AND ${seen.sql}`, [
      handoff.id,
      handoff.today,
      ...seen.values,
    ]);
    return row === null ? null : { ...toFacts(row, who, handoff.today), row };
  }

  /** As `find`, with its engagement locked until the transaction ends. */
  async lock(manager: EntityManager, who: Who, handoff: { readonly id: string; readonly today: IsoDay }): Promise<HandoffFacts | null> {
    const sql = 'SELECT e.id FROM engagement e JOIN handoff h ON h.engagement_id = e.id WHERE h.id = $1 AND e.agency_id = $2';
    const place = await firstRow<{ id: string }>(manager, sql, [handoff.id, who.agencyId]);
    if (place !== null) await lockEngagements(manager, [place.id]);
    return this.find(manager, who, handoff);
  }

  /** What was not undone, the oldest first. */
  async listTurns(who: Who, handoffId: string): Promise<HandoffTurn[]> {
    const turns = await this.database.rows<HandoffTurn>(
      `SELECT v.kind, v.at, v.payload->>'words' AS words, ${PERSON_OR_NULL('p')} AS who,
         CASE WHEN ${canUndoBatch({ kinds: '$2', account: '$3' })} THEN v.batch_id END AS "changeId"
       FROM event v LEFT JOIN account a ON a.id = v.account_id LEFT JOIN person p ON p.id = a.person_id
       WHERE v.subject_id = $1 AND v.subject = 'handoff' AND v.kind = ANY($4) AND v.undone_by_id IS NULL ORDER BY v.id`,
      [handoffId, undoableBy(who), who.accountId, TURN_EVENTS],
    );
    return turns.map((turn, place) => (place === turns.length - 1 ? turn : { ...turn, changeId: null }));
  }

  /** Where the tasks of a phase lead beside the ordinary next ones. */
  async listWays(phaseId: string): Promise<WayOut[]> {
    const sql = `SELECT v.way FROM task t CROSS JOIN LATERAL (${WAYS_OF_TASK}) v WHERE t.phase_id = $1 AND t.status <> 'dropped' ORDER BY v.place`;
    return (await this.database.rows<{ way: WayOut }>(sql, [phaseId])).map(({ way }) => way);
  }

  /** Crew who may and can receive: with a sign-in of their own, those holding the next phase's role first; whoever is away today says until when. */
  listReceivers(who: Who, to: { readonly phaseId: string | null; readonly today: IsoDay }): Promise<HandoffSheet['receivers'][number][]> {
    return this.database.rows(
      `SELECT p.id, p.name, p.initials, r.role_id IS NOT NULL AS "holdsRole",
         (SELECT max(o.to_day) FROM time_off o WHERE o.person_id = p.id AND o.minutes IS NULL AND $3 BETWEEN o.from_day AND o.to_day) AS "awayUntil"
       FROM person p LEFT JOIN person_role r ON r.person_id = p.id AND r.role_id = (SELECT role_id FROM phase WHERE id = $2)
       WHERE p.agency_id = $1 AND ${mayReceive('p')} ORDER BY r.role_id IS NULL, p.name`,
      [who.agencyId, to.phaseId, to.today],
    );
  }
}

function toFacts(row: LineRow, who: Who, today: IsoDay): Omit<HandoffFacts, 'row'> {
  const results = judgeGate(row.gate);
  const gate = row.gate.checks.map((check, index): GateCheckView => {
    const result = results[index];
    const missing = result === undefined || result.isClear ? null : missingWords(check, result.missing);
    return { id: check.id, kind: check.kind, text: check.text, isClear: result?.isClear ?? false, missing, clearedBy: check.givenBy };
  });
  const line: HandoffLine = {
    id: row.id,
    version: row.version,
    state: row.state,
    baton: batonOf({ handoff: row.state, phaseState: row.fromState, finish: row.from.finish, today }),
    engagement: row.engagement,
    from: row.from,
    to: row.to,
    toRole: row.toRole,
    giver: row.giver,
    receiver: row.receiver,
    standIn: row.standIn,
    since: row.since === null ? null : row.since.toISOString(),
    question: row.state === 'sent-back' ? row.question : null,
    checks: gate.map(({ isClear }) => ({ isClear })),
    missing: gate.flatMap((check) => (check.missing === null ? [] : [check.missing])),
    canPickUp: row.state === 'handed-off' && can(who, 'handoff.receive', of(row.receiver?.id, row.standIn?.id)),
    canHandOff:
      (row.state === 'getting-ready' || row.state === 'sent-back') &&
      row.fromState === 'running' &&
      can(who, 'handoff.hand-off', of(row.giver?.id)),
  };
  return { line, gate };
}

/** What a check still needs, short enough for a list. */
function missingWords({ kind, text }: Pick<CheckRow, 'kind' | 'text'>, missing: readonly string[]): string {
  const [first] = missing;
  if (first === undefined) return text;
  const named = missing.length === 1 ? `“${first}”` : `${missing.length} tasks`;
  switch (kind) {
    case 'steps-done':
      return `open steps of ${named}`;
    case 'field-filled':
      return `${missing.map((name) => `“${name}”`).join(', ')} not filled in`;
    case 'files-there':
      return first === '' ? 'no file yet' : `no ${missing.map((ending) => ending.replace(/^\./, '').toUpperCase()).join(', ')} file yet`;
    default:
      return missing.length === 1 ? `${named} is open` : `${named} open`;
  }
}
