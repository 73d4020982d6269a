import type { EntityManager } from 'typeorm';
import { isJob, type By } from '../platform/actor.ts';
import { rowsOf } from '../platform/database.ts';
import type { TaskPart } from '../task/task-fields.ts';
import type { TaskUndo } from './fields-to-undo.ts';
import type { StepUndo, Undoing } from './plan-undo.ts';
import type { TaskImage } from './task-images.ts';
import { markGroups } from './write-changes.ts';

/** A part of a task as it is to be. */
interface PartOfTask<Row> {
  readonly taskId: string;
  readonly rows: readonly Row[];
}

/** Brings back tasks that are gone, and puts fields, parts and steps of the others back. */
export async function putBack(
  manager: EntityManager,
  { engagementId, by, undoing }: { readonly engagementId: string; readonly by: By; readonly undoing: Undoing },
): Promise<void> {
  const { gone, stayed } = undoing;
  await bringTasksBack(manager, gone);
  await restoreColumns(manager, stayed);
  await carryPhases(manager, engagementId);
  const having = <Row>(part: TaskPart): PartOfTask<Row>[] => [
    ...gone.map((image) => ({ taskId: image.id, rows: image[part] as readonly Row[] })),
    ...stayed.flatMap(({ id, parts }) => (part in parts ? [{ taskId: id, rows: parts[part] as readonly Row[] }] : [])),
  ];
  await restoreAfter(manager, having('after'));
  await restoreFiles(manager, having('files'));
  await restoreAssignees(manager, by, having('assignees'));
  await restoreSteps(manager, undoing.steps);
  await markGroups(manager, engagementId);
}

/** Without what they belonged to and is no more: a parent, a deliverable, what they repeated. */
async function bringTasksBack(manager: EntityManager, gone: readonly TaskImage[]): Promise<void> {
  if (gone.length === 0) return;
  const ids = (column: string): unknown[] => gone.map(({ row }) => row[column]).filter((id) => id !== null);
  const there = await rowsOf<{ id: string }>(
    manager,
    `SELECT id FROM task WHERE id = ANY($1) UNION ALL SELECT id FROM deliverable WHERE id = ANY($2) UNION ALL
     SELECT s.id FROM task_series s WHERE s.id = ANY($3) AND NOT EXISTS (
       SELECT 1 FROM jsonb_populate_recordset(NULL::task, $4) v JOIN task t ON t.series_id = v.series_id AND t.series_day = v.series_day WHERE v.series_id = s.id)`,
    [ids('parent_id'), ids('deliverable_id'), ids('series_id'), JSON.stringify(gone.map(({ row }) => row))],
  );
  const known = new Set<unknown>([...there.map(({ id }) => id), ...gone.map(({ id }) => id)]);
  const rows = gone.map(({ row }) => ({
    ...row,
    parent_id: known.has(row['parent_id']) ? row['parent_id'] : null,
    deliverable_id: known.has(row['deliverable_id']) ? row['deliverable_id'] : null,
    ...(known.has(row['series_id']) ? {} : { series_id: null, series_day: null }),
  }));
  await rowsOf(manager, 'INSERT INTO task SELECT * FROM jsonb_populate_recordset(NULL::task, $1)', [JSON.stringify(rows)]);
  const steps = gone.flatMap((image) =>
    image.steps.map((step, position) => ({ ...step, task_id: image.id, position, is_done: step.isDone })),
  );
  await rowsOf(manager, 'INSERT INTO step SELECT * FROM jsonb_populate_recordset(NULL::step, $1)', [JSON.stringify(steps)]);
}

/** Each task gets its own columns back; one that was edited, and not only moved, gets a new version, so that whoever shows it is told. */
async function restoreColumns(manager: EntityManager, stayed: readonly TaskUndo[]): Promise<void> {
  const rows = stayed
    .filter(({ columns, parts }) => Object.keys(columns).length + Object.keys(parts).length > 0)
    .map((undo) => ({ id: undo.id, ...undo.columns, touched: isTouched(undo) }));
  if (rows.length === 0) return;
  const columns = [...new Set(rows.flatMap((row) => Object.keys(row)))].filter((column) => column !== 'id' && column !== 'touched');
  const sets = columns.map((column) => `"${column}" = CASE WHEN v.given ? '${column}' THEN (v.was)."${column}" ELSE task."${column}" END`);
  if (columns.includes('outside_maker'))
    // Work outside has a day to brief by, which the planner puts right in a moment.
    sets.push(`brief_by = CASE WHEN NOT v.given ? 'outside_maker' THEN task.brief_by WHEN (v.was).outside_maker IS NULL THEN NULL
      ELSE coalesce(task.brief_by, task.due_day) END`);
  await rowsOf(
    manager,
    `UPDATE task SET ${[...sets, "version = task.version + CASE WHEN (v.given->>'touched')::boolean THEN 1 ELSE 0 END"].join(', ')}
     FROM (SELECT x AS given, jsonb_populate_record(NULL::task, x) AS was FROM jsonb_array_elements($1::jsonb) x) v
     WHERE task.id = (v.given->>'id')::uuid`,
    [JSON.stringify(rows)],
  );
}

const isTouched = ({ columns, parts }: TaskUndo): boolean =>
  Object.keys(parts).length > 0 || Object.keys(columns).some((column) => !['start_day', 'due_day', 'position'].includes(column));

/** Parts stand in the phase of what they are a part of, also when one of the two went back and the other was moved since. */
const carryPhases = (manager: EntityManager, engagementId: string): Promise<unknown> =>
  rowsOf(
    manager,
    `WITH RECURSIVE part AS (
       SELECT id, phase_id FROM task WHERE engagement_id = $1 AND parent_id IS NULL
       UNION ALL SELECT t.id, part.phase_id FROM task t JOIN part ON t.parent_id = part.id)
     UPDATE task SET phase_id = part.phase_id FROM part WHERE task.id = part.id AND task.phase_id <> part.phase_id`,
    [engagementId],
  );

/** What tasks waited for, as far as it is still there. */
async function restoreAfter(manager: EntityManager, parts: readonly PartOfTask<TaskImage['after'][number]>[]): Promise<void> {
  if (parts.length === 0) return;
  await rowsOf(manager, 'DELETE FROM task_link WHERE successor_id = ANY($1)', [parts.map(({ taskId }) => taskId)]);
  await rowsOf(
    manager,
    `INSERT INTO task_link (successor_id, predecessor_id, type, lag)
     SELECT v.successor, t.id, v.type, v.lag FROM jsonb_to_recordset($1) AS v(successor uuid, "taskId" uuid, type text, lag int) JOIN task t ON t.id = v."taskId"`,
    [JSON.stringify(parts.flatMap(({ taskId, rows }) => rows.map((row) => ({ ...row, successor: taskId }))))],
  );
}

async function restoreFiles(manager: EntityManager, parts: readonly PartOfTask<string>[]): Promise<void> {
  if (parts.length === 0) return;
  await rowsOf(manager, 'DELETE FROM task_file WHERE task_id = ANY($1)', [parts.map(({ taskId }) => taskId)]);
  await rowsOf(
    manager,
    `INSERT INTO task_file (task_id, file_id, position)
     SELECT v.task, f.id, v.position FROM jsonb_to_recordset($1) AS v(task uuid, file uuid, position int) JOIN file f ON f.id = v.file`,
    [JSON.stringify(parts.flatMap(({ taskId, rows }) => rows.map((file, position) => ({ task: taskId, file, position }))))],
  );
}

/** People whose part in a task did not change keep having seen it. */
async function restoreAssignees(
  manager: EntityManager,
  { actor, at }: By,
  parts: readonly PartOfTask<TaskImage['assignees'][number]>[],
): Promise<void> {
  if (parts.length === 0) return;
  const people = JSON.stringify(
    parts.flatMap(({ taskId, rows }) => rows.map(({ personId, share }, position) => ({ task: taskId, person: personId, share, position }))),
  );
  await rowsOf(
    manager,
    `DELETE FROM task_assignee a WHERE a.task_id = ANY($1) AND NOT EXISTS (
       SELECT 1 FROM jsonb_to_recordset($2) AS v(task uuid, person uuid) WHERE v.task = a.task_id AND v.person = a.person_id)`,
    [parts.map(({ taskId }) => taskId), people],
  );
  await rowsOf(
    manager,
    `INSERT INTO task_assignee (task_id, person_id, position, share, assigned_at, assigned_by_id)
     SELECT v.task, v.person, v.position, v.share, $2, $3 FROM jsonb_to_recordset($1) AS v(task uuid, person uuid, position int, share int)
     ON CONFLICT (task_id, person_id) DO UPDATE SET position = excluded.position, share = excluded.share`,
    [people, at, isJob(actor) ? null : actor.personId],
  );
}

async function restoreSteps(manager: EntityManager, steps: readonly StepUndo[]): Promise<void> {
  if (steps.length === 0) return;
  const of = (kind: StepUndo['kind']): string => JSON.stringify(steps.filter((step) => step.kind === kind));
  const given = `jsonb_to_recordset($1) AS v("stepId" uuid, "taskId" uuid, title text, "isDone" boolean)`;
  await rowsOf(manager, `DELETE FROM step USING ${given} WHERE step.id = v."stepId"`, [of('remove')]);
  await rowsOf(manager, `UPDATE step SET is_done = v."isDone" FROM ${given} WHERE step.id = v."stepId"`, [of('set')]);
  await rowsOf(
    manager,
    `INSERT INTO step (id, task_id, position, title, is_done)
     SELECT v."stepId", v."taskId", (SELECT coalesce(max(s.position), -1) + 1 FROM step s WHERE s.task_id = v."taskId"), v.title, v."isDone" FROM ${given}`,
    [of('add')],
  );
  await rowsOf(
    manager,
    `UPDATE task SET steps_all = s.total, steps_done = s.done FROM (
       SELECT t.id, count(x.id)::int AS total, (count(x.id) FILTER (WHERE x.is_done))::int AS done FROM task t LEFT JOIN step x ON x.task_id = t.id
       WHERE t.id = ANY($1) GROUP BY t.id) s WHERE task.id = s.id`,
    [steps.map(({ taskId }) => taskId)],
  );
}
