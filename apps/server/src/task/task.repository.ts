import { Injectable } from '@nestjs/common';
import { percentOfSums, type IsoDay } from '@crew/core';
import type { FieldChange, PlanTask, TaskSheet } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { batchOf, recordStatusIn } from '../activity/record.ts';
import { actorKind } from '../platform/actor.ts';
import { ENGAGEMENT, isOpen, PERSON, WAYS_OF_TASK } from '../platform/sql-words.ts';
import { taskJson } from './query/select-tasks.ts';
import { PLAN_COLUMNS } from './query/task-columns.ts';
import { FILES_OF_TASK } from '../file/keep-files.ts';
import { firstRow, rowsOf } from '../platform/database.ts';
import { lockEngagements, lockTasks } from '../platform/locks.ts';
import { keyOfRequest, touchedByRequest, windowOfRequest, type KeptValue } from '../platform/request-context.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { taskSeenBy } from '../platform/visible.ts';
import { keepSums, type SummaryTask } from '../schedule/summarise.ts';
import type { Figures, Standing } from './figures-after.ts';
import { refuseAtRest } from '../engagement/refuse-at-rest.ts';
import { isReopened, type TaskFields } from './next-fields.ts';

const DEPENDENCY = `json_build_object('id', o.id, 'number', o.number, 'title', o.title, 'status', o.status, 'type', l.type, 'lag', l.lag)`;

const SHEET = `
  SELECT ${taskJson({ columns: PLAN_COLUMNS })} AS task, t.description, t.page_links AS "pageLinks", ${FILES_OF_TASK} AS files, t.custom_fields AS "customFields",
    coalesce((SELECT json_agg(${PERSON('q')}) FROM person q WHERE q.agency_id = t.agency_id
      AND q.id::text IN (SELECT x->>'value' FROM jsonb_array_elements(t.custom_fields) x)), '[]') AS "fieldPeople",
    ${ENGAGEMENT} AS engagement, p.name AS phase, coalesce((SELECT json_agg(v.way) FROM (${WAYS_OF_TASK}) v), '[]') AS ways,
    coalesce((SELECT json_agg(json_build_object('id', s.id, 'title', s.title, 'isDone', s.is_done) ORDER BY s.position) FROM step s WHERE s.task_id = t.id), '[]') AS steps,
    coalesce((SELECT json_agg(${DEPENDENCY} ORDER BY o.number) FROM task_dependency l JOIN task o ON o.id = l.predecessor_id WHERE l.successor_id = t.id), '[]') AS "waitsFor",
    coalesce((SELECT json_agg(${DEPENDENCY} ORDER BY o.number) FROM task_dependency l JOIN task o ON o.id = l.successor_id WHERE l.predecessor_id = t.id), '[]') AS "holdsUp"
  FROM task t JOIN engagement e ON e.id = t.engagement_id JOIN client c ON c.id = e.client_id JOIN phase p ON p.id = t.phase_id
  LEFT JOIN role r ON r.id = t.role_id`;

/** A task as a change to it needs it. */
export interface TaskToChange extends TaskFields {
  readonly id: string;
  readonly engagementId: string;
  readonly isGroup: boolean;
  readonly startDay: IsoDay;
  readonly assigneeIds: readonly string[];
  /** How much each of them does of it, in the same order. */
  readonly shares: readonly number[];
  readonly version: number;
}

/** A task with where its engagement and phase stand, as of a revision of the summary. */
export interface TaskStanding extends TaskToChange {
  readonly dueDay: IsoDay;
  readonly isBegun: boolean;
  readonly loggedMinutes: number;
  readonly stepsDone: number;
  readonly stepsAll: number;
  readonly revision: number;
  /** The name of its engagement when that is closed, and at rest. */
  readonly closedName: string | null;
  readonly standing: Standing;
}

/** A status to be written, with the figures that follow from it. */
export interface StatusChange {
  readonly task: TaskStanding;
  readonly next: TaskFields;
  readonly changes: readonly FieldChange[];
  readonly figures: Figures;
  readonly who: Who;
  readonly at: Date;
}

const FIELDS = `
  t.id, t.engagement_id AS "engagementId", t.phase_id AS "phaseId", t.parent_id AS "parentId", t.is_group AS "isGroup", t.title, t.description, t.status, t.waiting_on AS "waitingOn",
  t.waiting_since AS "waitingSince", t.days, t.estimate_minutes AS "estimateMinutes", t.fixed_day AS "fixedDay", t.not_before AS "notBefore",
  t.deliverable_id AS "deliverableId", t.labels, CASE WHEN t.outside_maker IS NULL THEN NULL ELSE json_build_object('outside_maker', t.outside_maker,
    'outside_turnaround', t.outside_turnaround, 'outside_buffer', t.outside_buffer, 'outside_needed_on', t.outside_needed_on, 'outside_state', t.outside_state) END AS outside,
  t.real_start AS "realStart", t.page_links AS "pageLinks", t.custom_fields AS "customFields",
  t.done_on AS "doneOn", t.start_day AS "startDay", t.priority, t.is_shown_to_client AS "isShownToClient", t.is_chargeable AS "isChargeable", t.may_start_early AS "mayStartEarly",
  t.version, ARRAY(SELECT a.person_id FROM task_assignee a WHERE a.task_id = t.id ORDER BY a.position) AS "assigneeIds",
  ARRAY(SELECT a.share FROM task_assignee a WHERE a.task_id = t.id ORDER BY a.position) AS shares`;

/** Other tasks are looked through only where this one was the first due or the one held longest. */
const STANDING = `
  SELECT ${FIELDS}, t.due_day AS "dueDay", p.state <> 'ahead' AS "isBegun", t.logged_minutes AS "loggedMinutes", t.steps_done AS "stepsDone",
    t.steps_all AS "stepsAll", s.revision, CASE WHEN e.state = 'dropped' THEN e.name END AS "closedName",
    json_build_object('refreshedOn', s.refreshed_on, 'openTasks', s.open_tasks, 'overdueTasks', s.overdue_tasks, 'effortMinutes', s.effort_minutes,
      'loggedMinutes', s.logged_minutes, 'sums', s.progress, 'phaseSums', p.progress,
      'nextDue', CASE WHEN t.due_day > s.next_due THEN s.next_due ELSE
        (SELECT o.due_day FROM task o WHERE o.engagement_id = t.engagement_id AND o.id <> t.id AND NOT o.is_group AND ${isOpen('o')} ORDER BY o.due_day LIMIT 1) END,
      'held', CASE WHEN t.waiting_on IS DISTINCT FROM 'client' THEN json_build_object('title', s.waiting_title, 'since', s.waiting_since) ELSE
        coalesce((SELECT json_build_object('title', o.title, 'since', o.waiting_since) FROM task o
          WHERE o.engagement_id = t.engagement_id AND o.id <> t.id AND NOT o.is_group AND ${isOpen('o')} AND o.waiting_on = 'client'
          ORDER BY o.waiting_since, o.title COLLATE "C" LIMIT 1), '{"title": null, "since": null}') END) AS standing
  FROM task t JOIN phase p ON p.id = t.phase_id JOIN engagement e ON e.id = t.engagement_id JOIN engagement_summary s ON s.engagement_id = t.engagement_id`;

const FOR_SUMMARY = `
  SELECT o.id, o.title, o.is_group AS "isGroup", p.id AS "phaseId", p.state <> 'ahead' AS "isBegun", o.status, o.due_day AS "dueDay", o.estimate_minutes AS "estimateMinutes",
    o.logged_minutes AS "loggedMinutes", o.steps_done AS "stepsDone", o.steps_all AS "stepsAll", o.waiting_on AS "waitingOn", o.waiting_since AS "waitingSince"
  FROM task o JOIN phase p ON p.id = o.phase_id WHERE o.engagement_id = $1`;

/**
 * The whole change in one statement and so in one transaction: locks as everybody does, the
 * engagement first, writes nothing when the task or the figures were changed meanwhile, keeps
 * the event, and keeps that the plan behind it is pending: whoever computes the plan takes
 * the same lock, and takes all that is pending. So is the key of the request kept, with the answer.
 */
const WRITE_STATUS = `
  WITH place AS MATERIALIZED (SELECT id FROM engagement WHERE id = $2 AND state <> 'dropped' FOR NO KEY UPDATE),
  held AS MATERIALIZED (SELECT task.id FROM task, place WHERE task.id = $1 AND task.version = $3 FOR NO KEY UPDATE OF task),
  summary AS (
    UPDATE engagement_summary SET percent = $5, open_tasks = $6, overdue_tasks = $7, effort_minutes = $8, next_due = $9, waiting_title = $10,
      waiting_since = $11, progress = $12, revision = revision + 1,
      pending_task_ids = CASE WHEN $1 = ANY(pending_task_ids) THEN pending_task_ids ELSE pending_task_ids || $1::uuid END
    FROM held WHERE engagement_id = $2 AND revision = $4 RETURNING engagement_id),
  written AS (
    UPDATE task SET status = $13, waiting_on = $14, waiting_since = $15, real_start = $16, done_on = $17, reopened = reopened + $18, version = version + 1
    FROM summary WHERE task.id = $1 RETURNING task.id, task.phase_id, task.engagement_id),
  kept AS (INSERT INTO idempotency_key (account_id, key, request, value) SELECT $22, $25, $26, $31::jsonb FROM written WHERE $25::text IS NOT NULL ON CONFLICT DO NOTHING),
  phased AS (UPDATE phase SET percent = $19, progress = $20 FROM written WHERE phase.id = written.phase_id AND phase.progress IS DISTINCT FROM $20),
  ${recordStatusIn('written', {
    ...{ agencyId: '$21::uuid', accountId: '$22::uuid', changes: '$23::jsonb', at: '$24::timestamptz' },
    ...{ actorKind: '$27', facts: '$28::jsonb', batchId: '$29::uuid', window: '$30' },
  })}`;

/** What writing a status answered, as it is kept with the key of its request. */
export interface StatusWritten {
  readonly kind: 'written';
  readonly changeId: string;
}
export const statusWritten = (changeId: string): StatusWritten => ({ kind: 'written', changeId });

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
    throw new Refusal('changed-meanwhile', 'Somebody changed this task since you opened it. Compare both versions and choose one.', {
      details: { current },
    });
  }

  /**
   * Locks the engagement, then the task, so that two edits of one plan wait for each other
   * instead of computing from facts that change under them. Null when it is gone or may not be seen.
   */
  async lock(manager: EntityManager, who: Who, taskId: string): Promise<TaskToChange | null> {
    return (await this.lockAnywhere(manager, who, [taskId]))[0] ?? null;
  }

  /** As `lock`, for tasks of any engagements; those that are gone or may not be seen are left out. */
  async lockAnywhere(manager: EntityManager, who: Who, taskIds: readonly string[]): Promise<TaskToChange[]> {
    const places = await this.findPlaces(manager, who, taskIds);
    await lockEngagements(manager, places);
    await refuseAtRest(manager, places);
    await lockTasks(manager, taskIds);
    // Asked again under the locks: who could see it a moment ago may have lost it, and it may be gone.
    const seen = taskSeenBy(who, 2);
    return rowsOf<TaskToChange>(manager, `SELECT ${FIELDS} FROM task t WHERE t.id = ANY($1) AND ${seen.sql} ORDER BY t.id`, [
      taskIds,
      ...seen.values,
    ]);
  }

  /** Tasks of an engagement whose row is locked already, locked too; those that are not there are left out. */
  async lockMany(manager: EntityManager, engagementId: string, taskIds: readonly string[]): Promise<TaskToChange[]> {
    await lockTasks(manager, taskIds);
    const sql = `SELECT ${FIELDS} FROM task t WHERE t.engagement_id = $1 AND t.id = ANY($2) ORDER BY t.id`;
    return rowsOf<TaskToChange>(manager, sql, [engagementId, taskIds]);
  }

  /** The engagements of the tasks that may be seen. */
  async findPlaces(manager: EntityManager, who: Who, taskIds: readonly string[]): Promise<string[]> {
    const seen = taskSeenBy(who, 2);
    const sql = `SELECT DISTINCT t.engagement_id AS id FROM task t WHERE t.id = ANY($1) AND ${seen.sql}`;
    return (await rowsOf<{ id: string }>(manager, sql, [taskIds, ...seen.values])).map(({ id }) => id);
  }

  /** The engagement of a task, or null when the task may not be seen. */
  async findPlace(manager: EntityManager, who: Who, taskId: string): Promise<string | null> {
    const seen = taskSeenBy(who, 2);
    const sql = `SELECT t.engagement_id AS "engagementId" FROM task t WHERE t.id = $1 AND ${seen.sql}`;
    return (await firstRow<{ engagementId: string }>(manager, sql, [taskId, ...seen.values]))?.engagementId ?? null;
  }

  /** A task with where its engagement stands, read without holding anybody up; null when it may not be seen. */
  async findStanding(manager: EntityManager, who: Who, taskId: string): Promise<TaskStanding | null> {
    const seen = taskSeenBy(who, 2);
    return firstRow<TaskStanding>(manager, `${STANDING} WHERE t.id = $1 AND ${seen.sql}`, [taskId, ...seen.values]);
  }

  /** All tasks of an engagement, for figures that are summed anew. */
  listForSummary(manager: EntityManager, engagementId: string): Promise<SummaryTask[]> {
    return rowsOf<SummaryTask>(manager, FOR_SUMMARY, [engagementId]);
  }

  /** Writes a status and what follows at once; answers the batch it is kept under, or null when somebody was faster and nothing was written. */
  async writeStatus(manager: EntityManager, { task, next, changes, figures, who, at }: StatusChange): Promise<string | null> {
    const { summary, sums, phaseSums } = figures;
    const asked = keyOfRequest();
    const batchId = batchOf(manager);
    const written = await rowsOf(manager, WRITE_STATUS, [
      task.id,
      task.engagementId,
      task.version,
      task.revision,
      summary.percent,
      summary.openTasks,
      summary.overdueTasks,
      summary.effortMinutes,
      summary.nextDue,
      summary.waitingTitle,
      summary.waitingSince,
      JSON.stringify(keepSums(sums)),
      next.status,
      next.waitingOn,
      next.waitingSince,
      next.realStart,
      next.doneOn,
      isReopened(task, next) ? 1 : 0,
      percentOfSums(phaseSums),
      JSON.stringify(keepSums(phaseSums)),
      who.agencyId,
      who.accountId,
      JSON.stringify(changes),
      at,
      ...[asked?.key ?? null, asked?.request ?? null],
      ...[actorKind(who), JSON.stringify({ status: next.status, from: task.status, percent: summary.percent }), batchId],
      windowOfRequest(),
      JSON.stringify({ value: statusWritten(batchId) } satisfies KeptValue),
    ]);
    if (written.length === 0) return null;
    touchedByRequest([`engagement:${task.engagementId}`]);
    return batchId;
  }
}
