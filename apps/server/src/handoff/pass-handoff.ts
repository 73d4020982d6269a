import { Injectable } from '@nestjs/common';
import {
  can,
  of,
  type TURN_EVENTS,
  type EventPayloads,
  type FieldChange,
  type GiveOn,
  type HandOff,
  type PickUp,
  type SendBack,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record, type NewEvent } from '../activity/record.ts';
import type { By } from '../platform/actor.ts';
import { Clock } from '../platform/clock.ts';
import { affectedRows, Database, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import { requireCan, type Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { settleTaskSeries } from '../series/settle-tasks.ts';
import { phasesChanged, readPhaseImages } from '../engagement/phase-images.ts';
import { refuseAtRest } from '../engagement/refuse-at-rest.ts';
import { gatherPacket, trimPacket } from './packet.ts';
import { startPhase } from './start-phase.ts';
import { HandoffRepository, mayReceive, type HandoffFacts } from './handoff.repository.ts';

type TurnKind = (typeof TURN_EVENTS)[number];

/** Who moves a handoff, and how that is recorded with its message. */
interface Taking {
  readonly by: By;
  readonly tell: (payload: EventPayloads[TurnKind]) => Promise<void>;
}

/**
 * The moves of a handoff: hand off, pick up, send back, pass on. Each is one transaction, and is
 * undone as a whole (`plan-change/undo-change.ts`) from the phases as they were, which are recorded
 * with it.
 */
@Injectable()
export class PassHandoff {
  private readonly database: Database;
  private readonly handoffs: HandoffRepository;
  private readonly clock: Clock;
  constructor(database: Database, handoffs: HandoffRepository, clock: Clock) {
    this.database = database;
    this.handoffs = handoffs;
    this.clock = clock;
  }

  /** Hands the phase off: its gate must be clear, or a lead says why it is passed. */
  handOff(who: Who, id: string, input: HandOff): Promise<void> {
    return this.turn(who, { id, version: input.version, kind: 'handed-off' }, async (manager, { line, gate, row }, { by, tell }) => {
      requireCan(who, 'handoff.hand-off', {
        subject: of(line.giver?.id),
        words: `Only ${line.giver?.name ?? 'its giver'} or the crew of the agency can hand it off.`,
      });
      if (!line.canHandOff)
        throw new Refusal('wrong-moment', `“${line.from.name}” cannot be handed off now. Reload to see where it stands.`);
      const missing = gate.filter((check) => !check.isClear);
      if (missing.length > 0)
        requireReason(
          who,
          input.reason,
          missing.map((check) => check.missing ?? check.text),
        );
      const receiverId = input.receiverId ?? line.receiver?.id;
      if (receiverId === undefined) throw new Refusal('invalid-input', 'Choose who receives it.', { field: 'receiverId' });
      await requireReceivable(manager, who, receiverId);
      const packet = trimPacket(await gatherPacket(manager, { line, row }), input.without ?? []);
      await rowsOf(
        manager,
        `UPDATE handoff SET state = 'handed-off', giver_id = $2, receiver_id = $3, words = $4, reason = $5, since = $6, ready_for_ids = '{}', packet = $7 WHERE id = $1`,
        [
          ...[id, who.personId ?? line.giver?.id ?? null, receiverId, input.words, missing.length > 0 ? input.reason : null, by.at],
          JSON.stringify({ ...packet, at: by.at.toISOString() }),
        ],
      );
      await tell({ words: input.words, receiverId, reason: missing.length > 0 ? (input.reason ?? null) : null });
      const today = this.clock.today();
      const [ended] = await rowsOf<{ finished: string }>(
        manager,
        `UPDATE phase SET state = 'over', finished_on = greatest(started_on, $2::date) WHERE id = $1 RETURNING finished_on AS finished`,
        [row.from.id, today],
      );
      await record(manager, by, [
        phaseEvent('phase-ended', line, row.from.id, [{ field: 'finishedOn', from: null, to: ended?.finished ?? today }]),
      ]);
      await refreshEngagement(manager, line.engagement.id, { today, by, changed: [] });
    });
  }

  /** Picks it up: the next phase starts today, its tasks are scheduled from today and assigned. */
  pickUp(who: Who, id: string, input: PickUp): Promise<void> {
    return this.turn(who, { id, version: input.version, kind: 'picked-up' }, async (manager, { line }, { by, tell }) => {
      requireReceiver(who, line, 'pick it up');
      await rowsOf(manager, `UPDATE handoff SET state = 'picked-up', since = $2 WHERE id = $1`, [id, this.clock.now()]);
      await tell({ words: '', receiverId: line.receiver?.id ?? null, reason: null });
      await this.startNext(manager, by, line);
    });
  }

  private async startNext(manager: EntityManager, by: By, line: HandoffFacts['line']): Promise<void> {
    const today = this.clock.today();
    const engagementId = line.engagement.id;
    if (line.to === null) {
      const sql = `UPDATE engagement SET state = 'finished', closed_on = $2, version = version + 1 WHERE id = $1 AND state <> 'finished'
           AND NOT EXISTS (SELECT 1 FROM phase WHERE engagement_id = $1 AND state <> 'over') RETURNING id`;
      const completed = await rowsOf<{ id: string }>(manager, sql, [engagementId, today]);
      await refreshEngagement(manager, engagementId, { today, by, changed: [] });
      const changes = [
        { field: 'state', from: 'open', to: 'finished' },
        { field: 'closedOn', from: null, to: today },
      ];
      await record(
        manager,
        by,
        completed.map(
          ({ id }) =>
            ({
              kind: 'engagement-completed',
              engagementId,
              subject: 'engagement',
              subjectId: id,
              payload: { reason: null },
              changes,
            }) as const,
        ),
      );
      return;
    }
    await startPhase(manager, by, { engagementId, phaseId: line.to.id, receiverId: line.receiver?.id ?? null, today });
  }

  /** Sends it back with a question: the giver's phase runs again. */
  sendBack(who: Who, id: string, input: SendBack): Promise<void> {
    return this.turn(who, { id, version: input.version, kind: 'sent-back' }, async (manager, { line }, { by, tell }) => {
      requireReceiver(who, line, 'send it back');
      await rowsOf(manager, `UPDATE handoff SET state = 'sent-back', question = $2, since = $3 WHERE id = $1`, [
        id,
        input.question.trim(),
        this.clock.now(),
      ]);
      await tell({ words: input.question.trim(), receiverId: line.giver?.id ?? null, reason: null });
      await rowsOf(manager, `UPDATE phase SET state = 'running', finished_on = NULL WHERE id = $1`, [line.from.id]);
      await record(manager, by, [phaseEvent('phase-reopened', line, line.from.id, [])]);
      await refreshEngagement(manager, line.engagement.id, { today: this.clock.today(), by, changed: [] });
    });
  }

  /** Passes it on to somebody else to pick up; its waiting time goes on. */
  giveOn(who: Who, id: string, input: GiveOn): Promise<void> {
    return this.turn(who, { id, version: input.version, kind: 'given-on' }, async (manager, { line }, { tell }) => {
      requireReceiver(who, line, 'give it on');
      await requireReceivable(manager, who, input.receiverId);
      await rowsOf(manager, 'UPDATE handoff SET receiver_id = $2 WHERE id = $1', [id, input.receiverId]);
      await tell({ words: '', receiverId: input.receiverId, reason: null });
    });
  }

  private turn(
    who: Who,
    turn: { readonly id: string; readonly version: number; readonly kind: TurnKind },
    act: (manager: EntityManager, facts: HandoffFacts, taking: Taking) => Promise<void>,
  ): Promise<void> {
    return this.database.transaction(async (manager) => {
      const facts = requireFound(await this.handoffs.lock(manager, who, { id: turn.id, today: this.clock.today() }), 'handoff');
      const before = await readPhaseImages(manager, facts.line.engagement.id);
      const count = await affectedRows(manager, 'UPDATE handoff SET version = version + 1 WHERE id = $1 AND version = $2', [
        turn.id,
        turn.version,
      ]);
      if (count === 0) {
        throw new Refusal('changed-meanwhile', 'Somebody moved this handoff since you opened it. Reload and check.', {
          details: { current: facts.line },
        });
      }
      await refuseAtRest(manager, [facts.line.engagement.id]);
      const by = { actor: who, at: this.clock.now() };
      const engagementId = facts.line.engagement.id;
      // What follows from a move comes after it in the history.
      const tell: Taking['tell'] = (payload) =>
        record(manager, by, [{ kind: turn.kind, engagementId, subject: 'handoff', subjectId: turn.id, payload }]);
      await act(manager, facts, { by, tell });
      // What repeats goes along into the phase that runs now, or ends with the one that is over.
      await settleTaskSeries(manager, engagementId, { today: this.clock.today(), by });
      const phases = phasesChanged(before, await readPhaseImages(manager, engagementId));
      if (phases !== null)
        await record(manager, by, [
          { kind: 'phases-changed', engagementId, subject: 'handoff', subjectId: turn.id, payload: { ...phases, turn: turn.kind } },
        ]);
    });
  }
}

const phaseEvent = (
  kind: 'phase-ended' | 'phase-reopened',
  line: HandoffFacts['line'],
  phaseId: string,
  changes: readonly FieldChange[],
): NewEvent => ({ kind, engagementId: line.engagement.id, subject: 'phase', subjectId: phaseId, changes });

/** Leads may act for the receiver, and their stand-in while they are away; nobody else may. */
function requireReceiver(who: Who, line: HandoffFacts['line'], act: string): void {
  if (line.state !== 'handed-off')
    throw new Refusal('wrong-moment', `Nobody can ${act} now: it is not handed off. Reload to see where it stands.`);
  const words = `Only ${line.receiver?.name ?? 'the receiver'} or a lead can ${act}.`;
  requireCan(who, 'handoff.receive', { subject: of(line.receiver?.id, line.standIn?.id), words });
}

function requireReason(who: Who, reason: string | undefined, missing: readonly string[]): void {
  const list = missing.join('; ');
  if (!can(who, 'handoff.pass-gate'))
    throw new Refusal('gate-not-clear', `The gate is not clear: ${list}. Clear it, or ask a lead to let it pass.`);
  if (reason === undefined)
    throw new Refusal('gate-not-clear', `The gate is not clear: ${list}. Clear it, or give a reason to let it pass.`, { field: 'reason' });
}

async function requireReceivable(manager: EntityManager, who: Who, personId: string): Promise<void> {
  const sql = `SELECT p.name, ${mayReceive('p')} AS "mayReceive" FROM person p WHERE p.id = $1 AND p.agency_id = $2`;
  const [person] = await rowsOf<{ name: string; mayReceive: boolean }>(manager, sql, [personId, who.agencyId]);
  if (person === undefined)
    throw new Refusal('unknown-id', 'The receiver is not on your crew. Choose from the list.', { field: 'receiverId' });
  if (!person.mayReceive)
    throw new Refusal('invalid-input', `“${person.name}” cannot sign in, so could not pick it up. Choose somebody else.`, {
      field: 'receiverId',
    });
}
