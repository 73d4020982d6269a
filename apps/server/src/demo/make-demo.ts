import type { INestApplicationContext } from '@nestjs/common';
import { addDays, formatDay, parseDay, weekdayOf, type IsoDay } from '@crew/core';
import { AccountRepository } from '../account/account.repository.ts';
import { CreateAgency } from '../agency/create-agency.ts';
import { KeepSettings } from '../agency/keep-settings.ts';
import { RemindJob } from '../reminder/remind.job.ts';
import { LookAfterCrew } from '../crew/look-after-crew.ts';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { KeepTimer } from '../time/keep-timer.ts';
import { TaskParts } from '../task/task-parts.ts';
import { CreateTemplate } from '../template/create-template.ts';
import { exampleTemplates } from '../template/examples/index.ts';
import { demoEngagements } from './engagements.ts';
import { setMonday } from './monday.ts';
import { planWeeks } from './weeks.ts';
import { repeatCalls, repeatEngagements } from './series.ts';
import { settleTime } from './times.ts';
import { learnFromSigns } from './next-version.ts';
import { addForTheMill } from './library.ts';
import { EngagementLife, type Cast } from './live.ts';
import { settleMail } from './mail.ts';
import { addRuleOfOne, addRules, settleRules } from './rules.ts';
import { ReachMarks } from '../rule/reach-marks.ts';
import { demoAgency } from './world.ts';

/** The studio began to work by rules so long ago. */
const RULES_SINCE_DAYS = 60;

/** Fills an empty database with the demo world as of today; says what it is doing. */
export async function makeDemo(app: INestApplicationContext, say: (line: string) => void): Promise<void> {
  const clock = app.get(Clock);
  const today = clock.today();
  const worked = lastWeekday(today);
  const agency = demoAgency(worked);
  // The studio is older than any of its work.
  clock.moveTo(addDays(worked, -430), '09:30');
  await app.get(CreateAgency).run(agency);
  // The crew knows its desks already; the demo's own list says what to try.
  await app.get(Database).rows(`UPDATE account SET closed_hints = '{desk}'`);
  const lead = (await readCast(app)).who.get('Odalys Renn') as Who;
  for (const template of exampleTemplates) await app.get(CreateTemplate).run(lead, template);
  const cast = await readCast(app);
  await nameStandIns(app, lead, cast);
  const rulesSince = addDays(worked, -RULES_SINCE_DAYS);
  clock.moveTo(rulesSince, '10:00');
  await addRules(app, lead);
  const world = { cast, today: worked, week: [...agency.week], closed: agency.closed.map(({ day }) => day), rulesSince };
  for (const [index, spec] of demoEngagements.entries()) {
    say(`  ${index + 1} of ${demoEngagements.length}: ${spec.name}`);
    // The tables grow from nothing within seconds; the planner would go on reading them from end to end.
    if (index < 2 || index === 6) await app.get(Database).rows('ANALYZE');
    await new EngagementLife(app, spec, world).live();
  }
  say('  work that repeats');
  await repeatEngagements(app, world);
  clock.moveTo(addDays(worked, -4), '16:10');
  await learnFromSigns(app, cast.who.get('Bastien Okoro') as Who, cast.templateIds.get('Wayfinding & signage') as string);
  await addForTheMill(app, lead);
  await addRuleOfOne(app, lead, 'Keepers’ Quarters gallery');
  clock.moveTo(today);
  await bringToToday(app, today);
  await lookAtDesks(app, cast, worked);
  await atWork(app, cast.who.get('Emeka Strand') as Who);
  const whoIs = (name: string): Who => cast.who.get(name) as Who;
  await setMonday(app, world, { writer: whoIs('Mirela Stoyan'), leads: [whoIs('Odalys Renn'), whoIs('Bastien Okoro')] });
  await repeatCalls(app, world);
  clock.moveTo(today);
  await bringToToday(app, today);
  await planWeeks(app, whoIs('Odalys Renn'));
  await settleTime(app, today, { owner: whoIs('Sunniva Ashe'), writer: whoIs('Mirela Stoyan'), corrected: whoIs('Ines Calloway') });
  // Clients are asked for what they owe. This morning whoever has had something for long was reminded of it.
  await app.get(KeepSettings).edit(whoIs('Sunniva Ashe'), { remindClientHours: 16 });
  clock.moveTo(today, '09:05');
  await app.get(RemindJob).run();
  clock.moveTo(today);
  await app.get(Database).rows(IN_ORDER_OF_TIME);
  await app.get(Database).rows(`SELECT setval(pg_get_serial_sequence('event', 'id'), (SELECT max(id) FROM event))`);
  clock.moveTo(today, '07:45');
  await app.get(ReachMarks).run();
  clock.moveTo(today);
  await settleRules(app);
  await app.get(Database).rows(READ_BEFORE, [addDays(worked, -3)]);
  clock.moveTo(today, '11:40');
  await settleMail(app, addDays(worked, -3));
  clock.moveTo(today);
  await settleRules(app);
}

/** Engagements were lived through one after the other; history is read in the order of its ids. */
const IN_ORDER_OF_TIME = `
  WITH placed AS MATERIALIZED (SELECT id, (SELECT max(id) FROM event) + row_number() OVER (ORDER BY at, id) AS place FROM event),
  told AS (UPDATE notice SET event_id = p.place FROM placed p WHERE p.id = notice.event_id),
  ran AS (UPDATE rule_run SET event_id = p.place FROM placed p WHERE p.id = rule_run.event_id)
  UPDATE event SET id = p.place, cause_id = c.place
  FROM placed p JOIN event old ON old.id = p.id LEFT JOIN placed c ON c.id = old.cause_id WHERE event.id = p.id`;

/** Everybody has read what they were told more than three days ago. */
const READ_BEFORE = `UPDATE notice SET read_at = v.at + interval '1 hour' FROM event v WHERE v.id = notice.event_id AND v.at < $1::date`;

/** Who takes whose handoffs while they are away; the others leave it to the lead. */
const STAND_INS = [
  ['Tavi Lindqvist', 'Noor Haddad'],
  ['Noor Haddad', 'Tavi Lindqvist'],
  ['Odalys Renn', 'Bastien Okoro'],
  ['Bastien Okoro', 'Odalys Renn'],
  ['Emeka Strand', 'Mirela Stoyan'],
] as const;

async function nameStandIns(app: INestApplicationContext, lead: Who, { who }: Cast): Promise<void> {
  for (const [name, standIn] of STAND_INS)
    await app
      .get(LookAfterCrew)
      .edit(lead, who.get(name)?.personId as string, { version: 1, standInId: who.get(standIn)?.personId as string });
}

/** On a weekend the last working day is Friday. */
function lastWeekday(today: IsoDay): IsoDay {
  const day = parseDay(today) as number;
  return formatDay(day - Math.max(0, weekdayOf(day) - 4));
}

/** Each engagement was last computed for another day; computes all of them for today. */
async function bringToToday(app: INestApplicationContext, today: IsoDay): Promise<void> {
  const [database, clock] = [app.get(Database), app.get(Clock)];
  const open = await database.rows<{ id: string }>(`SELECT id FROM engagement WHERE state IN ('proposal', 'open')`);
  for (const { id } of open)
    await database.transaction((manager) =>
      refreshEngagement(manager, id, { today, by: { actor: { job: 'plan' }, at: clock.now() }, changed: [] }),
    );
}

/** Somebody is in the middle of something: their timer has been on it for a while. */
async function atWork(app: INestApplicationContext, who: Who): Promise<void> {
  const sql = `SELECT t.id FROM task_assignee a JOIN task t ON t.id = a.task_id JOIN engagement e ON e.id = t.engagement_id
    WHERE a.person_id = $1 AND t.status = 'active' AND NOT t.is_group AND e.state = 'open' ORDER BY t.due_day, t.number LIMIT 1`;
  const task = await app.get(Database).row<{ id: string }>(sql, [who.personId]);
  if (task === null) return;
  await app.get(KeepTimer).start(who, task.id);
  await app.get(Database).rows(`UPDATE timer SET banked_seconds = 42 * 60 WHERE person_id = $1`, [who.personId]);
}

/** Work of phases that began before this week has been looked at since, by the people themselves. */
async function lookAtDesks(app: INestApplicationContext, cast: Cast, day: IsoDay): Promise<void> {
  for (const who of cast.whoById.values()) {
    const rows = await app.get(Database).rows<{ id: string }>(
      `SELECT t.id FROM task_assignee a JOIN task t ON t.id = a.task_id JOIN phase p ON p.id = t.phase_id
         WHERE a.person_id = $1 AND a.seen_at IS NULL AND p.started_on < $2::date - 4`,
      [who.personId, day],
    );
    await app.get(TaskParts).markSeen(
      who,
      rows.map((row) => row.id),
    );
  }
}

async function readCast(app: INestApplicationContext): Promise<Cast> {
  const database = app.get(Database);
  const accounts = await database.rows<{ id: string }>('SELECT id FROM account');
  const everybody: Who[] = [];
  for (const { id } of accounts) everybody.push((await app.get(AccountRepository).findWho(id)) as Who);
  const idsByName = async (sql: string): Promise<ReadonlyMap<string, string>> =>
    new Map((await database.rows<{ name: string; id: string }>(sql)).map((row) => [row.name, row.id]));
  return {
    who: new Map(everybody.map((who) => [who.name, who])),
    whoById: new Map(everybody.flatMap((who) => (who.personId === null ? [] : [[who.personId, who] as const]))),
    roleIds: await idsByName('SELECT name, id FROM role'),
    clientIds: await idsByName('SELECT name, id FROM client'),
    contactIds: await idsByName(
      'SELECT DISTINCT ON (c.name) c.name, k.id FROM contact k JOIN client c ON c.id = k.client_id ORDER BY c.name, k.name',
    ),
    templateIds: await idsByName(`SELECT name, id FROM template WHERE kind = 'engagement'`),
  };
}
