import { Injectable } from '@nestjs/common';
import type { PlanTask, TaskSheet, TaskStatus } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { Change } from '../event/record-event.ts';
import { PLAN_TASK } from '../engagement/engagement.repository.ts';
import { firstRow, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { taskSeenBy } from '../platform/visible.ts';
import type { SummaryFigures, SummaryTask } from '../schedule/summarise.ts';
import { isReopened, type TaskFields } from './next-fields.ts';

const TIE = `json_build_object('id', o.id, 'number', o.number, 'title', o.title, 'status', o.status)`;

const SHEET = `
  SELECT ${PLAN_TASK} AS task, t.description,
    json_build_object('id', e.id, 'name', e.name, 'client', json_build_object('name', c.name, 'hue', c.hue)) AS engagement, p.name AS phase,
    coalesce((SELECT json_agg(json_build_object('id', s.id, 'title', s.title, 'isDone', s.is_done) ORDER BY s.position) FROM step s WHERE s.task_id = t.id), '[]') AS steps,
    coalesce((SELECT json_agg(${TIE} ORDER BY o.number) FROM task_link l JOIN task o ON o.id = l.predecessor_id WHERE l.successor_id = t.id), '[]') AS "waitsFor",
    coalesce((SELECT json_agg(${TIE} ORDER BY o.number) FROM task_link l JOIN task o ON o.id = l.successor_id WHERE l.predecessor_id = t.id), '[]') AS "holdsUp",
    coalesce((SELECT json_agg(json_build_object('id', v.id::text, 'at', v.at, 'who', v.who, 'what', v.kind, 'changes', v.changes) ORDER BY v.id DESC)
      FROM (SELECT v.id, v.at, v.kind, v.changes, coalesce(w.name, k.name) AS who FROM event v
            LEFT JOIN account y ON y.id = v.account_id LEFT JOIN person w ON w.id = y.person_id LEFT JOIN contact k ON k.id = y.contact_id
            WHERE v.subject_id = t.id ORDER BY v.id DESC LIMIT 20) v), '[]') AS happened
  FROM task t JOIN engagement e ON e.id = t.engagement_id JOIN client c ON c.id = e.client_id JOIN phase p ON p.id = t.phase_id
  LEFT JOIN role r ON r.id = t.role_id`;

/** A task as a change to it needs it. */
export interface TaskToChange extends TaskFields {
  readonly id: string;
  readonly engagementId: string;
  readonly phaseId: string;
  readonly startDay: string;
  readonly isChargeable: boolean;
  readonly assigneeIds: readonly string[];
  readonly version: number;
}

/** A task with what its status decides: where its engagement and phase stand, as of a revision of the summary. */
export interface TaskAmongOthers extends TaskToChange {
  readonly revision: number;
  readonly tasks: readonly SummaryTask[];
}

/** A status to be written, with the figures that follow from it. */
export interface StatusChange {
  readonly task: TaskAmongOthers;
  readonly next: TaskFields;
  readonly changes: readonly Change[];
  readonly figures: SummaryFigures;
  readonly phasePercent: number;
  readonly by: { readonly accountId: string; readonly agencyId: string; readonly at: Date };
}

const FIELDS = `
  t.id, t.engagement_id AS "engagementId", t.phase_id AS "phaseId", t.title, t.description, t.status, t.waiting_on AS "waitingOn",
  t.waiting_since AS "waitingSince", t.days, t.estimate_minutes AS "estimateMinutes", t.fixed_day AS "fixedDay", t.real_start AS "realStart",
  t.done_on AS "doneOn", t.start_day AS "startDay", t.priority, t.is_shown_to_client AS "isShownToClient", t.is_chargeable AS "isChargeable",
  t.version, ARRAY(SELECT a.person_id FROM task_assignee a WHERE a.task_id = t.id ORDER BY a.position) AS "assigneeIds"`;

/** Figures that follow need the other tasks of the engagement: as rows of values, a third of the time of objects. */
const AMONG_OTHERS = `
  SELECT ${FIELDS}, s.revision,
    (SELECT json_agg(json_build_array(o.id, p.id, p.state <> 'ahead', o.status, o.due_day, o.estimate_minutes, o.logged_minutes, o.steps_done, o.steps_all,
        o.waiting_on, o.waiting_since, CASE WHEN o.waiting_on IS NOT NULL OR o.id = t.id THEN o.title END))
     FROM task o JOIN phase p ON p.id = o.phase_id WHERE o.engagement_id = t.engagement_id) AS rows
  FROM task t JOIN engagement_summary s ON s.engagement_id = t.engagement_id`;

type OtherRow = readonly [
  ...[id: string, phaseId: string, isBegun: boolean, status: TaskStatus, dueDay: string, estimateMinutes: number | null],
  ...[
    loggedMinutes: number,
    stepsDone: number,
    stepsAll: number,
    waitingOn: string | null,
    waitingSince: string | null,
    title: string | null,
  ],
];

function toSummaryTask(row: OtherRow): SummaryTask {
  const [id, phaseId, isBegun, status, dueDay, estimateMinutes, loggedMinutes, stepsDone, stepsAll, waitingOn, waitingSince, title] = row;
  return {
    id,
    phaseId,
    isBegun,
    status,
    dueDay,
    estimateMinutes,
    loggedMinutes,
    stepsDone,
    stepsAll,
    waitingOn,
    waitingSince,
    title: title ?? '',
  };
}

/**
 * The whole change in one statement and so in one transaction: locks as everybody does, the
 * engagement first, writes nothing when the task or the figures were changed meanwhile, keeps
 * the event, and asks for the plan behind it. With tasks pending before it that is asked for
 * already: whoever computes the plan takes the same lock, and takes all that is pending.
 */
const WRITE_STATUS = `
  WITH place AS MATERIALIZED (SELECT id FROM engagement WHERE id = $2 FOR UPDATE),
  held AS MATERIALIZED (SELECT task.id FROM task, place WHERE task.id = $1 AND task.version = $3 FOR UPDATE OF task),
  summary AS (
    UPDATE engagement_summary SET percent = $5, open_tasks = $6, overdue_tasks = $7, effort_minutes = $8, next_due = $9, waiting_title = $10,
      waiting_since = $11, revision = revision + 1, pending_task_ids = CASE WHEN $1 = ANY(pending_task_ids) THEN pending_task_ids ELSE pending_task_ids || $1::uuid END
    FROM held WHERE engagement_id = $2 AND revision = $4 RETURNING cardinality(pending_task_ids) AS pending),
  written AS (
    UPDATE task SET status = $12, waiting_on = $13, waiting_since = $14, real_start = $15, done_on = $16, reopened = reopened + $17, version = version + 1
    FROM summary WHERE task.id = $1 RETURNING task.id, task.phase_id, summary.pending),
  phased AS (UPDATE phase SET percent = $18 FROM written WHERE phase.id = written.phase_id AND phase.percent <> $18),
  kept AS (INSERT INTO event (agency_id, engagement_id, account_id, subject, subject_id, kind, changes, at)
    SELECT $19, $2, $20, 'task', written.id, 'changed', $21, $22 FROM written)
  SELECT CASE WHEN pending = 1 THEN
    (SELECT (graphile_worker.add_job('refresh-engagement', payload := json_build_object('engagementId', $2::uuid), job_key := 'refresh ' || $2::uuid)).id)
  END FROM written`;

@Injectable()
export class TaskRepository {
  /** The whole sheet of a task, or null when it may not be seen. */
  async findSheet(manager: EntityManager, who: Who, taskId: string): Promise<TaskSheet | null> {
    const seen = taskSeenBy(who, 2);
    type Row = Omit<TaskSheet, keyof PlanTask> & { readonly task: PlanTask };
    const row = await firstRow<Row>(manager, `${SHEET} WHERE t.id = $1 AND ${seen.sql}`, [taskId, ...seen.values]);
    if (row === null) return null;
    const { task, ...rest } = row;
    return { ...task, ...rest };
  }

  /** Refuses an edit of a task that is not as its editor saw it, with how it is now. */
  async refuseStale(manager: EntityManager, who: Who, taskId: string): Promise<never> {
    const current = await this.findSheet(manager, who, taskId);
    throw new Refusal('changed-meanwhile', 'Somebody changed this task since you opened it. Look at both and choose.', {
      details: { current },
    });
  }

  /**
   * Locks the engagement, then the task, always in this order, so that two edits of one plan
   * wait for each other instead of computing from facts that change under them.
   */
  async lock(manager: EntityManager, who: Who, taskId: string): Promise<TaskToChange | null> {
    const seen = taskSeenBy(who, 2);
    const place = await firstRow<{ engagementId: string }>(
      manager,
      `SELECT t.engagement_id AS "engagementId" FROM task t WHERE t.id = $1 AND ${seen.sql}`,
      [taskId, ...seen.values],
    );
    if (place === null) return null;
    await rowsOf(manager, 'SELECT 1 FROM engagement WHERE id = $1 FOR UPDATE', [place.engagementId]);
    return firstRow<TaskToChange>(manager, `SELECT ${FIELDS} FROM task t WHERE t.id = $1 FOR UPDATE OF t`, [taskId]);
  }

  /** A task with the tasks around it, read without holding anybody up; null when it may not be seen. */
  async findAmongOthers(manager: EntityManager, who: Who, taskId: string): Promise<TaskAmongOthers | null> {
    const seen = taskSeenBy(who, 2);
    type Row = Omit<TaskAmongOthers, 'tasks'> & { readonly rows: readonly OtherRow[] };
    const row = await firstRow<Row>(manager, `${AMONG_OTHERS} WHERE t.id = $1 AND ${seen.sql}`, [taskId, ...seen.values]);
    if (row === null) return null;
    const { rows, ...task } = row;
    return { ...task, tasks: rows.map(toSummaryTask) };
  }

  /** Writes a status and what follows at once; false when somebody was faster and nothing was written. */
  async writeStatus(manager: EntityManager, { task, next, changes, figures, phasePercent, by }: StatusChange): Promise<boolean> {
    const written = await rowsOf(manager, WRITE_STATUS, [
      task.id,
      task.engagementId,
      task.version,
      task.revision,
      figures.percent,
      figures.openTasks,
      figures.overdueTasks,
      figures.effortMinutes,
      figures.nextDue,
      figures.waitingTitle,
      figures.waitingSince,
      next.status,
      next.waitingOn,
      next.waitingSince,
      next.realStart,
      next.doneOn,
      isReopened(task, next) ? 1 : 0,
      phasePercent,
      by.agencyId,
      by.accountId,
      JSON.stringify(changes),
      by.at,
    ]);
    return written.length > 0;
  }
}
