import { firstRow } from '../../platform/database.ts';
import { Refusal } from '../../platform/refusal.ts';
import { WAYS_OF_TASK } from '../../platform/sql-words.ts';
import { roundQuestion, type NextRound, type StartRound } from '../../engagement/start-round.ts';
import type { PassHandoff } from '../../handoff/pass-handoff.ts';
import { startPhase } from '../../handoff/start-phase.ts';
import { refuseAtRest } from '../../engagement/refuse-at-rest.ts';
import { findHandoff, findPeople, findPhase } from '../places.ts';
import type { TaskEffects } from './tasks.ts';
import { nothing, slotOf, type Asked, type CarryOutEffect, type Outcome } from './types.ts';

/** A loop of the map that begins in a phase, or leads back into it. */
const LOOP = `
  SELECT t.id AS "taskId", v.way->>'id' AS "wayId" FROM task t CROSS JOIN LATERAL (${WAYS_OF_TASK}) v
  WHERE t.engagement_id = $1 AND t.status <> 'dropped' AND v.way->>'ending' IS NULL
    AND (t.phase_id = $2 OR EXISTS (SELECT 1 FROM task o WHERE o.id::text = v.way->'to'->>'id' AND o.phase_id = $2))
  ORDER BY t.phase_id = $2 DESC, t.number LIMIT 1`;

/** Effects on phases and their passing. */
export class PhaseEffects {
  private readonly passing: PassHandoff;
  private readonly rounds: StartRound;
  private readonly tasks: TaskEffects;
  constructor(passing: PassHandoff, rounds: StartRound, tasks: TaskEffects) {
    this.passing = passing;
    this.rounds = rounds;
    this.tasks = tasks;
  }

  /** Hands off with a gate that is clear; one that is not is refused like anybody's, and no reason passes it. */
  readonly handOff: CarryOutEffect = async (asked) => {
    const { manager, who, event, chosen } = asked;
    const { id, version } = await findHandoff(manager, event);
    const clear = await firstRow<{ isOpen: boolean }>(
      manager,
      `SELECT h.state IN ('getting-ready', 'sent-back') AS "isOpen" FROM handoff h WHERE h.id = $1`,
      [id],
    );
    if (clear?.isOpen !== true) return nothing('It has been handed off already.');
    await this.passing.handOff(who, id, { version, words: '', ...(chosen === null ? {} : { receiverId: chosen.id }) });
    return { said: chosen === null ? 'Handed it off.' : `Handed it off to ${chosen.name}.` };
  };

  readonly startPhase: CarryOutEffect = async (asked) => {
    const { manager, by, event, today } = asked;
    const engagementId = event.engagementId as string;
    const phase = await findPhase(manager, event, slotOf(asked, 'place', 'phase'));
    await refuseAtRest(manager, [engagementId]);
    const hasStarted = await startPhase(manager, by, { engagementId, phaseId: phase.id, receiverId: null, today });
    return hasStarted ? { said: `Started ${phase.name}.` } : nothing(`${phase.name} has started already.`);
  };

  /** The next round of the phase's loop; beyond those that were agreed the lead is asked instead. */
  readonly startRound: CarryOutEffect = async (asked) => {
    const { manager, event } = asked;
    const engagementId = event.engagementId as string;
    const phase = await findPhase(manager, event, slotOf(asked, 'place', 'phase'));
    const loop = await firstRow<{ taskId: string; wayId: string }>(manager, LOOP, [engagementId, phase.id]);
    if (loop === null) throw new Refusal('wrong-moment', `No tasks of ${phase.name} repeat: its map has no loop.`);
    const next = await this.rounds.foresee(manager, asked.who, { engagementId, input: loop });
    if (next.agreed !== null && next.round > next.agreed) return this.askAboutRound(asked, next);
    await this.rounds.run(asked.who, engagementId, loop);
    return { said: `Started the next round of ${phase.name}.` };
  };

  /** More rounds than were agreed are not begun: whoever leads the engagement decides, with the effort in view. */
  private async askAboutRound(asked: Asked, next: NextRound): Promise<Outcome> {
    const { manager, who, event } = asked;
    const leads = await findPeople(manager, event, { agencyId: who.agencyId, somebody: { by: 'lead' } });
    const text = roundQuestion(next);
    await this.tasks.decide(asked, { text, personIds: leads.map(({ id }) => id), phase: { by: 'name', is: next.phase } });
    return { said: `Asked ${leads.map(({ name }) => name).join(', ')} about ${text}.` };
  }
}
