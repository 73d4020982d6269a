import { createHash } from 'node:crypto';
import type { PersonRef } from '@crew/contract';
import {
  compileCalendar,
  parseDay,
  workingDaysBetween,
  type FinishedTask,
  type ForecastInput,
  type IsoDay,
  type PersonInput,
} from '@crew/core';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import { assigneesOf, isOpen, PERSON, timeOffOf } from '../platform/sql-words.ts';
import { readPlanFacts, toScheduleInput, type PlanFacts } from '../schedule/plan-facts.ts';

/** As many runs as when somebody asks for it: the list and the sheet show the same day. */
export const RUNS = 10_000;
const SEED = 1;
/** Work a client does has no role of the agency, and a record of its own. */
const CLIENT = 'client';

/** So many finished tasks of each role say enough, and the newest say best how long things take now. */
const MOST_OF_A_ROLE = 400;

const FINISHED = `t.agency_id = $1 AND t.status = 'done' AND NOT t.is_group AND t.days > 0 AND t.real_start IS NOT NULL AND t.done_on < $2`;

/**
 * Finished work of the agency before a day, the newest of each role: planned length and the days it really took.
 * What ends today counts from tomorrow on, or each tick would make every forecast of the agency old.
 */
const RECORD = `
  SELECT coalesce(t.role_id::text, CASE WHEN t.kind = 'client' THEN '${CLIENT}' END) AS role, t.days AS planned, t.real_start AS "realStart", t.done_on AS "doneOn"
  FROM (
    SELECT t.* FROM role r CROSS JOIN LATERAL (
      SELECT t.id, t.role_id, t.kind, t.days, t.real_start, t.done_on FROM task t WHERE ${FINISHED} AND t.role_id = r.id
      ORDER BY t.done_on DESC, t.id LIMIT ${MOST_OF_A_ROLE}) t
    WHERE r.agency_id = $1
    UNION ALL (
      SELECT t.id, t.role_id, t.kind, t.days, t.real_start, t.done_on FROM task t WHERE ${FINISHED} AND t.role_id IS NULL
      ORDER BY t.done_on DESC, t.id LIMIT ${MOST_OF_A_ROLE})) t
  ORDER BY t.id`;

const TASKS = `
  SELECT t.id, coalesce(t.role_id::text, CASE WHEN t.kind = 'client' THEN '${CLIENT}' END) AS role, coalesce(r.name, CASE WHEN t.kind = 'client' THEN 'the client' END) AS "roleName",
    t.title, p.name AS phase, t.due_day AS due, t.status IN ('done', 'dropped') OR t.is_group AS "isOver",
    ${assigneesOf('t', PERSON('q'))} AS assignees
  FROM task t JOIN phase p ON p.id = t.phase_id LEFT JOIN role r ON r.id = t.role_id WHERE t.engagement_id = $1`;

/** Everybody who does open work of engagement $1, with their time off from day $2 on. */
const PEOPLE = `
  SELECT p.id, p.week, ${timeOffOf('p', 'o.to_day >= $2')} AS off FROM person p
  WHERE p.id IN (SELECT a.person_id FROM task_assignee a JOIN task t ON t.id = a.task_id WHERE t.engagement_id = $1 AND ${isOpen('t')}) ORDER BY p.id`;

/**
 * A mark that changes as soon as a forecast of engagement e (with its summary s) may come out
 * differently, on the day given as parameter.
 */
const markOn = (day: string): string => `concat_ws(' ', ${day}::date, s.revision, e.start_day, e.promised_day,
  (SELECT md5(string_agg(concat_ws(' ', p.id, p.week, ${timeOffOf('p', `o.to_day >= ${day}::date`)}), ',' ORDER BY p.id)) FROM person p
   WHERE p.id IN (SELECT a.person_id FROM task_assignee a JOIN task t ON t.id = a.task_id WHERE t.engagement_id = e.id AND ${isOpen('t')})))`;

const MARK = `
  SELECT e.agency_id AS "agencyId", ${markOn('$2')} AS mark FROM engagement e LEFT JOIN engagement_summary s ON s.engagement_id = e.id WHERE e.id = $1`;

/** Open engagements whose forecast is missing or of another time, as of day $1. */
const OUT_OF_DATE = `
  SELECT e.id FROM engagement e LEFT JOIN engagement_summary s ON s.engagement_id = e.id LEFT JOIN forecast f ON f.engagement_id = e.id
  WHERE e.state IN ('proposal', 'open') AND f.mark IS DISTINCT FROM ${markOn('$1')} ORDER BY e.id`;

export interface TaskRow {
  readonly id: string;
  readonly role: string | null;
  readonly roleName: string | null;
  readonly title: string;
  readonly phase: string;
  readonly due: IsoDay;
  readonly isOver: boolean;
  readonly assignees: readonly PersonRef[];
}

/** What a forecast is computed from. */
export interface ForecastFacts {
  readonly engagementId: string;
  readonly agencyId: string;
  readonly plan: PlanFacts;
  readonly tasks: readonly TaskRow[];
  readonly input: ForecastInput;
  /** Another as soon as the input is. */
  readonly key: string;
  readonly mark: string;
}

/** Reads what a forecast is computed from; the caller has checked that the engagement is there and may be seen. */
export async function readForecastFacts(manager: EntityManager, engagementId: string, today: IsoDay): Promise<ForecastFacts> {
  // The mark is read first: a change while the rest is read makes the forecast old, never new by mistake.
  const marked = await firstRow<{ agencyId: string; mark: string }>(manager, MARK, [engagementId, today]);
  if (marked === null) throw new Error(`engagement ${engagementId} vanished`);
  const [plan, tasks, people] = await Promise.all([
    readPlanFacts(manager, engagementId),
    rowsOf<TaskRow>(manager, TASKS, [engagementId]),
    rowsOf<PersonInput>(manager, PEOPLE, [engagementId, today]),
  ]);
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const known = new Set(people.map(({ id }) => id));
  const schedule = toScheduleInput(plan, today);
  const input: ForecastInput = {
    ...schedule,
    tasks: schedule.tasks.map((task) => ({
      ...task,
      role: byId.get(task.id)?.role ?? null,
      who: (byId.get(task.id)?.assignees ?? []).map(({ id }) => id).filter((id) => known.has(id)),
    })),
    people,
    record: await readRecord(manager, { agencyId: marked.agencyId, before: today, plan }),
    runs: RUNS,
    seed: SEED,
  };
  const key = createHash('sha256').update(JSON.stringify(input)).digest('base64url');
  return { engagementId, ...marked, plan, tasks, input, key };
}

export const readOutOfDate = (manager: EntityManager, today: IsoDay): Promise<{ readonly id: string }[]> =>
  rowsOf(manager, OUT_OF_DATE, [today]);

async function readRecord(
  manager: EntityManager,
  of: { readonly agencyId: string; readonly before: IsoDay; readonly plan: PlanFacts },
): Promise<FinishedTask[]> {
  const rows = await rowsOf<{ role: string | null; planned: number; realStart: IsoDay; doneOn: IsoDay }>(manager, RECORD, [
    of.agencyId,
    of.before,
  ]);
  const days = unwrap(compileCalendar(of.plan.calendar));
  return rows.map(({ role, planned, realStart, doneOn }) => ({
    role,
    planned,
    real: Math.max(1, workingDaysBetween(days, parseDay(realStart) as number, (parseDay(doneOn) as number) + 1)),
  }));
}
