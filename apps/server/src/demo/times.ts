import type { INestApplicationContext } from '@nestjs/common';
import { addDays, type IsoDay } from '@crew/core';
import { Database } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { CloseTimePeriod } from '../time/close-time.ts';
import { KeepTime } from '../time/keep-time.ts';

interface EntryRow {
  readonly id: string;
  readonly version: number;
  readonly minutes: number;
}

/**
 * Time as a studio keeps it: last month is closed, one entry was put right after that, and
 * somebody wrote down when they worked, with two entries at the same time.
 */
export async function settleTime(
  app: INestApplicationContext,
  today: IsoDay,
  people: { readonly owner: Who; readonly writer: Who; readonly corrected: Who },
): Promise<void> {
  const keep = app.get(KeepTime);
  const lastOfMonth = addDays(`${today.slice(0, 7)}-01` as IsoDay, -1);
  await app.get(CloseTimePeriod).run(people.owner, lastOfMonth);
  const [late] = await entries(app, people.corrected, { from: addDays(lastOfMonth, -20), to: lastOfMonth });
  if (late !== undefined)
    await keep.correct(people.owner, late.id, {
      version: late.version,
      minutes: Math.max(15, late.minutes - 30),
      reason: 'Counted on two tasks',
    });
  const yesterday = addDays(today, -3);
  let start = 9 * 60;
  for (const [index, entry] of (await entries(app, people.writer, { from: yesterday, to: yesterday })).entries()) {
    await keep.correct(people.writer, entry.id, { version: entry.version, startMinute: start });
    // The second was begun before the first was over.
    start += index === 0 ? entry.minutes - 20 : entry.minutes + 15;
  }
}

const entries = (
  app: INestApplicationContext,
  who: Who,
  { from, to }: { readonly from: IsoDay; readonly to: IsoDay },
): Promise<EntryRow[]> =>
  app
    .get(Database)
    .rows<EntryRow>(
      'SELECT id, version, minutes FROM time_entry WHERE person_id = $1 AND day BETWEEN $2 AND $3 ORDER BY day DESC, minutes DESC, id',
      [who.personId, from, to],
    );
