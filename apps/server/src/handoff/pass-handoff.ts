import { Injectable } from '@nestjs/common';
import type { GiveOn, HandOff, PickUp, SendBack } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { recordEvent } from '../event/record-event.ts';
import { Clock } from '../platform/clock.ts';
import { affectedRows, Database, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import { isLead, type Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { settleTaskSeries } from '../series/settle-tasks.ts';
import { assignByRole } from './assign-by-role.ts';
import { HandoffRepository, type HandoffFacts } from './handoff.repository.ts';

type TurnKind = 'handed-off' | 'picked-up' | 'sent-back' | 'given-on';

/** The passing of a phase: hand off, pick up, send back, give on. Each is one transaction. */
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

  /** Gives the phase away: its gate must be clear, or a lead says why it may pass. */
  handOff(who: Who, id: string, input: HandOff): Promise<void> {
    return this.turn(who, { id, version: input.version, kind: 'handed-off', words: input.words }, async (manager, { line, gate, row }) => {
      if (!line.canHandOff) throw new Refusal('wrong-moment', `${line.from.name} cannot be handed off now. Reload to see where it stands.`);
      const missing = gate.filter((check) => !check.isClear);
      if (missing.length > 0)
        requireReason(
          who,
          input.reason,
          missing.map((check) => check.missing ?? check.text),
        );
      const receiverId = input.receiverId ?? line.receiver?.id;
      if (receiverId === undefined) throw new Refusal('invalid-input', 'Choose who receives it.', { field: 'receiverId' });
      await requireCrew(manager, who, receiverId);
      await rowsOf(
        manager,
        `UPDATE handoff SET state = 'handed-off', giver_id = $2, receiver_id = $3, words = $4, reason = $5, since = $6 WHERE id = $1`,
        [id, who.personId, receiverId, input.words, missing.length > 0 ? input.reason : null, this.clock.now()],
      );
      const today = this.clock.today();
      await rowsOf(manager, `UPDATE phase SET state = 'over', finished_on = greatest(started_on, $2::date) WHERE id = $1`, [
        row.from.id,
        today,
      ]);
      await refreshEngagement(manager, line.engagement.id, { today, changed: [] });
    });
  }

  /** Takes it: the next phase starts today, its tasks get their days from today and their people. */
  pickUp(who: Who, id: string, input: PickUp): Promise<void> {
    return this.turn(who, { id, version: input.version, kind: 'picked-up', words: '' }, async (manager, { line }) => {
      requireReceiver(who, line, 'pick it up');
      await rowsOf(manager, `UPDATE handoff SET state = 'picked-up', since = $2 WHERE id = $1`, [id, this.clock.now()]);
      await this.startNext(manager, who, line);
    });
  }

  private async startNext(manager: EntityManager, who: Who, line: HandoffFacts['line']): Promise<void> {
    const today = this.clock.today();
    if (line.to === null) {
      await rowsOf(
        manager,
        `UPDATE engagement SET state = 'finished', version = version + 1 WHERE id = $1
           AND NOT EXISTS (SELECT 1 FROM phase WHERE engagement_id = $1 AND state <> 'over')`,
        [line.engagement.id],
      );
      await refreshEngagement(manager, line.engagement.id, { today, changed: [] });
      return;
    }
    await rowsOf(manager, `UPDATE phase SET state = 'running', started_on = $2, finished_on = NULL WHERE id = $1 AND state = 'ahead'`, [
      line.to.id,
      today,
    ]);
    await assignByRole(manager, { phaseId: line.to.id, receiverId: line.receiver?.id ?? null, byId: who.personId, at: this.clock.now() });
    const tasks = await rowsOf<{ id: string }>(manager, 'SELECT id FROM task WHERE phase_id = $1', [line.to.id]);
    await refreshEngagement(manager, line.engagement.id, { today, changed: tasks.map((task) => task.id) });
  }

  /** Sends it back with a question: the giver's phase runs again. */
  sendBack(who: Who, id: string, input: SendBack): Promise<void> {
    return this.turn(who, { id, version: input.version, kind: 'sent-back', words: input.question }, async (manager, { line }) => {
      requireReceiver(who, line, 'send it back');
      await rowsOf(manager, `UPDATE handoff SET state = 'sent-back', question = $2, since = $3 WHERE id = $1`, [
        id,
        input.question.trim(),
        this.clock.now(),
      ]);
      await rowsOf(manager, `UPDATE phase SET state = 'running', finished_on = NULL WHERE id = $1`, [line.from.id]);
      await refreshEngagement(manager, line.engagement.id, { today: this.clock.today(), changed: [] });
    });
  }

  /** Gives it on to somebody else to pick up; the clock goes on running. */
  giveOn(who: Who, id: string, input: GiveOn): Promise<void> {
    return this.turn(who, { id, version: input.version, kind: 'given-on', words: '' }, async (manager, { line }) => {
      requireReceiver(who, line, 'give it on');
      await requireCrew(manager, who, input.receiverId);
      await rowsOf(manager, 'UPDATE handoff SET receiver_id = $2 WHERE id = $1', [id, input.receiverId]);
    });
  }

  private turn(
    who: Who,
    turn: { readonly id: string; readonly version: number; readonly kind: TurnKind; readonly words: string },
    act: (manager: EntityManager, facts: HandoffFacts) => Promise<void>,
  ): Promise<void> {
    return this.database.transaction(async (manager) => {
      const facts = requireFound(await this.handoffs.lock(manager, who, { id: turn.id, today: this.clock.today() }), 'handoff');
      const count = await affectedRows(manager, 'UPDATE handoff SET version = version + 1 WHERE id = $1 AND version = $2', [
        turn.id,
        turn.version,
      ]);
      if (count === 0) {
        throw new Refusal('changed-meanwhile', 'Somebody moved this handoff since you opened it. Look again.', {
          details: { current: facts.line },
        });
      }
      await act(manager, facts);
      const at = this.clock.now();
      // What repeats goes along into the phase that runs now, or ends with the one that is over.
      await settleTaskSeries(manager, facts.line.engagement.id, { today: this.clock.today(), at });
      await rowsOf(manager, 'INSERT INTO handoff_turn (handoff_id, kind, at, person_id, words) VALUES ($1, $2, $3, $4, $5)', [
        turn.id,
        turn.kind,
        at,
        who.personId,
        turn.words,
      ]);
      const happening = { engagementId: facts.line.engagement.id, subject: 'handoff', subjectId: turn.id, kind: turn.kind } as const;
      await recordEvent(manager, { who, at }, happening);
    });
  }
}

/** Leads may act for the receiver, nobody else may. */
function requireReceiver(who: Who, line: HandoffFacts['line'], act: string): void {
  if (line.state !== 'handed-off')
    throw new Refusal('wrong-moment', `Nobody can ${act} now: it is not handed off. Reload to see where it stands.`);
  if (line.receiver?.id !== who.personId && !isLead(who)) {
    throw new Refusal('not-allowed', `Only ${line.receiver?.name ?? 'the receiver'} or a lead can ${act}.`);
  }
}

function requireReason(who: Who, reason: string | undefined, missing: readonly string[]): void {
  const list = missing.join('; ');
  if (!isLead(who)) throw new Refusal('gate-not-clear', `The gate is not clear: ${list}. Clear it, or ask a lead to let it pass.`);
  if (reason === undefined)
    throw new Refusal('gate-not-clear', `The gate is not clear: ${list}. Clear it, or give a reason to let it pass.`, { field: 'reason' });
}

async function requireCrew(manager: EntityManager, who: Who, personId: string): Promise<void> {
  const found = await rowsOf<unknown>(manager, 'SELECT 1 FROM person WHERE id = $1 AND agency_id = $2 AND is_active', [
    personId,
    who.agencyId,
  ]);
  if (found.length === 0)
    throw new Refusal('unknown-id', 'The receiver is not of your crew. Choose from the list.', { field: 'receiverId' });
}
