import { isDeepStrictEqual } from 'node:util';
import type { EntityManager } from 'typeorm';
import { isJob, type By } from '../platform/actor.ts';
import { rowsOf } from '../platform/database.ts';
import { lockTasks } from '../platform/locks.ts';
import { deleteTasks } from './delete-tasks.ts';
import { FIELD_COLUMNS, type TaskPart } from './task-fields.ts';
import type { TaskImage } from './task-images.ts';

/** The tasks of an engagement as they are and as they are to be. */
export interface ImagesToWrite {
  readonly before: readonly TaskImage[];
  readonly after: readonly TaskImage[];
}

/** What a change of a task writes into its row. */
const WRITTEN = [...FIELD_COLUMNS, 'version', 'reopened', 'brief_by', 'is_group', 'steps_all', 'steps_done'];

const UPDATE_ROWS = `
  WITH v AS MATERIALIZED (SELECT x AS given, jsonb_populate_record(NULL::task, x) AS row FROM jsonb_array_elements($1::jsonb) x)
  UPDATE task SET ${WRITTEN.map((column) => `${column} = CASE WHEN v.given ? '${column}' THEN (v.row).${column} ELSE task.${column} END`).join(', ')}
  FROM v WHERE task.id = (v.row).id`;

/**
 * Writes the tasks of an engagement as they are to be: only what differs, each kind of thing in
 * one statement however many tasks there are. The engagement must be locked and `before` read
 * under that lock; every reference must be good.
 */
export async function writeTaskImages(manager: EntityManager, by: By, { before, after }: ImagesToWrite): Promise<void> {
  const was = new Map(before.map((image) => [image.id, image]));
  const is = new Set(after.map(({ id }) => id));
  const came = after.filter(({ id }) => !was.has(id));
  const stayed = after.flatMap((image) => {
    const first = was.get(image.id);
    return first === undefined || first === image ? [] : [{ first, image }];
  });
  await lockTasks(
    manager,
    stayed.map(({ image }) => image.id),
  );
  await insertRows(manager, came);
  await updateRows(manager, stayed);
  const changedIn = (part: TaskPart | 'steps'): TaskImage[] =>
    stayed.filter(({ first, image }) => !isDeepStrictEqual(first[part], image[part])).map(({ image }) => image);
  await writeAfter(manager, { came, changed: changedIn('after') });
  await writeFiles(manager, { came, changed: changedIn('files') });
  await writeAssignees(manager, by, { came, changed: changedIn('assignees') });
  await writeSteps(manager, { came, changed: changedIn('steps') });
  await deleteTasks(
    manager,
    before.filter(({ id }) => !is.has(id)).map(({ id }) => id),
  );
}

/** Makes tasks with all that hangs on them; `isExpected` ones are new to nobody. */
export async function insertTaskImages(
  manager: EntityManager,
  by: By,
  {
    images,
    isExpected,
    tell,
  }: { readonly images: readonly TaskImage[]; readonly isExpected: boolean; readonly tell?: (done: number) => void },
): Promise<void> {
  await insertRows(manager, images, tell);
  const parts = { came: images, changed: [] };
  await writeSteps(manager, parts);
  await writeFiles(manager, parts);
  await writeAfter(manager, parts);
  tell?.(images.length);
  await writeAssignees(manager, by, { ...parts, isExpected });
}

/** A JSON text of so many tasks is still small. */
const AT_ONCE = 250;

async function insertRows(manager: EntityManager, images: readonly TaskImage[], tell?: (done: number) => void): Promise<void> {
  const rows = parentsFirst(images).map(({ row }) => row);
  for (let from = 0; from < rows.length; from += AT_ONCE) {
    tell?.(from);
    const part = JSON.stringify(rows.slice(from, from + AT_ONCE));
    await rowsOf(manager, 'INSERT INTO task SELECT * FROM jsonb_populate_recordset(NULL::task, $1)', [part]);
  }
}

/** A task can only be inserted once its parent is there. */
function parentsFirst(images: readonly TaskImage[]): TaskImage[] {
  const byId = new Map(images.map((image) => [image.id, image]));
  const placed = new Set<TaskImage>();
  const place = (image: TaskImage): void => {
    if (placed.has(image)) return;
    const parent = byId.get(image.row.parent_id ?? '');
    if (parent !== undefined) place(parent);
    placed.add(image);
  };
  images.forEach(place);
  return [...placed];
}

async function updateRows(
  manager: EntityManager,
  stayed: readonly { readonly first: TaskImage; readonly image: TaskImage }[],
): Promise<void> {
  const rows = stayed.flatMap(({ first, image }) => {
    const columns = WRITTEN.filter((column) => !isDeepStrictEqual(first.row[column] ?? null, image.row[column] ?? null));
    return columns.length === 0 ? [] : [{ id: image.id, ...Object.fromEntries(columns.map((column) => [column, image.row[column]])) }];
  });
  if (rows.length > 0) await rowsOf(manager, UPDATE_ROWS, [JSON.stringify(rows)]);
}

/** What hangs on tasks: of those that came all of it is new, of those that changed all of it is as given. */
interface Parts {
  readonly came: readonly TaskImage[];
  readonly changed: readonly TaskImage[];
}

/** Rows of a table that hangs on tasks. */
const rowsFor = <Item>({ came, changed }: Parts, read: (image: TaskImage) => readonly Item[], toRow: (item: Item) => object): object[] =>
  [...came, ...changed].flatMap((image) => read(image).map((item, position) => ({ task_id: image.id, position, ...toRow(item) })));

const idsOf = (images: readonly TaskImage[]): string[] => images.map(({ id }) => id);

async function writeAfter(manager: EntityManager, parts: Parts): Promise<void> {
  if (parts.changed.length > 0) await rowsOf(manager, 'DELETE FROM task_dependency WHERE successor_id = ANY($1)', [idsOf(parts.changed)]);
  const rows = rowsFor(
    parts,
    ({ after }) => after,
    ({ taskId, type, lag }) => ({ before_id: taskId, type, lag }),
  );
  if (rows.length === 0) return;
  await rowsOf(
    manager,
    `INSERT INTO task_dependency (successor_id, predecessor_id, type, lag)
     SELECT v.task_id, v.before_id, v.type, v.lag FROM jsonb_to_recordset($1) AS v(task_id uuid, before_id uuid, type text, lag int)`,
    [JSON.stringify(rows)],
  );
}

async function writeFiles(manager: EntityManager, parts: Parts): Promise<void> {
  if (parts.changed.length > 0) await rowsOf(manager, 'DELETE FROM task_file WHERE task_id = ANY($1)', [idsOf(parts.changed)]);
  const rows = rowsFor(
    parts,
    ({ files }) => files,
    (file_id) => ({ file_id }),
  );
  if (rows.length === 0) return;
  await rowsOf(
    manager,
    `INSERT INTO task_file (task_id, file_id, position)
     SELECT v.task_id, f.id, v.position FROM jsonb_to_recordset($1) AS v(task_id uuid, file_id uuid, position int) JOIN file f ON f.id = v.file_id`,
    [JSON.stringify(rows)],
  );
}

/** Who keeps a task has seen it already, and what somebody assigns to themselves is not new to them. */
async function writeAssignees(
  manager: EntityManager,
  { actor, at }: By,
  { isExpected, ...parts }: Parts & { readonly isExpected?: boolean },
): Promise<void> {
  const rows = JSON.stringify(
    rowsFor(
      parts,
      ({ assignees }) => assignees,
      ({ personId, share }) => ({ person_id: personId, share }),
    ),
  );
  if (parts.changed.length > 0)
    await rowsOf(
      manager,
      `DELETE FROM task_assignee a WHERE a.task_id = ANY($1) AND NOT EXISTS (
         SELECT 1 FROM jsonb_to_recordset($2) AS v(task_id uuid, person_id uuid) WHERE v.task_id = a.task_id AND v.person_id = a.person_id)`,
      [idsOf(parts.changed), rows],
    );
  if (rows === '[]') return;
  await rowsOf(
    manager,
    `INSERT INTO task_assignee (task_id, person_id, position, share, assigned_at, assigned_by_id, seen_at)
     SELECT v.task_id, v.person_id, v.position, v.share, $2::timestamptz, $3::uuid, CASE WHEN $4 OR v.person_id = $3::uuid THEN $2::timestamptz END
     FROM jsonb_to_recordset($1) AS v(task_id uuid, person_id uuid, position int, share int)
     ON CONFLICT (task_id, person_id) DO UPDATE SET position = excluded.position, share = excluded.share`,
    [rows, at, isJob(actor) ? null : actor.personId, isExpected === true],
  );
}

async function writeSteps(manager: EntityManager, parts: Parts): Promise<void> {
  const rows = rowsFor(
    parts,
    ({ steps }) => steps,
    ({ id, title, isDone }) => ({ id, title, is_done: isDone }),
  );
  if (parts.changed.length > 0)
    await rowsOf(manager, 'DELETE FROM step WHERE task_id = ANY($1) AND id <> ALL($2)', [
      idsOf(parts.changed),
      parts.changed.flatMap(({ steps }) => steps.map(({ id }) => id)),
    ]);
  if (rows.length === 0) return;
  await rowsOf(
    manager,
    `INSERT INTO step (id, task_id, position, title, is_done)
     SELECT v.id, v.task_id, v.position, v.title, v.is_done
     FROM jsonb_to_recordset($1) AS v(id uuid, task_id uuid, position int, title text, is_done boolean)
     ON CONFLICT (id) DO UPDATE SET position = excluded.position, title = excluded.title, is_done = excluded.is_done`,
    [JSON.stringify(rows)],
  );
}
