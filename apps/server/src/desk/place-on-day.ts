import { isOpen } from '../platform/sql-words.ts';
import { Injectable } from '@nestjs/common';
import { of, type DeskPlaces, type PlaceOnDay as Input, type RemoveFromDay, type RestorePlaces } from '@crew/contract';
import { weekOf, type IsoDay } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { announceChange } from '../platform/announce.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockPeople, lockTasks } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import { requireCan, type Who } from '../platform/rights.ts';

interface PlacedTask {
  readonly engagementId: string;
  readonly title: string;
  readonly isOpen: boolean;
  /** Their part of what is left, minutes. */
  readonly leftMinutes: number;
}

/** The task as it stands with this person; their part of what is left by their share. */
const TASK = `
  SELECT t.engagement_id AS "engagementId", t.title, ${isOpen('t')} AS "isOpen",
    (greatest(0, coalesce(t.estimate_minutes, g.default_minutes) - t.logged_minutes) * a.share
      / (SELECT sum(x.share) FROM task_assignee x WHERE x.task_id = t.id))::int AS "leftMinutes"
  FROM task t JOIN agency g ON g.id = t.agency_id JOIN task_assignee a ON a.task_id = t.id AND a.person_id = $2
  WHERE t.id = $1 AND t.agency_id = $3 AND NOT t.is_group`;

const LEAST_MINUTES = 15;

/** The places of task $2 of person $1, and all of days $3, each day in its order. */
const PLACES = `
  SELECT task_id AS "taskId", day, minutes FROM desk_place WHERE person_id = $1 AND (task_id = $2 OR day = ANY($3::date[])) ORDER BY day, position, task_id`;

const RESTORE = `
  WITH gone AS (DELETE FROM desk_place WHERE person_id = $1 AND (task_id = $2 OR day = ANY($3::date[])) RETURNING task_id, day)
  INSERT INTO desk_place (person_id, task_id, day, position, minutes)
  SELECT $1, v."taskId", v.day, v.place, v.minutes
  FROM ROWS FROM (jsonb_to_recordset($4) AS ("taskId" uuid, day date, minutes int)) WITH ORDINALITY AS v("taskId", day, minutes, place)
  JOIN task t ON t.id = v."taskId" AND ${isOpen('t')} JOIN task_assignee a ON a.task_id = t.id AND a.person_id = $1
  ON CONFLICT (person_id, task_id, day) DO UPDATE SET position = excluded.position, minutes = excluded.minutes`;

/** How somebody's week was where a step is about to touch it. */
async function readPlaces(
  manager: EntityManager,
  personId: string,
  { taskId, day, days }: { readonly taskId: string; readonly day?: IsoDay | undefined; readonly days?: readonly IsoDay[] },
): Promise<DeskPlaces> {
  const own = await rowsOf<{ day: IsoDay }>(manager, 'SELECT day FROM desk_place WHERE person_id = $1 AND task_id = $2', [
    personId,
    taskId,
  ]);
  const touched = [...new Set([...(days ?? []), ...(day === undefined ? [] : [day]), ...own.map((place) => place.day)])].sort();
  const places = await rowsOf<DeskPlaces['places'][number]>(manager, PLACES, [personId, taskId, touched]);
  return { personId, taskId, days: touched, places };
}

/** The minutes asked for, as far as they are left; hours that were typed and are not left are refused, as the day would not show them. */
function minutesFor({ minutes, day, fromDay }: Input, { task, left }: { readonly task: PlacedTask; readonly left: number }): number {
  if (minutes === undefined) return left;
  if (minutes <= left || fromDay !== day) return Math.min(minutes, left);
  const hours = Math.round(left / 6) / 10;
  throw new Refusal(
    'invalid-input',
    `Only ${hours} h of “${task.title}” are left for this day. Write at most that, or raise its estimate.`,
    {
      field: 'minutes',
    },
  );
}

/** Somebody's own order of the week: what they mean to do on which day. Dates of tasks stay as they are. */
@Injectable()
export class PlaceOnDay {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** Answers how the days it touched were before. */
  place(who: Who, input: Input): Promise<DeskPlaces> {
    if (input.day < this.clock.today())
      throw new Refusal('invalid-day', 'That day is over. Choose today or a later one.', { field: 'day' });
    return this.change(who, input, async (manager, personId, task) => {
      if (!task.isOpen) throw new Refusal('wrong-moment', `“${task.title}” is over. Reopen it before you plan it.`, { field: 'taskId' });
      const week = weekOf(input.fromDay ?? input.day);
      await rowsOf(
        manager,
        input.fromDay === undefined
          ? 'DELETE FROM desk_place WHERE person_id = $1 AND task_id = $2 AND day BETWEEN $3 AND $4 AND day <> $5'
          : 'DELETE FROM desk_place WHERE person_id = $1 AND task_id = $2 AND day = $3 AND $4::date IS NOT NULL AND day <> $5',
        [personId, input.taskId, input.fromDay ?? week.from, week.to, input.day],
      );
      const elsewhere = await firstRow<{ minutes: number }>(
        manager,
        'SELECT coalesce(sum(minutes), 0)::int AS minutes FROM desk_place WHERE person_id = $1 AND task_id = $2 AND day <> $3 AND day >= $4',
        [personId, input.taskId, input.day, this.clock.today()],
      );
      const left = Math.min(1440, Math.max(LEAST_MINUTES, task.leftMinutes - (elsewhere?.minutes ?? 0)));
      const minutes = minutesFor(input, { task, left });
      await this.insert(manager, personId, { ...input, minutes });
    });
  }

  removeFromDay(who: Who, input: RemoveFromDay): Promise<DeskPlaces> {
    return this.change(who, input, (manager, personId) =>
      rowsOf(manager, 'DELETE FROM desk_place WHERE person_id = $1 AND task_id = $2 AND ($3::date IS NULL OR day = $3)', [
        ...[personId, input.taskId, input.day ?? null],
      ]),
    );
  }

  /** Restores the days as they were before a step; work that is finished or somebody else's by now stays out. */
  restore(who: Who, input: RestorePlaces): Promise<DeskPlaces> {
    return this.change(who, { ...input, day: input.days[0] }, async (manager, personId) => {
      const ids = input.places.map(({ taskId }) => taskId);
      // What was deleted meanwhile stays out; what was never theirs is no place of theirs.
      const foreign = await firstRow(manager, 'SELECT 1 FROM task WHERE id = ANY($1) AND agency_id <> $2 LIMIT 1', [ids, who.agencyId]);
      if (foreign !== null) throw new Refusal('unknown-id', 'A task to restore is not one of yours.', { field: 'places' });
      await rowsOf(manager, RESTORE, [personId, input.taskId, input.days, JSON.stringify(input.places)]);
    });
  }

  /** Puts it into the order of the day; everything on that day is numbered anew. */
  private async insert(
    manager: EntityManager,
    personId: string,
    { taskId, day, minutes, beforeTaskId }: Input & { readonly minutes: number },
  ) {
    const rows = await rowsOf<{ taskId: string }>(
      manager,
      'SELECT task_id AS "taskId" FROM desk_place WHERE person_id = $1 AND day = $2 ORDER BY position',
      [personId, day],
    );
    const before = rows.map((row) => row.taskId);
    const others = before.filter((id) => id !== taskId);
    const wanted = beforeTaskId === undefined ? before.indexOf(taskId) : others.indexOf(beforeTaskId ?? '');
    const at = wanted === -1 ? others.length : wanted;
    const order = [...others.slice(0, at), taskId, ...others.slice(at)];
    await rowsOf(
      manager,
      `INSERT INTO desk_place (person_id, task_id, day, position, minutes)
       SELECT $1, v.id, $2, v.place, $4 FROM unnest($3::uuid[]) WITH ORDINALITY AS v(id, place)
       ON CONFLICT (person_id, task_id, day) DO UPDATE SET position = excluded.position,
         minutes = CASE WHEN desk_place.task_id = $5 THEN excluded.minutes ELSE desk_place.minutes END`,
      [personId, day, order, minutes, taskId],
    );
  }

  private change(
    who: Who,
    input: { readonly taskId: string; readonly personId?: string; readonly day?: IsoDay | undefined; readonly days?: readonly IsoDay[] },
    work: (manager: EntityManager, personId: string, task: PlacedTask) => Promise<unknown>,
  ): Promise<DeskPlaces> {
    const personId = input.personId ?? (who.personId as string);
    requireCan(who, 'desk.edit', { subject: of(personId), words: 'Only leads can plan somebody else’s week.', field: 'personId' });
    return this.database.transaction(async (manager) => {
      // Only the task must not be deleted meanwhile: changes of its plan and of somebody's week do not wait for each other.
      await lockTasks(manager, [input.taskId], 'keep');
      await lockPeople(manager, [personId]);
      const task = requireFound(await firstRow<PlacedTask>(manager, TASK, [input.taskId, personId, who.agencyId]), 'task');
      const before = await readPlaces(manager, personId, input);
      await work(manager, personId, task);
      await announceChange(manager, { agencyId: who.agencyId, topics: [`person:${personId}`, 'week'] });
      return before;
    });
  }
}
