import { isOpen } from '../platform/sql-words.ts';
import { Injectable } from '@nestjs/common';
import { of, type PlaceOnDay as Input, type RemoveFromDay } from '@crew/contract';
import { weekOf } from '@crew/core';
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

/** Somebody's own order of the week: what they mean to do on which day. Dates of tasks stay as they are. */
@Injectable()
export class PlaceOnDay {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  place(who: Who, input: Input): Promise<void> {
    if (input.day < this.clock.today())
      throw new Refusal('invalid-day', 'That day is over. Choose today or a later one.', { field: 'day' });
    return this.change(who, input, async (manager, personId, task) => {
      if (!task.isOpen)
        throw new Refusal('wrong-moment', `“${task.title}” is over. Take it up again before you plan it.`, { field: 'taskId' });
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
      const minutes = input.minutes ?? Math.min(1440, Math.max(LEAST_MINUTES, task.leftMinutes - (elsewhere?.minutes ?? 0)));
      await this.insert(manager, personId, { ...input, minutes });
    });
  }

  removeFromDay(who: Who, input: RemoveFromDay): Promise<void> {
    return this.change(who, input, (manager, personId) =>
      rowsOf(manager, 'DELETE FROM desk_place WHERE person_id = $1 AND task_id = $2 AND ($3::date IS NULL OR day = $3)', [
        ...[personId, input.taskId, input.day ?? null],
      ]),
    );
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
    input: { readonly taskId: string; readonly personId?: string },
    work: (manager: EntityManager, personId: string, task: PlacedTask) => Promise<unknown>,
  ): Promise<void> {
    const personId = input.personId ?? (who.personId as string);
    requireCan(who, 'desk.edit', { subject: of(personId), words: 'Only leads arrange the week of somebody else.', field: 'personId' });
    return this.database.transaction(async (manager) => {
      // The task only has to stay; nobody who changes its plan waits for somebody's week, nor that for them.
      await lockTasks(manager, [input.taskId], 'keep');
      await lockPeople(manager, [personId]);
      const task = requireFound(await firstRow<PlacedTask>(manager, TASK, [input.taskId, personId, who.agencyId]), 'task');
      await work(manager, personId, task);
      await announceChange(manager, { agencyId: who.agencyId, topics: [`person:${personId}`, 'week'] });
    });
  }
}
