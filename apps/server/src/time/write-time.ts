import { fullDay } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { randomUUID } from 'node:crypto';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import { lockPeople } from '../platform/locks.ts';
import { Refusal } from '../platform/refusal.ts';

/** Time somebody worked on a task, as it is kept. */
export interface WorkedTime {
  readonly personId: string;
  readonly task: { readonly id: string; readonly engagementId: string };
  readonly day: IsoDay;
  readonly minutes: number;
  readonly startMinute: number | null;
  readonly note: string;
  readonly isChargeable: boolean;
}

/** Keeps an entry and adds it to its task; whoever calls has the task locked and refreshes the plan afterwards. */
export async function writeTime(manager: EntityManager, entry: WorkedTime): Promise<string> {
  const { personId, task, day, minutes, startMinute, note, isChargeable } = entry;
  await refuseFullDay(manager, { personId, day, minutes, exceptId: null });
  const row = await firstRow<{ id: string }>(
    manager,
    `INSERT INTO time_entry (person_id, engagement_id, task_id, day, minutes, start_minute, note, is_chargeable) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)
     RETURNING id`,
    [personId, task.engagementId, task.id, day, minutes, startMinute, note, isChargeable],
  );
  await addToTask(manager, task.id, minutes);
  return (row as { id: string }).id;
}

/** As `writeTime` for many entries, in a few statements however many there are; answers their ids in order. */
export async function writeTimes(manager: EntityManager, entries: readonly WorkedTime[]): Promise<string[]> {
  if (entries.length === 0) return [];
  const rows = entries.map(({ personId, task, day, minutes, startMinute, note, isChargeable }) => ({
    ...{ id: randomUUID(), person_id: personId, engagement_id: task.engagementId, task_id: task.id, day, minutes },
    ...{ start_minute: startMinute, note, is_chargeable: isChargeable },
  }));
  await lockPeople(manager, [...new Set(entries.map(({ personId }) => personId))]);
  await rowsOf(manager, INSERT_TIMES, [JSON.stringify(rows)]);
  const full = await firstRow<{ name: string; day: IsoDay }>(manager, FULL_DAYS, [JSON.stringify(rows), DAY_MINUTES]);
  if (full !== null)
    throw new Refusal('invalid-input', `A day has 24 hours, and ${full.name} has more on ${fullDay(full.day)}. Log less.`, {
      field: 'minutes',
    });
  return rows.map(({ id }) => id);
}

const INSERT_TIMES = `
  WITH v AS MATERIALIZED (SELECT * FROM jsonb_to_recordset($1) AS v(id uuid, person_id uuid, engagement_id uuid, task_id uuid, day date, minutes int,
    start_minute int, note text, is_chargeable boolean)),
  added AS (UPDATE task SET logged_minutes = logged_minutes + s.minutes
    FROM (SELECT task_id, sum(minutes)::int AS minutes FROM v GROUP BY task_id) s WHERE task.id = s.task_id)
  INSERT INTO time_entry (id, person_id, engagement_id, task_id, day, minutes, start_minute, note, is_chargeable)
  SELECT id, person_id, engagement_id, task_id, day, minutes, start_minute, note, is_chargeable FROM v`;

const FULL_DAYS = `
  SELECT p.name, x.day FROM time_entry x JOIN person p ON p.id = x.person_id
  WHERE (x.person_id, x.day) IN (SELECT person_id, day FROM jsonb_to_recordset($1) AS v(person_id uuid, day date))
  GROUP BY p.id, x.day HAVING sum(x.minutes) > $2 LIMIT 1`;

/** A task's logged minutes grow, or (negative) shrink. */
export const addToTask = (manager: EntityManager, taskId: string, minutes: number): Promise<unknown> =>
  rowsOf(manager, 'UPDATE task SET logged_minutes = logged_minutes + $2 WHERE id = $1', [taskId, minutes]);

const DAY_MINUTES = 1440;

/** A day has 24 hours, whatever was worked. The person is locked, so that two entries cannot both take the last of them. */
export async function refuseFullDay(
  manager: EntityManager,
  entry: { readonly personId: string; readonly day: IsoDay; readonly minutes: number; readonly exceptId: string | null },
): Promise<void> {
  await lockPeople(manager, [entry.personId]);
  const row = await firstRow<{ logged: number }>(
    manager,
    'SELECT coalesce(sum(minutes), 0)::int AS logged FROM time_entry WHERE person_id = $1 AND day = $2 AND id IS DISTINCT FROM $3::uuid',
    [entry.personId, entry.day, entry.exceptId],
  );
  const logged = row?.logged ?? 0;
  if (logged + entry.minutes > DAY_MINUTES)
    throw new Refusal(
      'invalid-input',
      `A day has 24 hours, and ${Math.round(logged / 6) / 10} h are logged on ${fullDay(entry.day)} already. Log at most ${DAY_MINUTES - logged} minutes more.`,
      { field: 'minutes' },
    );
}
