import { Injectable } from '@nestjs/common';
import type { ForecastDriver, ForecastState, ForecastView } from '@crew/contract';
import { readRatios, type Forecast } from '@crew/core';
import { announceChange } from '../platform/announce.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { engagementSeenBy } from '../platform/visible.ts';
import { readForecastFacts, readOutOfDate, RUNS, type ForecastFacts, type TaskRow } from './forecast-facts.ts';
import { forecastInWorkers } from './run-in-workers.ts';

const MOST_DRIVERS = 6;

/** The last forecast of engagement $1. */
const KEPT = 'SELECT facts_key AS "factsKey", computed_at AS "computedAt", answer FROM forecast WHERE engagement_id = $1';

/** Keeps a forecast, unless the engagement is gone by now. */
const KEEP = `
  INSERT INTO forecast (engagement_id, facts_key, mark, computed_at, answer) SELECT e.id, $2, $3, $4, $5 FROM engagement e WHERE e.id = $1
  ON CONFLICT (engagement_id) DO UPDATE SET facts_key = excluded.facts_key, mark = excluded.mark, computed_at = excluded.computed_at, answer = excluded.answer`;

const KEEP_MARK = 'UPDATE forecast SET mark = $2 WHERE engagement_id = $1';

interface Kept {
  readonly factsKey: string;
  readonly computedAt: Date;
  readonly answer: Forecast;
}

interface Computing {
  /** Hears how many runs are done. */
  readonly onRuns: (done: number, of: number) => void;
  /** Stops it, and then nothing is kept. */
  readonly signal: AbortSignal;
  readonly workers?: number;
}

/** Forecasts from the agency's own record; kept with the facts they are of, so that nobody is shown an old one as new. */
@Injectable()
export class KeepForecast {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** The last one, and whether what it was computed from has changed since. */
  async read(who: Who, engagementId: string): Promise<ForecastState> {
    const facts = await this.seenFacts(who, engagementId);
    const kept = await this.database.row<Kept>(KEPT, [engagementId]);
    if (kept === null) return { forecast: null, isStale: true };
    return { forecast: toView(kept.answer, facts, kept.computedAt), isStale: kept.factsKey !== facts.key };
  }

  /** Computes it anew and keeps it. */
  async make(who: Who, engagementId: string, computing: Computing): Promise<ForecastView> {
    return this.compute(await this.seenFacts(who, engagementId), computing);
  }

  /**
   * Brings the forecasts of all open engagements up to date, one after the other in one thread:
   * what only looks changed is not computed again. Doing it twice changes nothing. One that cannot be
   * computed keeps none of the others waiting; it is thrown at the end, so that the queue tells of it.
   * Told to stop it leaves the rest to the next time.
   */
  async keepUp(signal: AbortSignal = new AbortController().signal): Promise<void> {
    const { manager } = this.database;
    const faults: unknown[] = [];
    for (const { id } of await readOutOfDate(manager, this.clock.today())) {
      if (signal.aborted) return;
      try {
        const facts = await readForecastFacts(manager, id, this.clock.today());
        const kept = await this.database.row<Kept>(KEPT, [id]);
        if (kept?.factsKey === facts.key) await this.database.rows(KEEP_MARK, [id, facts.mark]);
        else await this.compute(facts, { onRuns: () => undefined, signal, workers: 1 });
      } catch (error) {
        if (signal.aborted) return;
        faults.push(error);
      }
    }
    if (faults.length > 0)
      throw new AggregateError(faults, `${faults.length} ${faults.length === 1 ? 'forecast' : 'forecasts'} could not be computed`);
  }

  private async compute(facts: ForecastFacts, { onRuns, ...running }: Computing): Promise<ForecastView> {
    const answer = await forecastInWorkers(facts.input, { ...running, onRuns: (done) => onRuns(done, RUNS) });
    const { engagementId, agencyId, key, mark } = facts;
    const at = this.clock.now();
    await this.database.transaction(async (manager) => {
      const before = await firstRow<Kept>(manager, KEPT, [engagementId]);
      await rowsOf(manager, KEEP, [engagementId, key, mark, at, JSON.stringify(answer)]);
      // Lists show the days: what is the same as before needs to be read by nobody.
      if (JSON.stringify(before?.answer.dates) !== JSON.stringify(answer.dates) || before?.answer.chance !== answer.chance)
        await announceChange(manager, { agencyId, topics: [`engagement:${engagementId}`] });
    });
    return toView(answer, facts, at);
  }

  private async seenFacts(who: Who, engagementId: string): Promise<ForecastFacts> {
    const { manager } = this.database;
    const seen = engagementSeenBy(who, 2);
    requireFound(
      await firstRow(manager, `SELECT e.id FROM engagement e WHERE e.id = $1 AND ${seen.sql}`, [engagementId, ...seen.values]),
      'engagement',
    );
    return readForecastFacts(manager, engagementId, this.clock.today());
  }
}

function toView(answer: Forecast, { plan, tasks, input }: ForecastFacts, at: Date): ForecastView {
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const pools = readRatios(input.record ?? []);
  const open = tasks.filter((task) => !task.isOver && task.roleName !== null);
  const namesOf = (from: 'role' | 'agency'): string[] => [
    ...new Set(open.filter((task) => pools.sourceOf(task.role).from === from).map((task) => task.roleName as string)),
  ];
  return {
    computedAt: at.toISOString(),
    runs: answer.runs,
    likely: answer.dates.p50,
    safe: answer.dates.p80,
    almostSure: answer.dates.p95,
    promise: plan.promisedDay,
    chance: answer.chance,
    planned: plan.finishDay ?? answer.dates.p50,
    drivers: answer.tasks
      .filter((task) => task.onChain > 0 && byId.get(task.id)?.isOver === false)
      .sort((left, right) => right.onChain - left.onChain)
      .slice(0, MOST_DRIVERS)
      .map(({ id, onChain }): ForecastDriver => {
        const { title, phase, due, assignees } = byId.get(id) as TaskRow;
        return { id, title, phase, due, assignees, onChain };
      }),
    spread: answer.spread,
    basis: { finishedTasks: (input.record ?? []).length, ownRoles: namesOf('role'), sharedRoles: namesOf('agency') },
  };
}
