import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { ForecastDriver, ForecastState, ForecastView, PersonRef } from '@crew/contract';
import {
  compileCalendar,
  parseDay,
  readRatios,
  workingDaysBetween,
  type FinishedTask,
  type Forecast,
  type ForecastInput,
  type IsoDay,
} from '@crew/core';
import type { EntityManager } from 'typeorm';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { PERSON } from '../platform/sql-words.ts';
import { requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { engagementSeenBy } from '../platform/visible.ts';
import { readPlanFacts, toScheduleInput, type PlanFacts } from '../schedule/plan-facts.ts';
import { forecastInWorkers } from './run-in-workers.ts';

const RUNS = 10_000;
const SEED = 1;
const MOST_DRIVERS = 6;
/** Work a client does has no role of the agency, and a record of its own. */
const CLIENT = 'client';

/** Finished work of the agency: planned length and the days it really took. */
const RECORD = `
  SELECT coalesce(t.role_id::text, CASE WHEN t.kind = 'client' THEN '${CLIENT}' END) AS role, t.days AS planned, t.real_start AS "realStart", t.done_on AS "doneOn"
  FROM task t WHERE t.agency_id = $1 AND t.status = 'done' AND NOT t.is_group AND t.days > 0 AND t.real_start IS NOT NULL
  ORDER BY t.id`;

const TASKS = `
  SELECT t.id, coalesce(t.role_id::text, CASE WHEN t.kind = 'client' THEN '${CLIENT}' END) AS role, coalesce(r.name, CASE WHEN t.kind = 'client' THEN 'the client' END) AS "roleName",
    t.title, p.name AS phase, t.due_day AS due, t.status IN ('done', 'dropped') OR t.is_group AS "isOver",
    coalesce((SELECT json_agg(${PERSON('q')} ORDER BY a.position) FROM task_assignee a JOIN person q ON q.id = a.person_id WHERE a.task_id = t.id), '[]') AS assignees
  FROM task t JOIN phase p ON p.id = t.phase_id LEFT JOIN role r ON r.id = t.role_id WHERE t.engagement_id = $1`;

interface TaskRow {
  readonly id: string;
  readonly role: string | null;
  readonly roleName: string | null;
  readonly title: string;
  readonly phase: string;
  readonly due: IsoDay;
  readonly isOver: boolean;
  readonly assignees: readonly PersonRef[];
}

interface ForecastFacts {
  readonly plan: PlanFacts;
  readonly tasks: readonly TaskRow[];
  readonly input: ForecastInput;
  readonly key: string;
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
    const facts = await this.facts(who, engagementId);
    const kept = await this.database.row<{ factsKey: string; computedAt: Date; answer: Forecast }>(
      'SELECT facts_key AS "factsKey", computed_at AS "computedAt", answer FROM forecast WHERE engagement_id = $1',
      [engagementId],
    );
    if (kept === null) return { forecast: null, isStale: true };
    return { forecast: toView(kept.answer, facts, kept.computedAt), isStale: kept.factsKey !== facts.key };
  }

  /** Computes it anew and keeps it. `onRuns` hears how many runs are done; `signal` stops it, and then nothing is kept. */
  async make(
    who: Who,
    engagementId: string,
    running: { readonly onRuns: (done: number, of: number) => void; readonly signal: AbortSignal },
  ): Promise<ForecastView> {
    const facts = await this.facts(who, engagementId);
    const answer = await forecastInWorkers(facts.input, { signal: running.signal, onRuns: (done) => running.onRuns(done, RUNS) });
    const at = this.clock.now();
    await this.database.rows(
      `INSERT INTO forecast (engagement_id, facts_key, computed_at, answer) VALUES ($1, $2, $3, $4)
       ON CONFLICT (engagement_id) DO UPDATE SET facts_key = excluded.facts_key, computed_at = excluded.computed_at, answer = excluded.answer`,
      [engagementId, facts.key, at, JSON.stringify(answer)],
    );
    return toView(answer, facts, at);
  }

  private async facts(who: Who, engagementId: string): Promise<ForecastFacts> {
    const { manager } = this.database;
    const seen = engagementSeenBy(who, 2);
    requireFound(
      await firstRow(manager, `SELECT e.id FROM engagement e WHERE e.id = $1 AND ${seen.sql}`, [engagementId, ...seen.values]),
      'engagement',
    );
    const [plan, tasks] = await Promise.all([readPlanFacts(manager, engagementId), rowsOf<TaskRow>(manager, TASKS, [engagementId])]);
    const roles = new Map(tasks.map((task) => [task.id, task.role]));
    const schedule = toScheduleInput(plan, this.clock.today());
    const input: ForecastInput = {
      ...schedule,
      tasks: schedule.tasks.map((task) => ({ ...task, role: roles.get(task.id) ?? null })),
      record: await readRecord(manager, who.agencyId, plan),
      runs: RUNS,
      seed: SEED,
    };
    return { plan, tasks, input, key: createHash('sha256').update(JSON.stringify(input)).digest('base64url') };
  }
}

async function readRecord(manager: EntityManager, agencyId: string, { calendar }: PlanFacts): Promise<FinishedTask[]> {
  const rows = await rowsOf<{ role: string | null; planned: number; realStart: IsoDay; doneOn: IsoDay }>(manager, RECORD, [agencyId]);
  const days = unwrap(compileCalendar(calendar));
  return rows.map(({ role, planned, realStart, doneOn }) => ({
    role,
    planned,
    real: Math.max(1, workingDaysBetween(days, parseDay(realStart) as number, (parseDay(doneOn) as number) + 1)),
  }));
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
