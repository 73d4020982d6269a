import type { LinkType } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { isJob, type By } from '../platform/actor.ts';
import { firstRow, rowsOf } from '../platform/database.ts';
import { firstRowOf, type TaskValues } from './task-fields.ts';

/** A task that is to be made, with all that hangs on it. What is left out begins empty. */
export interface NewTask {
  readonly id: string;
  readonly values: Pick<TaskValues, 'title' | 'phaseId'> & Partial<TaskValues>;
  /** Its first days; left out, the first day of the engagement, until the planner has placed it. */
  readonly dates?: { readonly start: string; readonly finish: string };
  readonly steps?: readonly string[];
  /** Ids of files that whoever makes it may see. */
  readonly fileIds?: readonly string[];
  readonly after?: readonly { readonly taskId: string; readonly type: LinkType; readonly lag: number }[];
  readonly assignees?: readonly { readonly personId: string; readonly share?: number }[];
}

/** Tasks that are made together in one engagement. */
export interface NewTasks {
  readonly engagementId: string;
  readonly tasks: readonly NewTask[];
  /** Whether their first days are those of the plan as promised. */
  readonly isBaseline?: boolean;
  /** Whether they were to be expected: then they are new to nobody. */
  readonly isExpected?: boolean;
  /** Hears after how many of them it goes on with the rest. */
  readonly tell?: (done: number) => void;
}

/** A JSON text of so many tasks is still small. */
const AT_ONCE = 250;

/**
 * Makes tasks: the only place where one is born. They get the next numbers, at the end of their
 * phases, in the order given; a parent made with its subtasks is a task with subtasks. The
 * engagement must be locked; whoever calls records the events and refreshes the plan.
 */
export async function insertTasks(manager: EntityManager, by: By, { engagementId, tasks, ...more }: NewTasks): Promise<void> {
  if (tasks.length === 0) return;
  const place = await takeNumbers(manager, engagementId, tasks.length);
  const parents = new Set(tasks.map(({ values }) => values.parentId ?? null));
  const rows = tasks.map((task, index) =>
    rowOf(task, { ...place, index, isGroup: parents.has(task.id), isBaseline: more.isBaseline === true }),
  );
  for (let from = 0; from < rows.length; from += AT_ONCE) {
    more.tell?.(from);
    const part = JSON.stringify(rows.slice(from, from + AT_ONCE));
    await rowsOf(manager, `INSERT INTO task SELECT * FROM jsonb_populate_recordset(NULL::task, $1)`, [part]);
  }
  await insertSteps(manager, tasks);
  await insertFiles(manager, tasks);
  await insertAfter(manager, tasks);
  more.tell?.(rows.length);
  await insertAssignees(manager, by, { tasks, isExpected: more.isExpected === true });
}

interface Place {
  readonly engagementId: string;
  readonly agencyId: string;
  readonly startDay: string;
  /** The number of the first of them. */
  readonly first: number;
}

async function takeNumbers(manager: EntityManager, engagementId: string, count: number): Promise<Place> {
  const row = await firstRow<Place>(
    manager,
    `UPDATE engagement SET last_number = last_number + $2 WHERE id = $1
     RETURNING id AS "engagementId", agency_id AS "agencyId", start_day AS "startDay", last_number - $2 + 1 AS first`,
    [engagementId, count],
  );
  return row as Place;
}

function rowOf(
  { id, values, dates, steps }: NewTask,
  place: Place & { readonly index: number; readonly isGroup: boolean; readonly isBaseline: boolean },
): object {
  const [start, finish] = [dates?.start ?? place.startDay, dates?.finish ?? dates?.start ?? place.startDay];
  const number = place.first + place.index;
  return {
    // There are never more tasks in a row than numbers were given.
    ...firstRowOf({ ...values, position: number, startDay: start, dueDay: finish }),
    ...{ id, agency_id: place.agencyId, engagement_id: place.engagementId, number, expected_day: finish, is_group: place.isGroup },
    steps_all: steps?.length ?? 0,
    brief_by: (values.outside ?? null) === null ? null : finish,
    ...(place.isBaseline ? { baseline_start: start, baseline_due: finish } : {}),
  };
}

/** Rows of a table that hangs on tasks, from what each task brings along. */
const rowsFor = <Item>(
  tasks: readonly NewTask[],
  read: (task: NewTask) => readonly Item[],
  toRow: (item: Item, index: number) => object,
): string =>
  JSON.stringify(tasks.flatMap((task) => read(task).map((item, index) => ({ task_id: task.id, position: index, ...toRow(item, index) }))));

const insertSteps = (manager: EntityManager, tasks: readonly NewTask[]): Promise<unknown> =>
  rowsOf(
    manager,
    `INSERT INTO step (task_id, position, title) SELECT v.task_id, v.position, v.title FROM jsonb_to_recordset($1) AS v(task_id uuid, position int, title text)`,
    [
      rowsFor(
        tasks,
        ({ steps = [] }) => steps,
        (title) => ({ title }),
      ),
    ],
  );

const insertFiles = (manager: EntityManager, tasks: readonly NewTask[]): Promise<unknown> =>
  rowsOf(
    manager,
    `INSERT INTO task_file (task_id, file_id, position)
     SELECT v.task_id, f.id, v.position FROM jsonb_to_recordset($1) AS v(task_id uuid, file_id uuid, position int) JOIN file f ON f.id = v.file_id`,
    [
      rowsFor(
        tasks,
        ({ fileIds = [] }) => fileIds,
        (file_id) => ({ file_id }),
      ),
    ],
  );

const insertAfter = (manager: EntityManager, tasks: readonly NewTask[]): Promise<unknown> =>
  rowsOf(
    manager,
    `INSERT INTO task_link (successor_id, predecessor_id, type, lag)
     SELECT v.task_id, v.before_id, v.type, v.lag FROM jsonb_to_recordset($1) AS v(task_id uuid, before_id uuid, type text, lag int)`,
    [
      rowsFor(
        tasks,
        ({ after = [] }) => after,
        ({ taskId, type, lag }) => ({ before_id: taskId, type, lag }),
      ),
    ],
  );

/** What somebody assigns to themselves is not new to them; people who left get nothing. */
const insertAssignees = (
  manager: EntityManager,
  { actor, at }: By,
  { tasks, isExpected }: { readonly tasks: readonly NewTask[]; readonly isExpected: boolean },
): Promise<unknown> =>
  rowsOf(
    manager,
    `INSERT INTO task_assignee (task_id, person_id, position, share, assigned_at, assigned_by_id, seen_at)
     SELECT v.task_id, w.id, v.position, v.share, $2::timestamptz, $3::uuid, CASE WHEN $4 OR w.id = $3::uuid THEN $2::timestamptz END
     FROM jsonb_to_recordset($1) AS v(task_id uuid, person_id uuid, position int, share int) JOIN person w ON w.id = v.person_id AND w.is_active`,
    [
      rowsFor(
        tasks,
        ({ assignees = [] }) => assignees,
        ({ personId, share = 1 }) => ({ person_id: personId, share }),
      ),
      ...[at, isJob(actor) ? null : actor.personId, isExpected],
    ],
  );
