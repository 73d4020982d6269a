import type { INestApplicationContext } from '@nestjs/common';
import type { EditTask as Change } from '@crew/contract';
import { addWorkingDays, compileCalendar, formatDay, parseDay, type CalendarInput, type IsoDay } from '@crew/core';
import { PlaceOnDay } from '../desk/place-on-day.ts';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { EditTask } from '../task/edit-task.ts';
import { AddTask } from '../task/add-task.ts';
import { TaskParts } from '../task/task-parts.ts';
import { KeepTimer } from '../time/keep-timer.ts';

interface Cast {
  readonly writer: Who;
  readonly leads: readonly [Who, Who];
}

/**
 * A writer's desk on a Monday morning: something that should have been done, something done
 * without its time, something new since Friday, and work that can start before its phase.
 */
export async function setMonday(app: INestApplicationContext, calendar: CalendarInput, { writer, leads }: Cast): Promise<void> {
  const clock = app.get(Clock);
  const today = clock.today();
  const days = unwrap(compileCalendar(calendar));
  const before = (count: number): IsoDay => formatDay(addWorkingDays(days, parseDay(today) as number, -count));
  const [lead, other] = leads;
  clock.moveTo(before(4), '10:05');
  await give(app, { lead: other, writer, title: 'Ask for the planting dates', minutes: 60 });
  const proofed = await give(app, { lead: other, writer, title: 'Proof the map legend', minutes: 150 });
  clock.moveTo(before(2), '15:40');
  await edit(app, writer, proofed, { status: 'done' });
  await app.get(TaskParts).markSeen(writer, null);
  clock.moveTo(before(1), '16:50');
  await give(app, { lead: other, writer, title: 'Names for the seed drawers', minutes: 180, days: 3 });
  clock.moveTo(today, '08:40');
  for (const title of ['Walk the route, list stops', 'Facts for each stop', 'Check label facts']) {
    const id = await taskOf(app, writer, title);
    if (id !== null) await edit(app, lead, id, { mayStartEarly: true });
  }
  const facts = await taskOf(app, writer, 'Check label facts');
  const walk = await taskOf(app, writer, 'Walk the route, list stops');
  const wednesday = formatDay(addWorkingDays(days, parseDay(today) as number, 2));
  if (walk !== null) await app.get(PlaceOnDay).place(writer, { taskId: walk, day: wednesday });
  if (facts === null) return;
  clock.moveTo(today, '09:02');
  await app.get(KeepTimer).start(writer, facts);
  // It runs from this moment on: begun in the evening, the demo must not show a timer left running since the morning.
  clock.moveTo(today);
  const sql = 'UPDATE timer SET banked_seconds = 18 * 60, running_since = $2 WHERE person_id = $1';
  await app.get(Database).rows(sql, [writer.personId, clock.now()]);
}

/** A small task of a running phase, given to the writer. */
async function give(
  app: INestApplicationContext,
  given: { readonly lead: Who; readonly writer: Who; readonly title: string; readonly minutes: number; readonly days?: number },
): Promise<string> {
  const { lead, writer, title, minutes, days = 1 } = given;
  const phase = await app.get(Database).row<{ id: string; engagementId: string }>(
    `SELECT p.id, p.engagement_id AS "engagementId" FROM phase p JOIN engagement e ON e.id = p.engagement_id
     WHERE e.name = 'Seed vault wayfinding' AND p.state = 'running' ORDER BY p.position LIMIT 1`,
  );
  if (phase === null) throw new Error('the demo has no running phase to add to');
  const { task } = await app.get(AddTask).run(lead, phase.engagementId, { phaseId: phase.id, title, days, estimateMinutes: minutes });
  await edit(app, lead, task.id, { assigneeIds: [writer.personId as string] });
  return task.id;
}

async function edit(app: INestApplicationContext, who: Who, id: string, change: Omit<Change, 'version'>): Promise<void> {
  const row = await app.get(Database).row<{ version: number }>('SELECT version FROM task WHERE id = $1', [id]);
  await app.get(EditTask).run(who, id, { version: row?.version ?? 0, ...change });
}

/** An open task of theirs by its title. */
async function taskOf(app: INestApplicationContext, who: Who, title: string): Promise<string | null> {
  const row = await app.get(Database).row<{ id: string }>(
    `SELECT t.id FROM task t JOIN task_assignee a ON a.task_id = t.id AND a.person_id = $1 JOIN engagement e ON e.id = t.engagement_id
     WHERE t.title = $2 AND a.is_open AND e.state = 'open' ORDER BY t.due_day LIMIT 1`,
    [who.personId, title],
  );
  return row?.id ?? null;
}
