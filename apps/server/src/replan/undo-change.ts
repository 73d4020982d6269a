import { Injectable } from '@nestjs/common';
import type { ChangeUndone, FieldKept } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { recordEvent } from '../event/record-event.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { deleteTasks } from '../task/delete-tasks.ts';
import { fieldsToUndo, isChangedSince, type TaskUndo } from './fields-to-undo.ts';
import { bringPhasesBack, refusePassedSince, restorePhases, type PhasesChanged } from './phase-images.ts';
import { readTaskImages, type TaskImage } from './task-images.ts';
import { markGroups } from './write-changes.ts';

interface KeptChange {
  readonly engagementId: string;
  readonly undoneAt: Date | null;
  readonly before: readonly TaskImage[];
  readonly after: readonly TaskImage[];
  readonly phases: PhasesChanged | null;
}

/** What undoing does, task by task, as the plan stands now. */
interface Undoing {
  /** Made by the change and untouched since: they go. */
  readonly made: readonly TaskImage[];
  /** Taken out by the change: they come back. */
  readonly gone: readonly TaskImage[];
  /** Changed by it: the fields that go back. */
  readonly stayed: readonly { readonly image: TaskImage; readonly undo: TaskUndo }[];
  readonly kept: readonly Omit<FieldKept, 'by'>[];
}

/**
 * Undoes a change of a plan by field, all in one transaction: a field goes back to what it was
 * where it still stands as the change left it. What somebody changed since stays, and is
 * answered by name; so do tasks the change made that somebody has worked on. Phases, gates and
 * handoffs go back as a whole or the undoing is refused. Doing it twice is refused.
 */
@Injectable()
export class UndoChange {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  run(who: Who, changeId: string): Promise<ChangeUndone> {
    return this.database.transaction(async (manager) => {
      const found = await firstRow(manager, 'SELECT 1 FROM change_set WHERE id = $1 AND agency_id = $2', [changeId, who.agencyId]);
      requireFound(found, 'change');
      const parts = await jointWith(manager, changeId);
      await lockEngagements(
        manager,
        parts.map((part) => part.engagementId),
      );
      const undone: { readonly kept: readonly FieldKept[]; readonly isEmpty: boolean }[] = [];
      for (const part of parts) undone.push(await this.undo(manager, who, part));
      const kept = undone.flatMap((part) => part.kept);
      if (undone.every((part) => part.isEmpty) && kept.length > 0)
        throw new Refusal('changed-meanwhile', `Everything this changed has been changed again since. ${keptWords(kept)}`, {
          details: { kept },
        });
      return { kept };
    });
  }

  private async undo(
    manager: EntityManager,
    who: Who,
    { id: changeId, engagementId }: Part,
  ): Promise<{ readonly kept: readonly FieldKept[]; readonly isEmpty: boolean }> {
    const sql = 'SELECT engagement_id AS "engagementId", undone_at AS "undoneAt", before, after, phases FROM change_set WHERE id = $1';
    const change = (await firstRow<KeptChange>(manager, sql, [changeId])) as KeptChange;
    if (change.undoneAt !== null) throw new Refusal('wrong-moment', 'This has been undone already.');
    if (change.phases !== null) await refusePassedSince(manager, engagementId, change.phases);
    const undoing = planUndo(change, await readTaskImages(manager, engagementId), await readWorkedOn(manager, change));
    await deleteTasks(
      manager,
      undoing.made.map(({ id }) => id),
    );
    if (change.phases !== null) await bringPhasesBack(manager, change.phases);
    await putBack(manager, engagementId, undoing);
    if (change.phases !== null) await restorePhases(manager, change.phases);
    await rowsOf(manager, 'UPDATE change_set SET undone_at = $2 WHERE id = $1', [changeId, this.clock.now()]);
    await refreshEngagement(manager, engagementId, { today: this.clock.today(), changed: movedByUndo(undoing) });
    await this.recordEvents(manager, who, { engagementId, undoing, after: change.after });
    const by = await lastChangedBy(manager, undoing.kept);
    return {
      kept: undoing.kept.map((field) => ({ ...field, by: by.get(field.taskId) ?? null })),
      isEmpty:
        change.phases === null &&
        undoing.made.length + undoing.gone.length + undoing.stayed.filter(({ undo }) => doesAnything(undo)).length === 0,
    };
  }

  private async recordEvents(
    manager: EntityManager,
    who: Who,
    { engagementId, undoing, after }: { readonly engagementId: string; readonly undoing: Undoing; readonly after: readonly TaskImage[] },
  ): Promise<void> {
    const versionOf = new Map(after.map((image) => [image.id, image.row.version]));
    const edited = undoing.stayed.filter(({ image, undo }) => doesAnything(undo) && versionOf.get(image.id) !== image.row.version);
    for (const id of [...edited.map(({ image }) => image.id), ...undoing.gone.map((image) => image.id)])
      await recordEvent(manager, { who, at: this.clock.now() }, { engagementId, subject: 'task', subjectId: id, kind: 'put-back' });
  }
}

interface Part {
  readonly id: string;
  readonly engagementId: string;
}

/** The changes that were taken as one with this one. */
const jointWith = (manager: EntityManager, changeId: string): Promise<Part[]> =>
  rowsOf<Part>(
    manager,
    `SELECT c.id, c.engagement_id AS "engagementId" FROM change_set c JOIN change_set one ON one.id = $1
     WHERE c.id = one.id OR c.joint_id = one.joint_id ORDER BY c.engagement_id`,
    [changeId],
  );

/** Those of the tasks a change made that somebody has logged time on, has a timer on, has put into their week, or has put parts into. */
async function readWorkedOn(manager: EntityManager, { before, after }: KeptChange): Promise<ReadonlySet<string>> {
  const there = new Set(before.map((image) => image.id));
  const made = after.map((image) => image.id).filter((id) => !there.has(id));
  const rows = await rowsOf<{ id: string }>(
    manager,
    `SELECT t.id FROM task t WHERE t.id = ANY($1) AND (t.logged_minutes > 0 OR EXISTS (SELECT 1 FROM timer m WHERE m.task_id = t.id)
       OR EXISTS (SELECT 1 FROM desk_place d WHERE d.task_id = t.id) OR EXISTS (SELECT 1 FROM task x WHERE x.parent_id = t.id AND x.id <> ALL($1)))`,
    [made],
  );
  return new Set(rows.map(({ id }) => id));
}

function planUndo({ before, after }: KeptChange, present: readonly TaskImage[], worked: ReadonlySet<string>): Undoing {
  const now = new Map(present.map((image) => [image.id, image]));
  const was = new Map(before.map((image) => [image.id, image]));
  const became = new Map(after.map((image) => [image.id, image]));
  const made: TaskImage[] = [];
  const stayed: Undoing['stayed'][number][] = [];
  const kept: Undoing['kept'][number][] = [];
  for (const image of after) {
    const [first, current] = [was.get(image.id), now.get(image.id)];
    if (current === undefined) {
      if (first !== undefined && first.row.version !== image.row.version)
        kept.push({ taskId: image.id, title: image.row.title, field: 'deleted' });
    } else if (first === undefined) {
      if (worked.has(image.id) || isChangedSince(image, current)) kept.push({ taskId: image.id, title: current.row.title, field: 'added' });
      else made.push(image);
    } else {
      const undo = fieldsToUndo(first, image, current);
      stayed.push({ image: first, undo });
      kept.push(...undo.kept.map((field) => ({ taskId: image.id, title: current.row.title, field })));
    }
  }
  return { made: withoutAncestors(made, kept, now), gone: before.filter(({ id }) => !became.has(id) && !now.has(id)), stayed, kept };
}

/** What a task that stays is a part of stays too. */
function withoutAncestors(made: readonly TaskImage[], kept: Undoing['kept'], now: ReadonlyMap<string, TaskImage>): TaskImage[] {
  const needed = new Set<unknown>();
  for (const { taskId, field } of kept)
    for (let at: unknown = field === 'added' ? taskId : null; typeof at === 'string' && !needed.has(at); at = now.get(at)?.row['parent_id'])
      needed.add(at);
  return made.filter(({ id }) => !needed.has(id));
}

const doesAnything = ({ columns, parts }: TaskUndo): boolean => Object.keys(columns).length + parts.length > 0;

/** Tasks that were decided anew and do not get their old days: the planner gives them new ones. */
const movedByUndo = ({ stayed }: Undoing): string[] =>
  stayed
    .filter(({ undo }) => doesAnything(undo) && undo.columns['start_day'] === undefined && undo.kept.length > 0)
    .map(({ undo }) => undo.id);

/** Who last touched each of the tasks. */
async function lastChangedBy(manager: EntityManager, kept: Undoing['kept']): Promise<ReadonlyMap<string, string>> {
  const rows = await rowsOf<{ id: string; name: string }>(
    manager,
    `SELECT DISTINCT ON (v.subject_id) v.subject_id AS id, coalesce(p.name, k.name) AS name FROM event v JOIN account a ON a.id = v.account_id
     LEFT JOIN person p ON p.id = a.person_id LEFT JOIN contact k ON k.id = a.contact_id
     WHERE v.subject_id = ANY($1) AND v.kind <> 'put-back' ORDER BY v.subject_id, v.id DESC`,
    [kept.map(({ taskId }) => taskId)],
  );
  return new Map(rows.map(({ id, name }) => [id, name]));
}

const keptWords = (kept: readonly FieldKept[]): string => {
  const [first] = kept as [FieldKept, ...FieldKept[]];
  return `${first.by ?? 'Somebody'} changed “${first.title}”. Change it by hand.`;
};

async function putBack(manager: EntityManager, engagementId: string, { gone, stayed }: Undoing): Promise<void> {
  await insertRows(manager, 'task', await withWhatIsThere(manager, gone));
  await insertRows(
    manager,
    'step',
    gone.flatMap((image) => image.steps),
  );
  await restoreColumns(manager, stayed);
  await carryPhases(manager, engagementId);
  const having = (part: TaskUndo['parts'][number]): TaskImage[] => [
    ...gone,
    ...stayed.filter(({ undo }) => undo.parts.includes(part)).map(({ image }) => image),
  ];
  await restoreLinks(manager, having('after'));
  await restoreFiles(manager, having('files'));
  await restorePeople(manager, having('assigneeIds'));
  await markGroups(manager, engagementId);
}

type Row = object;

const insertRows = async (
  manager: EntityManager,
  table: 'task' | 'step' | 'task_link' | 'task_file',
  rows: readonly Row[],
): Promise<void> => {
  if (rows.length === 0) return;
  await rowsOf(manager, `INSERT INTO ${table} SELECT * FROM jsonb_populate_recordset(NULL::${table}, $1)`, [JSON.stringify(rows)]);
};

/** Rows of tasks that come back, without what they belonged to and is no more: a parent, a deliverable, what they repeated. */
async function withWhatIsThere(manager: EntityManager, gone: readonly TaskImage[]): Promise<Row[]> {
  const ids = (column: string): unknown[] => gone.map(({ row }) => row[column]).filter((id) => id !== null);
  const there = await rowsOf<{ id: string }>(
    manager,
    `SELECT id FROM task WHERE id = ANY($1) UNION ALL SELECT id FROM deliverable WHERE id = ANY($2) UNION ALL
     SELECT s.id FROM task_series s WHERE s.id = ANY($3) AND NOT EXISTS (
       SELECT 1 FROM jsonb_populate_recordset(NULL::task, $4) v JOIN task t ON t.series_id = v.series_id AND t.series_day = v.series_day WHERE v.series_id = s.id)`,
    [ids('parent_id'), ids('deliverable_id'), ids('series_id'), JSON.stringify(gone.map(({ row }) => row))],
  );
  const known = new Set<unknown>([...there.map(({ id }) => id), ...gone.map(({ id }) => id)]);
  return gone.map(({ row }) => ({
    ...row,
    parent_id: known.has(row['parent_id']) ? row['parent_id'] : null,
    deliverable_id: known.has(row['deliverable_id']) ? row['deliverable_id'] : null,
    ...(known.has(row['series_id']) ? {} : { series_id: null, series_day: null }),
  }));
}

/** Each task gets its own columns back; one that was edited, and not only moved, gets a new version, so that whoever shows it is told. */
async function restoreColumns(manager: EntityManager, stayed: Undoing['stayed']): Promise<void> {
  const rows = stayed
    .filter(({ undo }) => doesAnything(undo))
    .map(({ undo }) => ({ id: undo.id, ...undo.columns, touched: isTouched(undo) }));
  const columns = [...new Set(rows.flatMap((row) => Object.keys(row)))].filter((column) => column !== 'id' && column !== 'touched');
  if (rows.length === 0) return;
  const sets = columns.map((column) => `"${column}" = CASE WHEN v.given ? '${column}' THEN (v.was)."${column}" ELSE task."${column}" END`);
  await rowsOf(
    manager,
    `UPDATE task SET ${[...sets, "version = task.version + CASE WHEN (v.given->>'touched')::boolean THEN 1 ELSE 0 END"].join(', ')}
     FROM (SELECT x AS given, jsonb_populate_record(NULL::task, x) AS was FROM jsonb_array_elements($1::jsonb) x) v
     WHERE task.id = (v.given->>'id')::uuid`,
    [JSON.stringify(rows)],
  );
}

const isTouched = ({ columns, parts }: TaskUndo): boolean =>
  parts.length > 0 || Object.keys(columns).some((column) => !['start_day', 'due_day', 'position'].includes(column));

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
async function restoreLinks(manager: EntityManager, images: readonly TaskImage[]): Promise<void> {
  await rowsOf(manager, 'DELETE FROM task_link WHERE successor_id = ANY($1)', [images.map(({ id }) => id)]);
  await rowsOf(
    manager,
    `INSERT INTO task_link SELECT v.* FROM jsonb_populate_recordset(NULL::task_link, $1) v JOIN task t ON t.id = v.predecessor_id`,
    [JSON.stringify(images.flatMap((image) => image.links))],
  );
}

/** What was kept before tasks had files says nothing of them: theirs stay. */
async function restoreFiles(manager: EntityManager, images: readonly TaskImage[]): Promise<void> {
  const known = images.filter((image) => image.files !== undefined);
  await rowsOf(manager, 'DELETE FROM task_file WHERE task_id = ANY($1)', [known.map((image) => image.id)]);
  await insertRows(
    manager,
    'task_file',
    known.flatMap((image) => image.files ?? []),
  );
}

/** People whose part in a task did not change keep having seen it. */
async function restorePeople(manager: EntityManager, images: readonly TaskImage[]): Promise<void> {
  const people = JSON.stringify(images.flatMap((image) => image.assignees));
  await rowsOf(
    manager,
    `DELETE FROM task_assignee a WHERE a.task_id = ANY($1) AND NOT EXISTS (
       SELECT 1 FROM jsonb_populate_recordset(NULL::task_assignee, $2) v WHERE v.task_id = a.task_id AND v.person_id = a.person_id)`,
    [images.map((image) => image.id), people],
  );
  await rowsOf(
    manager,
    `INSERT INTO task_assignee (task_id, person_id, position, share, assigned_at, assigned_by_id)
     SELECT task_id, person_id, position, share, assigned_at, assigned_by_id FROM jsonb_populate_recordset(NULL::task_assignee, $1)
     ON CONFLICT (task_id, person_id) DO UPDATE SET position = excluded.position, share = excluded.share`,
    [people],
  );
}
