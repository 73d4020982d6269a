import { Injectable } from '@nestjs/common';
import type { PlanTask, TaskSheet } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { PLAN_TASK } from '../engagement/engagement.repository.ts';
import { firstRow } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { taskSeenBy } from '../platform/visible.ts';

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

/** A task as a change to it needs it: locked until the transaction ends. */
export interface LockedTask {
  readonly id: string;
  readonly engagementId: string;
  readonly phaseId: string;
  readonly title: string;
  readonly description: string;
  readonly status: string;
  readonly waitingOn: string | null;
  readonly waitingSince: string | null;
  readonly days: number;
  readonly estimateMinutes: number | null;
  readonly fixedDay: string | null;
  readonly realStart: string | null;
  readonly startDay: string;
  readonly priority: string;
  readonly isShownToClient: boolean;
  readonly isChargeable: boolean;
  readonly assigneeIds: readonly string[];
  readonly version: number;
}

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

  /**
   * Locks the engagement, then the task, always in this order, so that two edits of one plan
   * wait for each other instead of computing from facts that change under them.
   */
  async lock(manager: EntityManager, who: Who, taskId: string): Promise<LockedTask | null> {
    const seen = taskSeenBy(who, 2);
    const place = await firstRow<{ engagementId: string }>(
      manager,
      `SELECT t.engagement_id AS "engagementId" FROM task t WHERE t.id = $1 AND ${seen.sql}`,
      [taskId, ...seen.values],
    );
    if (place === null) return null;
    await manager.query('SELECT 1 FROM engagement WHERE id = $1 FOR UPDATE', [place.engagementId]);
    return firstRow<LockedTask>(
      manager,
      `SELECT t.id, t.engagement_id AS "engagementId", t.phase_id AS "phaseId", t.title, t.description, t.status, t.waiting_on AS "waitingOn",
         t.waiting_since AS "waitingSince", t.days, t.estimate_minutes AS "estimateMinutes", t.fixed_day AS "fixedDay", t.real_start AS "realStart",
         t.start_day AS "startDay", t.priority, t.is_shown_to_client AS "isShownToClient", t.is_chargeable AS "isChargeable", t.version,
         ARRAY(SELECT a.person_id FROM task_assignee a WHERE a.task_id = t.id ORDER BY a.position) AS "assigneeIds"
       FROM task t WHERE t.id = $1 FOR UPDATE OF t`,
      [taskId],
    );
  }
}
