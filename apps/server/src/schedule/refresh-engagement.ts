import { compileCalendar, parseDay, replan, workingDaysBetween, type Move, type Schedule, type IsoDay } from '@crew/core';
import type { EntityManager } from 'typeorm';
import type { FieldChange } from '@crew/contract';
import { record, type NewEvent } from '../activity/record.ts';
import { unwrap } from '../platform/refusal.ts';
import { isJob, type By } from '../platform/actor.ts';
import { announceChange } from '../platform/announce.ts';
import { readPlanFacts, toScheduleInput, type PlanFacts, type TaskFacts } from './plan-facts.ts';
import { percentOfSums } from '@crew/core';
import { briefDays } from './brief-days.ts';
import { groupStandings } from './group-standing.ts';
import { isOpen, keepSums, leavesOf, summarise, sumsOf } from './summarise.ts';
import { affectedRows, firstRow, rowsOf } from '../platform/database.ts';

/** What a change did to the plan. */
export interface Refreshed {
  readonly facts: PlanFacts;
  readonly schedule: Schedule;
  readonly moves: readonly Move[];
}

/** What is to be computed anew, and who changed something that asks for it. */
export interface PlanRefresh {
  readonly today: IsoDay;
  readonly by: By;
  /** Tasks whose days may follow from what was changed. */
  readonly changed: readonly string[];
  /** Tasks that have just been made: their first days are no news. */
  readonly made?: readonly string[];
  /** Of those whose status was changed a moment ago, those that went back: their own days went back with it. */
  readonly returned?: readonly string[];
}

/**
 * Computes an engagement anew after a change and writes what follows from it: new days for
 * the changed tasks and those behind them, slack and expected days for all, percent, and the
 * summary lists read. Call it inside the transaction of the change.
 */
export async function refreshEngagement(manager: EntityManager, engagementId: string, change: PlanRefresh): Promise<Refreshed> {
  return refreshPlan(manager, await readPlanFacts(manager, engagementId), change);
}

/** As `refreshEngagement` for a caller who has the facts, with the change in them, already. */
export async function refreshPlan(manager: EntityManager, facts: PlanFacts, change: PlanRefresh): Promise<Refreshed> {
  // Statuses written a moment ago count as changed too: their plan is due, and this is it.
  const returned = new Set(change.returned);
  const pending = facts.pendingTaskIds.filter((id) => !returned.has(id));
  const refreshed = computePlan(withGroups(facts), { ...change, changed: [...new Set([...change.changed, ...pending])] });
  const { dueOf, rescheduled, written } = await writeTasks(manager, refreshed);
  const grouped = await writeGroups(manager, facts, refreshed.facts);
  const others = [
    await writeBriefs(manager, refreshed),
    await writePhases(manager, refreshed),
    await writeSummary(manager, refreshed, { today: change.today, dueOf }),
  ];
  const made = new Set(change.made);
  const events = [...grouped, ...rescheduled.filter(({ subjectId }) => !made.has(subjectId))];
  await record(manager, events.length === 0 ? change.by : await withCause(manager, change.by, facts), events);
  // A write that differs in nothing is announced to nobody; events are announced with themselves.
  if (events.length === 0 && written + others.reduce((sum, count) => sum + count, 0) > 0)
    await announceChange(manager, { agencyId: facts.agencyId, topics: [`engagement:${facts.engagementId}`] });
  return refreshed;
}

/** The facts with what follows for tasks with subtasks from theirs. */
function withGroups(facts: PlanFacts): PlanFacts {
  const standings = new Map(groupStandings(facts.tasks).map((group) => [group.id, group]));
  if (standings.size === 0) return facts;
  return {
    ...facts,
    tasks: facts.tasks.map((task) => ({ ...task, ...standings.get(task.id), ...(standings.has(task.id) ? NOT_WAITING : {}) })),
  };
}

const NOT_WAITING = { waitingOn: null, waitingSince: null } as const;

/** A job computes what followed from the status somebody changed last. */
async function withCause(manager: EntityManager, by: By, { pendingTaskIds }: PlanFacts): Promise<By> {
  if (!isJob(by.actor) || pendingTaskIds.length === 0) return by;
  const sql = `SELECT max(id)::text AS id FROM event WHERE subject_id = ANY($1) AND kind = 'task-status-changed'`;
  return { ...by, causeId: (await firstRow<{ id: string | null }>(manager, sql, [pendingTaskIds]))?.id ?? null };
}

/** Writes the standing of tasks with subtasks where it differs, and answers what that was. */
async function writeGroups(manager: EntityManager, before: PlanFacts, after: PlanFacts): Promise<NewEvent[]> {
  const kept = new Map(before.tasks.map((task) => [task.id, task]));
  const differing = after.tasks.filter((task) => task !== kept.get(task.id) && task.isGroup && differs(task, kept.get(task.id)));
  if (differing.length === 0) return [];
  await rowsOf(
    manager,
    `UPDATE task SET status = v.status, real_start = v."realStart", done_on = v."doneOn", waiting_on = NULL, waiting_since = NULL
     FROM jsonb_to_recordset($1) AS v(id uuid, status text, "realStart" date, "doneOn" date) WHERE task.id = v.id`,
    [JSON.stringify(differing.map(({ id, status, realStart, doneOn }) => ({ id, status, realStart, doneOn })))],
  );
  return differing.flatMap((task): NewEvent[] => {
    const was = kept.get(task.id) as TaskFacts;
    const changes = (['status', 'realStart', 'doneOn'] as const)
      .filter((field) => was[field] !== task[field])
      .map((field): FieldChange => ({ field, from: was[field], to: task[field] }));
    return [{ ...about(before, task.id), kind: 'task-status-changed', changes, facts: { from: was.status } }];
  });
}

const about = ({ engagementId }: PlanFacts, taskId: string) => ({ engagementId, subject: 'task', subjectId: taskId }) as const;

const differs = (task: TaskFacts, before: TaskFacts | undefined): boolean =>
  task.status !== before?.status || task.realStart !== before.realStart || task.doneOn !== before.doneOn;

/** Answers how many it changed. */
async function writeBriefs(manager: EntityManager, { facts, schedule }: Refreshed): Promise<number> {
  const days = briefDays(facts, schedule);
  const moved = facts.tasks.filter((task) => days.has(task.id) && days.get(task.id) !== task.outside?.briefBy);
  if (moved.length === 0) return 0;
  return affectedRows(manager, 'UPDATE task SET brief_by = v.day FROM unnest($1::uuid[], $2::date[]) AS v(id, day) WHERE task.id = v.id', [
    moved.map((task) => task.id),
    moved.map((task) => days.get(task.id)),
  ]);
}

/** The same computation without writing anything. */
export function computePlan(facts: PlanFacts, change: { readonly today: IsoDay; readonly changed: readonly string[] }): Refreshed {
  const titleOf = new Map([
    ...facts.tasks.map((task) => [task.id, task.title] as const),
    ...facts.phases.map((phase) => [phase.id, phase.name] as const),
  ]);
  const present = facts.tasks.map((task) => ({ id: task.id, start: task.startDay, due: task.dueDay }));
  const { schedule, moves } = unwrap(replan(toScheduleInput(facts, change.today), present, change.changed), (id) => titleOf.get(id) ?? id);
  return { facts, schedule, moves };
}

/** Writes what differs; answers how many rows that was, the day each task is due from now on, and which of those people’s work is rescheduled. */
async function writeTasks(
  manager: EntityManager,
  { facts, schedule, moves }: Refreshed,
): Promise<{ readonly written: number; readonly dueOf: ReadonlyMap<string, IsoDay>; readonly rescheduled: readonly NewEvent[] }> {
  const moved = new Map(moves.map((move) => [move.id, move.to]));
  const missed = new Map(schedule.conflicts.map((conflict) => [conflict.task, conflict.days]));
  const byId = new Map(facts.tasks.map((task) => [task.id, task]));
  const causes = facts.pendingTaskIds.length;
  const ahead = new Set(facts.phases.filter((phase) => phase.state === 'ahead').map((phase) => phase.id));
  const rows = schedule.tasks.map((task) => {
    const before = byId.get(task.id) as TaskFacts;
    // Nobody works to the days of a phase that has not begun: they follow the planner until it is picked up.
    const computed = ahead.has(before.phaseId)
      ? { start: task.start, due: task.finish }
      : (moved.get(task.id) ?? { start: before.startDay, due: before.dueDay });
    const days = before.status === 'done' ? { start: task.start, due: before.dueDay } : computed;
    return { ...task, startDay: days.start, dueDay: days.due < days.start ? days.start : days.due, open: openPredecessors(before, byId) };
  });
  const written = await affectedRows(
    manager,
    `UPDATE task SET start_day = v.start_day, due_day = v.due_day, expected_day = v.expected, slack = v.slack, is_critical = v.critical,
            missed_days = v.missed, open_predecessors = v.open
     FROM unnest($1::uuid[], $2::date[], $3::date[], $4::date[], $5::int[], $6::bool[], $7::int[], $8::int[])
       AS v(id, start_day, due_day, expected, slack, critical, missed, open)
     WHERE task.id = v.id AND (task.start_day, task.due_day, task.expected_day, task.slack, task.is_critical, task.missed_days, task.open_predecessors)
       IS DISTINCT FROM (v.start_day, v.due_day, v.expected, v.slack, v.critical, v.missed, v.open)`,
    [
      rows.map((row) => row.id),
      rows.map((row) => row.startDay),
      rows.map((row) => row.dueDay),
      rows.map((row) => row.finish),
      rows.map((row) => row.slack),
      rows.map((row) => row.critical),
      rows.map((row) => missed.get(row.id) ?? 0),
      rows.map((row) => row.open),
    ],
  );
  const rescheduled = rows.flatMap((row): NewEvent[] => {
    const before = byId.get(row.id) as TaskFacts;
    const changes = (['startDay', 'dueDay'] as const)
      .filter((field) => before[field] !== row[field])
      .map((field): FieldChange => ({ field, from: before[field], to: row[field] }));
    return changes.length === 0 || ahead.has(before.phaseId)
      ? []
      : [{ ...about(facts, row.id), kind: 'task-rescheduled', changes, payload: causes > 1 ? { causes } : {} }];
  });
  return { written, dueOf: new Map(rows.map((row) => [row.id, row.dueDay])), rescheduled };
}

/** How many dependencies still keep a task from starting. */
function openPredecessors(task: TaskFacts, byId: ReadonlyMap<string, TaskFacts>): number {
  return task.after.filter((link) => {
    const before = byId.get(link.task);
    if (before === undefined || !isOpen(before)) return false;
    return link.type === 'FS' || (link.type === 'SS' && before.realStart === null);
  }).length;
}

/** Answers how many it changed. */
async function writePhases(manager: EntityManager, { facts, schedule }: Refreshed): Promise<number> {
  const leaves = leavesOf(facts.tasks);
  const sums = facts.phases.map((phase) => sumsOf(leaves.filter((task) => task.phaseId === phase.id)));
  return affectedRows(
    manager,
    `UPDATE phase SET planned_start = v.start, planned_finish = v.finish, percent = v.percent, progress = v.progress
     FROM unnest($1::uuid[], $2::date[], $3::date[], $4::int[], $5::jsonb[]) AS v(id, start, finish, percent, progress)
     WHERE phase.id = v.id AND (phase.planned_start, phase.planned_finish, phase.percent, phase.progress)
       IS DISTINCT FROM (v.start, v.finish, v.percent, v.progress)`,
    [
      schedule.phases.map((phase) => phase.id),
      schedule.phases.map((phase) => earliestIn(facts, phase)),
      schedule.phases.map((phase) => phase.finish),
      sums.map(percentOfSums),
      sums.map((sum) => JSON.stringify(keepSums(sum))),
    ],
  );
}

/** A phase that has begun began with the first of its tasks, should one have been done before its day. */
function earliestIn({ phases, tasks }: PlanFacts, { id, start }: Schedule['phases'][number]): IsoDay {
  if (phases.find((phase) => phase.id === id)?.state === 'ahead') return start;
  const real = tasks.flatMap((task) => (task.phaseId === id && task.realStart !== null ? [task.realStart] : []));
  return [start, ...real].sort()[0] as IsoDay;
}

/** Answers 1 when a figure is another than before. */
async function writeSummary(
  manager: EntityManager,
  { facts, schedule }: Refreshed,
  { today, dueOf }: { readonly today: IsoDay; readonly dueOf: ReadonlyMap<string, IsoDay> },
): Promise<number> {
  const begun = new Set(facts.phases.filter((phase) => phase.state !== 'ahead').map((phase) => phase.id));
  const tasks = facts.tasks.map((task) => ({ ...task, dueDay: dueOf.get(task.id) ?? task.dueDay, isBegun: begun.has(task.phaseId) }));
  const figures = summarise(tasks, today);
  const [row] = await rowsOf<{ differs: boolean | null }>(
    manager,
    `INSERT INTO engagement_summary (engagement_id, percent, open_tasks, overdue_tasks, effort_minutes, logged_minutes, next_due, finish_day,
       late_days, waiting_title, waiting_since, refreshed_on, progress, missed_days)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14)
     ON CONFLICT (engagement_id) DO UPDATE SET percent = excluded.percent, open_tasks = excluded.open_tasks, overdue_tasks = excluded.overdue_tasks,
       effort_minutes = excluded.effort_minutes, logged_minutes = excluded.logged_minutes, next_due = excluded.next_due,
       finish_day = excluded.finish_day, late_days = excluded.late_days, waiting_title = excluded.waiting_title,
       waiting_since = excluded.waiting_since, refreshed_on = excluded.refreshed_on, progress = excluded.progress, missed_days = excluded.missed_days, pending_task_ids = '{}',
       revision = engagement_summary.revision + 1
     RETURNING (SELECT ${figuresIn('before')} IS DISTINCT FROM ${figuresIn('engagement_summary')} FROM engagement_summary before
       WHERE before.engagement_id = $1) AS differs`,
    [
      facts.engagementId,
      figures.percent,
      figures.openTasks,
      figures.overdueTasks,
      figures.effortMinutes,
      figures.loggedMinutes,
      figures.nextDue,
      schedule.finish,
      lateDays(facts, schedule.finish),
      figures.waitingTitle,
      figures.waitingSince,
      today,
      JSON.stringify(keepSums(sumsOf(leavesOf(tasks)))),
      missedDays(facts, schedule),
    ],
  );
  return row?.differs === false ? 0 : 1;
}

/** What of a summary lists show; read in RETURNING, the row of the table itself is still as it was. */
const figuresIn = (summary: string): string =>
  `(${[
    ...['percent', 'open_tasks', 'overdue_tasks', 'effort_minutes', 'logged_minutes', 'next_due'],
    ...['finish_day', 'late_days', 'missed_days', 'waiting_title', 'waiting_since'],
  ]
    .map((column) => `${summary}.${column}`)
    .join(', ')})`;

/** By how many working days the plan misses a fixed day, the most of them; 0 when it keeps all. */
function missedDays({ tasks }: PlanFacts, { conflicts }: Schedule): number {
  const fixed = new Set(tasks.filter((task) => task.fixedDay !== null && isOpen(task)).map(({ id }) => id));
  return Math.max(0, ...conflicts.filter(({ task }) => fixed.has(task)).map(({ days }) => days));
}

/** Working days by which the finish lies beyond the promise. */
function lateDays(facts: PlanFacts, finish: IsoDay): number {
  if (facts.promisedDay === null) return 0;
  const calendar = unwrap(compileCalendar(facts.calendar));
  return Math.max(0, workingDaysBetween(calendar, (parseDay(facts.promisedDay) as number) + 1, (parseDay(finish) as number) + 1));
}
