import { isOpen } from '../platform/sql-words.ts';
import type { INestApplicationContext } from '@nestjs/common';
import { addDays, mondayOf, type IsoDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { PlanWeek } from '../week-plan/plan-week.ts';

/** The studio plans its week on Mondays: some of last week's is left over, part of this week and the next is placed. */
export async function planWeeks(app: INestApplicationContext, lead: Who): Promise<void> {
  const clock = app.get(Clock);
  const today = clock.today();
  const monday = mondayOf(today);
  const weeks = [-7, 0, 7].map((days) => addDays(monday, days));
  clock.moveTo(addDays(monday, -7), '09:15');
  await place(app, lead, { week: weeks[0] as IsoDay, until: addDays(monday, -3), most: 6 });
  clock.moveTo(today, '08:50');
  await place(app, lead, { week: weeks[1] as IsoDay, until: addDays(monday, 4), most: 14 });
  await place(app, lead, { week: weeks[2] as IsoDay, until: addDays(monday, 11), most: 8 });
  clock.moveTo(today);
}

/** Of what has somebody, stands in no week yet and begins by a day: the first so many. */
async function place(
  app: INestApplicationContext,
  lead: Who,
  { week, until, most }: { readonly week: IsoDay; readonly until: IsoDay; readonly most: number },
): Promise<void> {
  const rows = await app.get(Database).rows<{ id: string }>(
    `SELECT t.id FROM task t JOIN engagement e ON e.id = t.engagement_id AND e.state = 'open' JOIN phase p ON p.id = t.phase_id
     WHERE ${isOpen('t')} AND NOT t.is_group AND t.kind NOT IN ('client', 'milestone') AND t.planned_week IS NULL
       AND t.start_day <= $1 AND EXISTS (SELECT 1 FROM task_assignee a WHERE a.task_id = t.id) ORDER BY t.start_day, e.name, t.number LIMIT $2`,
    [until, most],
  );
  if (rows.length > 0) await app.get(PlanWeek).place(lead, { tasks: rows.map(({ id }) => ({ taskId: id, week })) });
}
