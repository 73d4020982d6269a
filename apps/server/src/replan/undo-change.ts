import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { recordEvent } from '../event/record-event.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { refuseTimed } from '../time/refuse-timed.ts';
import { lockEngagement } from './change-plan.ts';
import { bringPhasesBack, refusePassedSince, restorePhases, type PhasesChanged } from './phase-images.ts';
import type { TaskImage } from './task-images.ts';
import { markGroups } from './write-changes.ts';

interface KeptChange {
  readonly engagementId: string;
  readonly undoneAt: Date | null;
  readonly before: readonly TaskImage[];
  readonly after: readonly TaskImage[];
  readonly phases: PhasesChanged | null;
}

/** Columns that live on whatever is taken back: what was logged and ticked since stays. */
const KEPT = ['id', 'agency_id', 'engagement_id', 'number', 'version', 'logged_minutes', 'steps_done', 'steps_all', 'reopened'];

/**
 * Puts every task a change touched back as it was, moved ones included, all or nothing.
 * Refused when somebody changed or took out one of them since, naming who and what.
 */
@Injectable()
export class UndoChange {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  run(who: Who, changeId: string): Promise<void> {
    return this.database.transaction(async (manager) => {
      const found = await firstRow<{ engagementId: string }>(
        manager,
        'SELECT engagement_id AS "engagementId" FROM change_set WHERE id = $1 AND agency_id = $2',
        [changeId, who.agencyId],
      );
      requireFound(found, 'change');
      for (const part of await jointWith(manager, changeId)) await this.undo(manager, who, part);
    });
  }

  private async undo(manager: EntityManager, who: Who, { id: changeId, engagementId }: Part): Promise<void> {
    await lockEngagement(manager, who, engagementId);
    const sql = 'SELECT engagement_id AS "engagementId", undone_at AS "undoneAt", before, after, phases FROM change_set WHERE id = $1';
    const change = (await firstRow<KeptChange>(manager, sql, [changeId])) as KeptChange;
    if (change.undoneAt !== null) throw new Refusal('wrong-moment', 'This has been undone already.');
    await refuseChangedSince(manager, change);
    if (change.phases !== null) await refusePassedSince(manager, engagementId, change.phases);
    await takeAway(manager, change);
    if (change.phases !== null) await bringPhasesBack(manager, change.phases);
    await putBack(manager, change);
    if (change.phases !== null) await restorePhases(manager, change.phases);
    await rowsOf(manager, 'UPDATE change_set SET undone_at = $2 WHERE id = $1', [changeId, this.clock.now()]);
    await refreshEngagement(manager, engagementId, { today: this.clock.today(), changed: [] });
    await this.recordEvents(manager, who, change);
  }

  private async recordEvents(manager: EntityManager, who: Who, { engagementId, before, after }: KeptChange): Promise<void> {
    const versionOf = new Map(after.map((image) => [image.id, image.row.version]));
    for (const { id, row } of before) {
      if (versionOf.get(id) === row.version) continue;
      await recordEvent(manager, { who, at: this.clock.now() }, { engagementId, subject: 'task', subjectId: id, kind: 'put-back' });
    }
  }
}

interface Part {
  readonly id: string;
  readonly engagementId: string;
}

/** The changes that were taken as one with this one, in the order in which plans are always locked. */
const jointWith = (manager: EntityManager, changeId: string): Promise<Part[]> =>
  rowsOf<Part>(
    manager,
    `SELECT c.id, c.engagement_id AS "engagementId" FROM change_set c JOIN change_set one ON one.id = $1
     WHERE c.id = one.id OR c.joint_id = one.joint_id ORDER BY c.engagement_id`,
    [changeId],
  );

/** Versions tell whether anybody edited a task since; days the planner moved by itself do not count. */
async function refuseChangedSince(manager: EntityManager, { engagementId, before, after }: KeptChange): Promise<void> {
  const rows = await rowsOf<{ id: string; version: number }>(manager, 'SELECT id, version FROM task WHERE engagement_id = $1 FOR UPDATE', [
    engagementId,
  ]);
  const now = new Map(rows.map((row) => [row.id, row.version]));
  const changed = after.find((image) => now.get(image.id) !== image.row.version);
  const back = before.find((image) => !after.some((other) => other.id === image.id) && now.has(image.id));
  const met = changed ?? back;
  if (met === undefined) return;
  const by = await firstRow<{ name: string }>(
    manager,
    `SELECT coalesce(p.name, k.name) AS name FROM event v JOIN account a ON a.id = v.account_id
     LEFT JOIN person p ON p.id = a.person_id LEFT JOIN contact k ON k.id = a.contact_id WHERE v.subject_id = $1 ORDER BY v.id DESC LIMIT 1`,
    [met.id],
  );
  throw new Refusal(
    'changed-meanwhile',
    `${by?.name ?? 'Somebody'} changed “${met.row.title}” since. Undoing would take that back too, so nothing was undone; change it by hand.`,
    { details: { taskId: met.id } },
  );
}

/** What the change made goes again, unless somebody has logged time on it by now. */
async function takeAway(manager: EntityManager, { before, after }: KeptChange): Promise<void> {
  const there = new Set(before.map((image) => image.id));
  const made = after.filter((image) => !there.has(image.id)).map((image) => image.id);
  if (made.length === 0) return;
  const worked = await firstRow<{ title: string }>(manager, 'SELECT title FROM task WHERE id = ANY($1) AND logged_minutes > 0 LIMIT 1', [
    made,
  ]);
  if (worked !== null)
    throw new Refusal(
      'changed-meanwhile',
      `Time was logged on “${worked.title}” since. Undoing would lose it, so nothing was undone; drop it instead.`,
    );
  await refuseTimed(manager, made);
  await rowsOf(manager, 'DELETE FROM task WHERE id = ANY($1)', [made]);
}

async function putBack(manager: EntityManager, { engagementId, before, after }: KeptChange): Promise<void> {
  const left = new Set(after.map((image) => image.id));
  const gone = before.filter((image) => !left.has(image.id));
  const stayed = before.filter((image) => left.has(image.id));
  await insertRows(
    manager,
    'task',
    gone.map((image) => image.row),
  );
  await insertRows(
    manager,
    'step',
    gone.flatMap((image) => image.steps),
  );
  await restoreRows(manager, stayed, new Map(after.map((image) => [image.id, image.row.version])));
  const ids = before.map((image) => image.id);
  await rowsOf(manager, 'DELETE FROM task_link WHERE successor_id = ANY($1)', [ids]);
  await insertRows(
    manager,
    'task_link',
    before.flatMap((image) => image.links),
  );
  await restoreFiles(manager, before);
  await restorePeople(manager, before);
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

/** A task that was edited gets a new version, so that whoever still shows the change is told. */
async function restoreRows(manager: EntityManager, images: readonly TaskImage[], versionOf: ReadonlyMap<string, number>): Promise<void> {
  const columns = Object.keys(images[0]?.row ?? {}).filter((column) => !KEPT.includes(column));
  if (columns.length === 0) return;
  const rows = images.map(({ id, row }) => ({ ...row, version: (versionOf.get(id) ?? 0) + (versionOf.get(id) === row.version ? 0 : 1) }));
  const sets = [...columns, 'version'].map((column) => `"${column}" = v."${column}"`).join(', ');
  await rowsOf(manager, `UPDATE task SET ${sets} FROM jsonb_populate_recordset(NULL::task, $1) v WHERE task.id = v.id`, [
    JSON.stringify(rows),
  ]);
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
