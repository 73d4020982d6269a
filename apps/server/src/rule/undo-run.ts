import { Injectable } from '@nestjs/common';
import type { RunUndone } from '@crew/contract';
import { UndoChange } from '../plan-change/undo-change.ts';
import { announceChange } from '../platform/announce.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { addJob } from '../platform/job-names.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { thenOf } from './try-rule.ts';

interface Done {
  readonly place: number;
  readonly kind: string;
  readonly changeId: string | null;
}

const RUN = `
  SELECT r.state, r.event_id::text AS "eventId", coalesce((SELECT json_agg(json_build_object('place', x.place, 'kind', x.effect->>'do', 'changeId', x.change_id) ORDER BY x.place DESC)
    FROM rule_effect x WHERE x.run_id = r.id AND x.state = 'done'), '[]') AS done
  FROM rule_run r WHERE r.id = $1 AND r.agency_id = $2`;

interface Found {
  readonly state: string;
  readonly eventId: string;
  readonly done: readonly Done[];
}

/** Undoes what a run changed, effect by effect, the last first; or tries its failed effects again. */
@Injectable()
export class UndoRun {
  private readonly database: Database;
  private readonly undoing: UndoChange;
  constructor(database: Database, undoing: UndoChange) {
    this.database = database;
    this.undoing = undoing;
  }

  /** What cannot be undone, or was changed since, stays and is answered in words. Each effect goes back as a whole or not at all. */
  async undo(who: Who, runId: string): Promise<RunUndone> {
    const run = await this.find(who, runId);
    if (run.state !== 'done' && run.state !== 'failed')
      throw new Refusal('wrong-moment', run.state === 'undone' ? 'This run was undone already.' : 'This run has changed nothing.');
    const changed = run.done.filter(({ changeId }) => changeId !== null);
    if (changed.length === 0) throw new Refusal('wrong-moment', 'This run has changed nothing that could go back.');
    const kept: string[] = [];
    let undone = 0;
    for (const effect of changed) {
      const problem = await this.undoOne(who, { runId, ...effect });
      if (problem === null) undone++;
      else kept.push(problem);
    }
    if (undone === 0) throw new Refusal('wrong-moment', kept.join(' '), { details: { kept } });
    await this.database.transaction(async (manager) => {
      await rowsOf(manager, `UPDATE rule_run SET state = 'undone' WHERE id = $1`, [runId]);
      await announceChange(manager, { agencyId: who.agencyId, topics: ['rule'] });
    });
    return { undone, kept };
  }

  /** Carries out the effects that failed once more. */
  async retry(who: Who, runId: string): Promise<void> {
    const { state, eventId } = await this.find(who, runId);
    if (state !== 'failed') throw new Refusal('wrong-moment', 'Nothing of this run has failed.');
    await this.database.transaction(async (manager) => {
      await rowsOf(manager, `UPDATE rule_effect SET state = 'waiting', tries = 0, said = '' WHERE run_id = $1 AND state = 'failed'`, [
        runId,
      ]);
      await rowsOf(manager, `UPDATE rule_run SET state = 'waiting' WHERE id = $1 AND state = 'failed'`, [runId]);
      await addJob(manager, { name: 'carry-out-rules', payload: { eventId }, key: `rules at ${eventId}` });
      await announceChange(manager, { agencyId: who.agencyId, topics: ['rule'] });
    });
  }

  private async find(who: Who, runId: string): Promise<Found> {
    return requireFound(await this.database.row<Found>(RUN, [runId, who.agencyId]), 'run');
  }

  /** Undoes one effect with its mark in one transaction; answers why it stays, or null. */
  private async undoOne(who: Who, { runId, place, kind, changeId }: Done & { readonly runId: string }): Promise<string | null> {
    try {
      await this.database.together(async (manager) => {
        await this.undoing.run(who, changeId as string);
        await rowsOf(manager, `UPDATE rule_effect SET state = 'undone' WHERE run_id = $1 AND place = $2`, [runId, place]);
      });
      return null;
    } catch (error) {
      if (!(error instanceof Refusal) || error.code === 'unavailable') throw error;
      return STAYS[thenOf({ do: kind }).do] ?? error.message;
    }
  }
}

/** A notice or mail that was sent cannot be undone. */
const STAYS: Partial<Readonly<Record<ReturnType<typeof thenOf>['do'], string>>> = {
  tell: 'What people were told stays told.',
  'call-webhook': 'A call that was made cannot be called back.',
  mail: 'Mail that is sent cannot be called back.',
  'mail-client': 'The mail to the client cannot be called back.',
  'ready-handoff': 'The handoff stays on the desk until it is handed off.',
  'hand-off': 'The handoff stays handed off; send it back instead.',
};
