import type { Effect } from '@crew/core';
import { Injectable, Logger } from '@nestjs/common';
import type { Chosen, ThenKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf } from '../activity/record.ts';
import { announceChange } from '../platform/announce.ts';
import { Clock } from '../platform/clock.ts';
import { affectedRows, Database, rowsOf } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { isOpen } from '../platform/sql-words.ts';
import { ChoosePerson } from './choose-person.ts';
import { Effects } from './effects/index.ts';
import type { ChosenPerson, EffectEvent, Outcome } from './effects/types.ts';
import { findPhase } from './places.ts';

/** An effect that waits to be carried out. */
interface Waiting {
  readonly runId: string;
  readonly place: number;
  readonly effect: Effect & { readonly do: ThenKind };
  readonly tries: number;
  readonly agencyId: string;
  readonly agencyName: string;
  readonly event: EffectEvent;
}

/** What waits at event $1, in the order of its rules. */
const WAITING = `
  SELECT r.id AS "runId", x.place, x.effect, x.tries, r.agency_id AS "agencyId", g.name AS "agencyName",
    json_build_object('engagementId', v.engagement_id, 'subject', v.subject, 'subjectId', v.subject_id, 'facts', v.facts) AS event
  FROM rule_run r JOIN rule_effect x ON x.run_id = r.id JOIN event v ON v.id = r.event_id JOIN agency g ON g.id = r.agency_id
  WHERE r.event_id = $1 AND r.state = 'waiting' AND x.state = 'waiting' ORDER BY r.position, r.id, x.place`;

/** A run whose effects are all through is done, or failed where one of them is. */
const FINISH = `
  UPDATE rule_run r SET state = CASE WHEN EXISTS (SELECT 1 FROM rule_effect x WHERE x.run_id = r.id AND x.state = 'failed') THEN 'failed' ELSE 'done' END
  WHERE r.event_id = $1 AND r.state = 'waiting' AND NOT EXISTS (SELECT 1 FROM rule_effect x WHERE x.run_id = r.id AND x.state = 'waiting')
  RETURNING r.agency_id AS "agencyId"`;

const CLAIM = `UPDATE rule_effect SET state = 'done', done_at = $3 WHERE run_id = $1 AND place = $2 AND state = 'waiting'`;
const NOTE = 'UPDATE rule_effect SET state = $3, said = $4, change_id = $5 WHERE run_id = $1 AND place = $2';
const FAIL = `UPDATE rule_effect SET state = 'failed', said = $3, done_at = $4, tries = tries + 1 WHERE run_id = $1 AND place = $2 AND state = 'waiting'`;
const TRIED = 'UPDATE rule_effect SET tries = tries + 1 WHERE run_id = $1 AND place = $2';

/** A fault of ours is tried so often, with more and more time between, before it is left to people. */
const MOST_TRIES = 5;

/** Nobody's account: events by a rule carry its run. */
const NOBODY = '00000000-0000-0000-0000-000000000000';

/**
 * Carries out what rules decided at an event. Each effect is one transaction with its claim in it: whoever
 * claims it does it, and a process that ends in between leaves it as if it had not begun. So it can run as
 * often as it likes, in as many processes as there are. What is refused is kept with its reason, and the
 * other effects go on.
 */
@Injectable()
export class CarryOut {
  private readonly database: Database;
  private readonly effects: Effects;
  private readonly choosing: ChoosePerson;
  private readonly clock: Clock;
  private readonly logger = new Logger('rules');
  constructor(database: Database, effects: Effects, choosing: ChoosePerson, clock: Clock) {
    this.database = database;
    this.effects = effects;
    this.choosing = choosing;
    this.clock = clock;
  }

  async run({ eventId }: { readonly eventId: string }): Promise<void> {
    for (const waiting of await this.database.rows<Waiting>(WAITING, [eventId])) await this.carryOut(waiting);
    await this.database.transaction(async (manager) => {
      const finished = await rowsOf<{ agencyId: string }>(manager, FINISH, [eventId]);
      for (const agencyId of new Set(finished.map((run) => run.agencyId))) await announceChange(manager, { agencyId, topics: ['rule'] });
    });
  }

  private async carryOut(waiting: Waiting): Promise<void> {
    const { runId, place, tries } = waiting;
    try {
      await this.apply(waiting);
    } catch (error) {
      const isTold = error instanceof Refusal && error.code !== 'unavailable';
      if (!isTold && tries + 1 < MOST_TRIES) {
        await this.database.rows(TRIED, [runId, place]);
        throw error;
      }
      if (!isTold) this.logger.error(`Effect ${place} of run ${runId} failed. ${error instanceof Error ? error.stack : String(error)}`);
      const said = error instanceof Refusal ? error.message : 'This failed, and the fault is ours. Nothing was changed; try it again.';
      await this.database.rows(FAIL, [runId, place, said, this.clock.now()]);
    }
  }

  private async apply(waiting: Waiting): Promise<void> {
    const { runId, place, effect, event } = waiting;
    const { do: kind, ...slots } = effect;
    // Before anything is written: the load it is chosen by is kept for everybody.
    const chosen = await this.choose(waiting);
    await this.database.together(async (manager) => {
      // Before the claim, as whoever removes an engagement does; and what somebody changes at this moment is seen.
      if (event.engagementId !== null) await lockEngagements(manager, [event.engagementId]);
      const now = this.clock.now();
      if ((await affectedRows(manager, CLAIM, [runId, place, now])) === 0) return;
      const who = ruleWho(waiting);
      const asked = { manager, who, by: { actor: who, at: now }, today: this.clock.today(), event, slots, chosen, runId, place };
      const outcome: Outcome = await this.effects.of(kind)(asked);
      const state = outcome.isNothing === true ? 'nothing' : 'done';
      await rowsOf(manager, NOTE, [runId, place, state, outcome.said, changeIdOf(manager)]);
    });
  }

  private async choose({ agencyId, event, effect }: Waiting): Promise<ChosenPerson | null> {
    const whom = effect['whom'] as Chosen | null | undefined;
    if (whom === undefined || whom === null || (whom.by !== 'role' && whom.by !== 'person')) return null;
    if (effect.do === 'ask-decision') return null;
    const taskIds = await tasksFor(this.database.manager, event, effect);
    return this.choosing.run(whom, { agencyId, event, taskIds });
  }
}

/** The tasks somebody chosen for an effect would do. */
async function tasksFor(manager: EntityManager, event: EffectEvent, { do: kind, phase, whom }: Waiting['effect']): Promise<string[]> {
  if (kind === 'assign') return [event.subjectId];
  if (kind !== 'assign-phase' && kind !== 'hand-off') return [];
  const found = await findPhase(manager, event, kind === 'hand-off' ? { by: 'next' } : (phase as Parameters<typeof findPhase>[2]));
  const roleId = (whom as Chosen).by === 'role' ? (whom as Chosen).id : null;
  const sql = `SELECT t.id FROM task t WHERE t.phase_id = $1 AND NOT t.is_group AND ${isOpen('t')} AND ($2::uuid IS NULL OR t.role_id = $2)`;
  return (await rowsOf<{ id: string }>(manager, sql, [found.id, roleId])).map(({ id }) => id);
}

/** A rule acts with the rights of a lead, as nobody in particular. */
const ruleWho = ({ runId, agencyId, agencyName }: Waiting): Who => ({
  ...{ rule: { runId }, accountId: NOBODY, agencyId, agencyName, access: 'lead', name: 'Rule', initials: '' },
  ...{ personId: null, clientId: null, clientIds: [], clientName: null },
});
