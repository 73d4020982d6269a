import type { EntityManager } from 'typeorm';
import type { TaskChange } from '@crew/contract';
import { refuseTwice, requireOwnFields } from '../field/keep-own-fields.ts';
import { requireFiles } from '../file/keep-files.ts';
import { rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { isReopened } from '../task/next-fields.ts';
import type { NextTask } from './next-plan.ts';

/** The engagement, who changes it and when. */
export interface Writing {
  readonly engagementId: string;
  readonly who: Who;
  readonly at: Date;
}

const WRITE_FIELDS = `
  UPDATE task SET title = v.title, description = v.description, status = v.status, waiting_on = v."waitingOn", waiting_since = v."waitingSince",
    days = v.days, estimate_minutes = v."estimateMinutes", fixed_day = v."fixedDay", not_before = v."notBefore", priority = v.priority,
    is_shown_to_client = v."isShownToClient", is_chargeable = v."isChargeable", may_start_early = v."mayStartEarly", real_start = v."realStart", done_on = v."doneOn", reopened = task.reopened + v.reopened,
    links = v.links, own_fields = v."ownFields", parent_id = v."parentId", phase_id = v."phaseId", deliverable_id = v."deliverableId", labels = v.labels,
    outside_maker = v.outside->>'maker', outside_turnaround = (v.outside->>'turnaroundDays')::int, outside_buffer = (v.outside->>'bufferDays')::int,
    outside_needed_on = (v.outside->>'neededOn')::date, outside_state = v.outside->>'state',
    brief_by = CASE WHEN v.outside IS NULL THEN NULL ELSE coalesce(brief_by, due_day) END, version = task.version + 1
  FROM jsonb_to_recordset($1) AS v(id uuid, title text, description text, status text, "waitingOn" text, "waitingSince" date, days int,
    "estimateMinutes" int, "fixedDay" date, "notBefore" date, priority text, "isShownToClient" boolean, "isChargeable" boolean, "mayStartEarly" boolean, "realStart" date, "doneOn" date,
    reopened int, "parentId" uuid, "phaseId" uuid, "deliverableId" uuid, labels text[], outside jsonb,
    links jsonb, "ownFields" jsonb)
  WHERE task.id = v.id`;

/** Writes the fields of all changed tasks at once; their rows are locked and their versions were compared. */
export async function writeFields(manager: EntityManager, tasks: readonly NextTask[]): Promise<void> {
  const rows = tasks.map(({ task, next }) => ({ id: task.id, ...next, reopened: isReopened(task, next) ? 1 : 0 }));
  await rowsOf(manager, WRITE_FIELDS, [JSON.stringify(rows)]);
}

/** Parts follow what they are a part of into another phase, at any depth. */
export async function carryParts(manager: EntityManager, tasks: readonly NextTask[]): Promise<void> {
  const moved = tasks.filter(({ task, next }) => task.phaseId !== next.phaseId).map(({ task }) => task.id);
  if (moved.length === 0) return;
  await rowsOf(
    manager,
    `WITH RECURSIVE part AS (
       SELECT id, phase_id FROM task WHERE id = ANY($1)
       UNION ALL SELECT t.id, part.phase_id FROM task t JOIN part ON t.parent_id = part.id WHERE t.id <> ALL($1))
     UPDATE task SET phase_id = part.phase_id FROM part WHERE task.id = part.id AND task.phase_id <> part.phase_id`,
    [moved],
  );
}

/** A part cannot wait for what it is a part of, nor that for it: such ties go when it gets there. */
export async function untieParts(manager: EntityManager, tasks: readonly NextTask[]): Promise<void> {
  const moved = tasks.filter(({ task, next }) => next.parentId !== null && task.parentId !== next.parentId).map(({ task }) => task.id);
  if (moved.length === 0) return;
  await rowsOf(
    manager,
    `WITH RECURSIVE part AS (
       SELECT id FROM task WHERE id = ANY($1) UNION SELECT t.id FROM task t JOIN part ON t.parent_id = part.id),
     within AS (
       SELECT part.id, t.parent_id AS above FROM part JOIN task t ON t.id = part.id WHERE t.parent_id IS NOT NULL
       UNION SELECT within.id, t.parent_id FROM within JOIN task t ON t.id = within.above WHERE t.parent_id IS NOT NULL)
     DELETE FROM task_link l USING within
     WHERE (l.successor_id = within.id AND l.predecessor_id = within.above) OR (l.predecessor_id = within.id AND l.successor_id = within.above)`,
    [moved],
  );
}

/** Marks who has subtasks now; a task that has just got some leaves its fixed day and its late anchor to them; what repeats does not begin before its day all the same. */
export async function markGroups(manager: EntityManager, engagementId: string): Promise<void> {
  await rowsOf(
    manager,
    `UPDATE task t SET is_group = v.is_group, fixed_day = CASE WHEN v.is_group THEN NULL WHEN t.series_id IS NOT NULL THEN not_before ELSE fixed_day END,
       not_before = CASE WHEN t.series_id IS NULL THEN not_before WHEN v.is_group THEN coalesce(not_before, fixed_day) END,
       anchor_offset = CASE WHEN v.is_group AND anchor_at LIKE 'before-%' THEN 0 ELSE anchor_offset END,
       anchor_at = CASE WHEN v.is_group AND anchor_at LIKE 'before-%' THEN 'phase-start' ELSE anchor_at END
     FROM (SELECT p.id, EXISTS (SELECT 1 FROM task c WHERE c.parent_id = p.id) AS is_group FROM task p WHERE p.engagement_id = $1) v
     WHERE t.id = v.id AND t.is_group <> v.is_group`,
    [engagementId],
  );
}

/** Puts tasks before others of the same parent, or last, and counts the row of them anew. */
export async function placeTasks(manager: EntityManager, { engagementId }: Writing, tasks: readonly NextTask[]): Promise<void> {
  for (const { change, next } of tasks) {
    if (change.beforeId === undefined && change.parentId === undefined && change.phaseId === undefined) continue;
    const siblings = await rowsOf<{ id: string }>(
      manager,
      `SELECT id FROM task WHERE engagement_id = $1 AND phase_id = $2 AND parent_id IS NOT DISTINCT FROM $3 AND id <> $4 ORDER BY position, number`,
      [engagementId, next.phaseId, next.parentId, change.id],
    );
    const order = insertBefore(
      siblings.map((sibling) => sibling.id),
      change,
    );
    await rowsOf(
      manager,
      `UPDATE task SET position = v.place - 1 FROM unnest($1::uuid[]) WITH ORDINALITY AS v(id, place) WHERE task.id = v.id AND position <> v.place - 1`,
      [order],
    );
  }
}

function insertBefore(siblings: readonly string[], change: TaskChange): string[] {
  const before = change.beforeId ?? null;
  if (before === null) return [...siblings, change.id];
  const place = siblings.indexOf(before);
  if (place < 0)
    throw new Refusal('unknown-id', 'The task to put it before does not stand there any more. Choose again.', { field: 'beforeId' });
  return [...siblings.slice(0, place), change.id, ...siblings.slice(place)];
}

/** Replaces what tasks wait for, where that was given; a tie stays within its engagement. */
export async function writeLinks(manager: EntityManager, { engagementId }: Writing, tasks: readonly NextTask[]): Promise<void> {
  const tied = tasks.filter(({ change }) => change.after !== undefined);
  if (tied.length === 0) return;
  const wanted = tied.flatMap(({ change }) =>
    (change.after ?? []).map((tie) => ({ successor_id: change.id, predecessor_id: tie.taskId, type: tie.type, lag: tie.lag ?? 0 })),
  );
  refuseOddTies(tied);
  await rowsOf(manager, 'DELETE FROM task_link WHERE successor_id = ANY($1)', [tied.map(({ change }) => change.id)]);
  const made = await rowsOf<{ id: string }>(
    manager,
    `INSERT INTO task_link (successor_id, predecessor_id, type, lag)
     SELECT v.successor_id, v.predecessor_id, v.type, v.lag
     FROM jsonb_to_recordset($1) AS v(successor_id uuid, predecessor_id uuid, type text, lag int)
     JOIN task t ON t.id = v.predecessor_id AND t.engagement_id = $2 RETURNING successor_id AS id`,
    [JSON.stringify(wanted), engagementId],
  );
  if (made.length < wanted.length)
    throw new Refusal('unknown-id', 'A task to wait for is not in this engagement. Choose one of this plan.', { field: 'after' });
}

function refuseOddTies(tied: readonly NextTask[]): void {
  for (const { task, change } of tied) {
    const named = (change.after ?? []).map((tie) => tie.taskId);
    if (named.includes(task.id))
      throw new Refusal('waits-in-a-loop', `“${task.title}” cannot wait for itself. Remove that link.`, { field: 'after' });
    if (new Set(named).size < named.length)
      throw new Refusal('invalid-input', `“${task.title}” waits for the same task twice. One link to each is enough.`, { field: 'after' });
  }
}

/** Gives tasks to people, in the order named; who had it and keeps it has seen it already. */
export async function writeAssignees(manager: EntityManager, { who, at }: Writing, tasks: readonly NextTask[]): Promise<void> {
  const given = tasks.flatMap(({ task, change }) => {
    if (change.assigneeIds === undefined) return [];
    const people = [...new Set(change.assigneeIds)];
    const shares = sharesOf(change, people);
    const isSame = people.join() === task.assigneeIds.join() && (shares === null || shares.join() === task.shares.join());
    return isSame ? [] : [{ task, people, shares }];
  });
  if (given.length === 0) return;
  await requireCrew(manager, who, [...new Set(given.flatMap(({ people }) => people))]);
  const rows = given.flatMap(({ task, people, shares }) =>
    people.map((person_id, position) => ({ task_id: task.id, person_id, position, share: shares?.[position] ?? null })),
  );
  const taskIds = given.map(({ task }) => task.id);
  await rowsOf(
    manager,
    `DELETE FROM task_assignee a WHERE a.task_id = ANY($1) AND NOT EXISTS (
       SELECT 1 FROM jsonb_to_recordset($2) AS v(task_id uuid, person_id uuid) WHERE v.task_id = a.task_id AND v.person_id = a.person_id)`,
    [taskIds, JSON.stringify(rows)],
  );
  await rowsOf(
    manager,
    `INSERT INTO task_assignee (task_id, person_id, position, share, assigned_at, assigned_by_id, seen_at)
     SELECT v.task_id, v.person_id, v.position, coalesce(v.share, 1), $2, $3::uuid, CASE WHEN v.person_id = $3::uuid THEN $2::timestamptz END
     FROM jsonb_to_recordset($1) AS v(task_id uuid, person_id uuid, position int, share int)
     ON CONFLICT (task_id, person_id) DO UPDATE SET position = excluded.position, share = excluded.share`,
    [JSON.stringify(rows), at, who.personId],
  );
}

/** One share for each of the people, or null: then all do the same. Shares need the people they are for. */
function sharesOf(change: TaskChange, people: readonly string[]): readonly number[] | null {
  if (change.shares === undefined) return null;
  if (change.shares.length !== people.length)
    throw new Refusal('invalid-input', 'Give one share for each of the people, in the same order.', { field: 'shares' });
  return change.shares;
}

/** Puts files on tasks, all of each in the order named; what is no longer named is off the task, not gone. */
export async function writeFiles(manager: EntityManager, { who }: Writing, tasks: readonly NextTask[]): Promise<void> {
  const asked = tasks.flatMap(({ task, change }) =>
    change.fileIds === undefined ? [] : [{ id: task.id, files: [...new Set(change.fileIds)] }],
  );
  if (asked.length === 0) return;
  const before = await filesOf(
    manager,
    asked.map(({ id }) => id),
  );
  const given = asked.filter(({ id, files }) => files.join() !== (before.get(id) ?? []).join());
  if (given.length === 0) return;
  await requireFiles(
    manager,
    who,
    given.flatMap(({ files }) => files.map((fileId) => ({ fileId }))),
  );
  await rowsOf(manager, 'DELETE FROM task_file WHERE task_id = ANY($1)', [given.map(({ id }) => id)]);
  const rows = given.flatMap(({ id, files }) => files.map((file_id, position) => ({ task_id: id, file_id, position })));
  await rowsOf(manager, 'INSERT INTO task_file SELECT * FROM jsonb_populate_recordset(NULL::task_file, $1)', [JSON.stringify(rows)]);
}

/** The files of tasks as they are, by task. */
async function filesOf(manager: EntityManager, taskIds: readonly string[]): Promise<ReadonlyMap<string, readonly string[]>> {
  const rows = await rowsOf<{ id: string; files: string[] }>(
    manager,
    'SELECT task_id AS id, array_agg(file_id ORDER BY position) AS files FROM task_file WHERE task_id = ANY($1) GROUP BY task_id',
    [taskIds],
  );
  return new Map(rows.map(({ id, files }) => [id, files]));
}

/** Refuses values that do not fit their own fields; what stands there already may stay. */
export async function requireOwnValues(manager: EntityManager, { who }: Writing, tasks: readonly NextTask[]): Promise<void> {
  const changed = tasks.filter(({ change }) => change.ownFields !== undefined);
  for (const { next } of changed) refuseTwice(next.ownFields, 'ownFields');
  const entries = changed.flatMap(({ next }) => next.ownFields);
  await requireOwnFields(manager, who, { entries, before: changed.flatMap(({ task }) => task.ownFields), at: 'ownFields' });
}

async function requireCrew(manager: EntityManager, who: Who, people: readonly string[]): Promise<void> {
  const known = await rowsOf(manager, 'SELECT id FROM person WHERE agency_id = $1 AND is_active AND id = ANY($2)', [who.agencyId, people]);
  if (known.length < people.length)
    throw new Refusal('unknown-id', 'Somebody chosen is not of your crew. Choose from the list.', { field: 'assigneeIds' });
}

/** Refuses a deliverable of another engagement. */
export async function requireDeliverables(manager: EntityManager, { engagementId }: Writing, tasks: readonly NextTask[]): Promise<void> {
  const wanted = [...new Set(tasks.map(({ next }) => next.deliverableId).filter((id) => id !== null))];
  if (wanted.length === 0) return;
  const known = await rowsOf(manager, 'SELECT id FROM deliverable WHERE engagement_id = $1 AND id = ANY($2)', [engagementId, wanted]);
  if (known.length < wanted.length)
    throw new Refusal('unknown-id', 'This deliverable belongs to another engagement. Choose one of this one.', { field: 'deliverableId' });
}
