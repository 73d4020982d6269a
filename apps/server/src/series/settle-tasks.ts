import { calendarOf } from '../platform/sql-words.ts';
import { addDays, type CalendarInput, type Occurrence, occurrences, type OnClosed, type IsoDay } from '@crew/core';
import type { WhenMissed } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import type { By } from '../platform/actor.ts';
import { rowsOf } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { deleteTasks } from '../task/delete-tasks.ts';
import { insertTasks } from '../task/insert-tasks.ts';
import type { TaskPattern } from './task-series.entity.ts';

/** How far ahead tasks that repeat are made: so that they count in the load of the weeks people plan. */
export const AHEAD_DAYS = 42;

/** Today, and who changed something that asks for repeats to be made. */
interface Now {
  readonly today: IsoDay;
  readonly by: By;
}

/** A phase, and the days it runs by the plan. */
interface PhaseDays {
  readonly id: string;
  readonly isOver: boolean;
  readonly start: IsoDay;
  readonly finish: IsoDay;
}

/** A task of a series that was made. */
interface Made {
  readonly id: string;
  readonly day: IsoDay;
  readonly start: IsoDay;
  readonly phaseId: string;
  /** Nobody has touched it: it may be moved or taken away again. */
  readonly isUntouched: boolean;
  readonly isBegun: boolean;
}

/** A series with all that decides what is to be made of it. */
export interface SeriesFacts {
  readonly id: string;
  readonly agencyId: string;
  readonly engagementId: string;
  readonly isOver: boolean;
  readonly phaseId: string | null;
  /** Without a role or a deliverable that is gone. */
  readonly pattern: TaskPattern;
  readonly rule: string;
  readonly firstDay: IsoDay;
  readonly onClosed: OnClosed;
  readonly whenMissed: WhenMissed;
  readonly skipped: readonly IsoDay[];
  readonly extra: readonly IsoDay[];
  readonly madeUntil: IsoDay | null;
  readonly stoppedOn: IsoDay | null;
  readonly finish: IsoDay;
  readonly calendar: CalendarInput;
  readonly phases: readonly PhaseDays[];
  readonly made: readonly Made[];
}

const FACTS = `
  SELECT s.id, s.agency_id AS "agencyId", s.engagement_id AS "engagementId", e.state NOT IN ('proposal', 'open') AS "isOver", s.phase_id AS "phaseId",
    s.pattern || jsonb_build_object('roleId', (SELECT r.id FROM role r WHERE r.id::text = s.pattern->>'roleId'),
      'deliverableId', (SELECT d.id FROM deliverable d WHERE d.id::text = s.pattern->>'deliverableId')) AS pattern, s.rule, s.first_day AS "firstDay", s.on_closed AS "onClosed", s.when_missed AS "whenMissed", s.skipped, s.extra,
    s.made_until AS "madeUntil", s.stopped_on AS "stoppedOn", greatest(m.finish_day, e.promised_day) AS finish,
    ${calendarOf('y')} AS calendar,
    (SELECT json_agg(json_build_object('id', p.id, 'isOver', p.state = 'over', 'start', coalesce(p.started_on, p.planned_start),
      'finish', coalesce(p.finished_on, p.planned_finish)) ORDER BY p.position) FROM phase p WHERE p.engagement_id = e.id) AS phases,
    coalesce((SELECT json_agg(json_build_object('id', t.id, 'day', t.series_day, 'start', t.start_day, 'phaseId', t.phase_id,
      'isUntouched', t.status = 'queued' AND t.logged_minutes = 0 AND t.version = 1 AND t.steps_done = 0 AND NOT t.is_group AND t.planned_week IS NULL
        AND NOT EXISTS (SELECT 1 FROM desk_place d WHERE d.task_id = t.id)
        AND NOT EXISTS (SELECT 1 FROM timer x WHERE x.task_id = t.id) AND NOT EXISTS (SELECT 1 FROM task_dependency l WHERE t.id IN (l.successor_id, l.predecessor_id)),
      'isBegun', t.status <> 'queued' OR t.logged_minutes > 0) ORDER BY t.series_day)
      FROM task t WHERE t.series_id = s.id), '[]') AS made
  FROM task_series s JOIN engagement e ON e.id = s.engagement_id JOIN engagement_summary m ON m.engagement_id = e.id JOIN agency y ON y.id = s.agency_id
  WHERE s.engagement_id = $1 ORDER BY s.id`;

/**
 * Makes what repeats in an engagement as far ahead as it is to be made, takes away again what
 * nobody has touched and the plan has no place for any more, moves the rest into the phase that
 * runs on its day, and drops what was missed where that is wanted. Doing it twice changes
 * nothing. The engagement's row must be locked. Answers whether anything was done.
 */
export async function settleTaskSeries(manager: EntityManager, engagementId: string, now: Now): Promise<boolean> {
  const all = await rowsOf<SeriesFacts>(manager, FACTS, [engagementId]);
  if (all.length === 0) return false;
  const changed: string[] = [];
  const made: string[] = [];
  for (const series of all) {
    const settled = await settleOne(manager, series, now);
    changed.push(...settled.changed, ...settled.made);
    made.push(...settled.made);
  }
  await rowsOf(manager, 'UPDATE task_series SET settled_on = $2 WHERE engagement_id = $1', [engagementId, now.today]);
  if (changed.length > 0) await refreshEngagement(manager, engagementId, { ...now, changed, made });
  return changed.length > 0;
}

async function settleOne(
  manager: EntityManager,
  series: SeriesFacts,
  { today, by }: Now,
): Promise<{ readonly changed: readonly string[]; readonly made: readonly string[] }> {
  const window = windowOf(series, today);
  const wanted = window === null ? [] : occurrencesOf(series, window);
  const gone = await removeUnwanted(manager, series, { wanted, today, by });
  const moved = await moveUntouched(manager, series, { wanted, gone });
  const dropped = await dropMissed(manager, series, { today, by });
  const known = new Set(series.made.map((task) => task.day));
  const missing = wanted.filter(({ day }) => !known.has(day) && (series.madeUntil === null || day > series.madeUntil));
  const made = await makeTasks(manager, series, { missing, by });
  await rowsOf(manager, 'UPDATE task_series SET made_until = $2 WHERE id = $1', [series.id, window?.to ?? series.madeUntil]);
  return { changed: [...gone, ...moved, ...dropped], made };
}

/** The days of the rule that are to have a task, or null when there are none left. */
function windowOf(series: SeriesFacts, today: IsoDay): { readonly from: IsoDay; readonly to: IsoDay } | null {
  if (series.isOver) return null;
  const phase = series.phaseId === null ? null : series.phases.find(({ id }) => id === series.phaseId);
  if (phase?.isOver === true) return null;
  const ahead = addDays(today, AHEAD_DAYS);
  const lastDay = series.stoppedOn === null ? ahead : addDays(series.stoppedOn, -1);
  const until = phase === undefined || phase === null ? series.finish : phase.finish;
  // What is late goes on until it is over, whatever was planned.
  const to = [ahead, lastDay, until < today ? today : until].sort()[0] as IsoDay;
  const from = phase !== undefined && phase !== null && phase.start > series.firstDay ? phase.start : series.firstDay;
  return to < from ? null : { from, to };
}

/** The occurrences of a series within days of its rule. */
export function occurrencesOf(series: SeriesFacts, window: { readonly from: IsoDay; readonly to: IsoDay }): Occurrence[] {
  const { calendar, onClosed, skipped, extra, firstDay, rule } = series;
  return unwrap(occurrences({ calendar, rhythms: [{ from: firstDay, rule }], onClosed, skipped, extra, ...window }));
}

/** Removes what lies ahead, is untouched, and is wanted no more. */
async function removeUnwanted(
  manager: EntityManager,
  series: SeriesFacts,
  { wanted, today, by }: Now & { readonly wanted: readonly Occurrence[] },
): Promise<string[]> {
  const days = new Set(wanted.map(({ day }) => day));
  const gone = series.made.filter((task) => task.isUntouched && task.start > today && !days.has(task.day)).map(({ id }) => id);
  await removeRepeats(manager, by, { engagementId: series.engagementId, ids: gone });
  return gone;
}

/** Removes repeats that nobody has touched and that no rule asks for any more. */
export async function removeRepeats(
  manager: EntityManager,
  by: By,
  { engagementId, ids }: { readonly engagementId: string; readonly ids: readonly string[] },
): Promise<void> {
  if (ids.length === 0) return;
  const tasks = await rowsOf<{ id: string; title: string }>(manager, 'SELECT id, title FROM task WHERE id = ANY($1) ORDER BY number', [
    ids,
  ]);
  await deleteTasks(manager, ids);
  await record(
    manager,
    by,
    tasks.map(({ id, title }) => ({
      ...{ kind: 'task-deleted', engagementId, subject: 'task', subjectId: id, payload: { image: null }, facts: { task: title } },
    })),
  );
}

/** What nobody has touched follows the phases and the closed days. */
async function moveUntouched(
  manager: EntityManager,
  series: SeriesFacts,
  { wanted, gone }: { readonly wanted: readonly Occurrence[]; readonly gone: readonly string[] },
): Promise<string[]> {
  const onDay = new Map(wanted.map((occurrence) => [occurrence.day, occurrence.on]));
  const moves = series.made.flatMap((task) => {
    const on = onDay.get(task.day);
    if (on === undefined || !task.isUntouched || gone.includes(task.id)) return [];
    const phaseId = phaseOn(series, on);
    return on === task.start && phaseId === task.phaseId ? [] : [{ id: task.id, on, phaseId }];
  });
  if (moves.length === 0) return [];
  await rowsOf(
    manager,
    'UPDATE task SET fixed_day = v.on, phase_id = v.phase FROM unnest($1::uuid[], $2::date[], $3::uuid[]) AS v(id, "on", phase) WHERE task.id = v.id',
    [moves.map(({ id }) => id), moves.map(({ on }) => on), moves.map(({ phaseId }) => phaseId)],
  );
  return moves.map(({ id }) => id);
}

/** The phase that runs on a day: the last that has begun by then and is not over; else the first that is not over. */
function phaseOn(series: SeriesFacts, day: IsoDay): string {
  if (series.phaseId !== null) return series.phaseId;
  const open = series.phases.filter((phase) => !phase.isOver);
  const begun = open.filter((phase) => phase.start <= day);
  return (begun.at(-1) ?? open[0] ?? series.phases.at(-1))?.id as string;
}

/** An older one that nobody began is dropped once the day of a later one has come. */
async function dropMissed(manager: EntityManager, series: SeriesFacts, { today, by }: Now): Promise<string[]> {
  if (series.whenMissed === 'keep') return [];
  const latest = series.made.filter((task) => task.start <= today).at(-1);
  const missed = series.made.filter((task) => latest !== undefined && task.day < latest.day && !task.isBegun).map(({ id }) => id);
  if (missed.length === 0) return [];
  const dropped = await rowsOf<{ id: string }>(
    manager,
    `UPDATE task SET status = 'dropped', version = version + 1 WHERE id = ANY($1) AND status = 'queued' RETURNING id`,
    [missed],
  );
  const changes = [{ field: 'status', from: 'queued', to: 'dropped' }];
  await record(
    manager,
    by,
    dropped.map(({ id }) => ({
      ...{
        kind: 'task-status-changed',
        engagementId: series.engagementId,
        subject: 'task',
        subjectId: id,
        changes,
        facts: { from: 'queued' },
      },
    })),
  );
  return missed;
}

async function makeTasks(
  manager: EntityManager,
  series: SeriesFacts,
  { missing, by }: { readonly missing: readonly Occurrence[]; readonly by: By },
): Promise<string[]> {
  if (missing.length === 0) return [];
  const ids = missing.map(() => crypto.randomUUID() as string);
  const { steps, assignees, fileIds = [], ...values } = series.pattern;
  await insertTasks(manager, by, {
    engagementId: series.engagementId,
    isExpected: true,
    tasks: missing.map(({ day, on }, index) => ({
      ...{ id: ids[index] as string, steps, assignees, fileIds, dates: { start: on, finish: on } },
      values: { ...values, phaseId: phaseOn(series, on), fixedDay: on, series: { series_id: series.id, series_day: day } },
    })),
  });
  await record(
    manager,
    by,
    ids.map((id) => ({
      ...{ kind: 'task-added', engagementId: series.engagementId, subject: 'task', subjectId: id, payload: { seriesId: series.id } },
    })),
  );
  return ids;
}

/** The series of one engagement as they stand. */
export const readSeriesFacts = (manager: EntityManager, engagementId: string): Promise<SeriesFacts[]> =>
  rowsOf<SeriesFacts>(manager, FACTS, [engagementId]);
