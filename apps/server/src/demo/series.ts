import type { INestApplicationContext } from '@nestjs/common';
import type { SeriesView, StartSeries } from '@crew/contract';
import { addWorkingDays, compileCalendar, formatDay, parseDay, type Calendar, type IsoDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { KeepSeries } from '../series/keep-series.ts';
import { KeepTaskSeries } from '../series/keep-task-series.ts';
import { ReadSeries } from '../series/read-series.ts';
import { RepeatJob } from '../series/repeat.job.ts';
import { EditTask } from '../task/edit-task.ts';
import { KeepTime } from '../time/keep-time.ts';
import { AddTask } from '../task/add-task.ts';
import { TaskParts } from '../task/task-parts.ts';
import { CREW, type Stand } from './engagements.ts';
import { EngagementLife, type World } from './live.ts';

/** A monthly visit with its hours, five months old, and a line of talk kits, one a week for six weeks. */
export async function repeatEngagements(app: INestApplicationContext, world: World): Promise<void> {
  const today = parseDay(world.today) as number;
  const calendar = unwrap(compileCalendar({ week: world.week, closed: world.closed }));
  const lead = world.cast.who.get('Sunniva Ashe') as Who;
  const visit = formatDay(addWorkingDays(calendar, today, -1));
  const date = Math.min(28, Number(visit.slice(8, 10)));
  await goOn(app, world, {
    lead,
    engagementLead: 'Odalys Renn',
    since: monthsBefore(`${visit.slice(0, 8)}${String(date).padStart(2, '0')}` as IsoDay, 5),
    input: {
      ...{ kind: 'repeating', name: 'Monthly care visits', unitName: 'Care visit, {month}', rule: `FREQ=MONTHLY;BYMONTHDAY=${date}` },
      ...{ retainerMinutes: 6.5 * 60, carry: 'next' },
    },
    template: 'Care visits',
    client: 'Corvane Clock House',
  });
  await goOn(app, world, {
    lead,
    engagementLead: 'Odalys Renn',
    since: formatDay(today - 41),
    input: { kind: 'line', name: 'Spring talk kits', unitName: 'Talk kit {n}', rule: 'FREQ=WEEKLY;BYDAY=TU', places: 'start' },
    template: 'Gallery talk kit',
    client: 'Quillmarsh Studio',
  });
}

interface Going {
  readonly lead: Who;
  readonly engagementLead: string;
  readonly since: IsoDay;
  readonly input: Pick<StartSeries, 'kind' | 'name' | 'unitName' | 'rule' | 'retainerMinutes' | 'carry' | 'places'>;
  readonly template: string;
  readonly client: string;
}

/** Begins a series on a day, lets the job make what is due, then lives through each unit. */
async function goOn(app: INestApplicationContext, world: World, going: Going): Promise<void> {
  const { cast, today } = world;
  const clock = app.get(Clock);
  clock.moveTo(going.since, '08:30');
  const contactId = cast.contactIds.get(going.client);
  const people: Readonly<Record<string, string>> = { ...CREW, 'Engagement lead': going.engagementLead };
  const { id } = await app.get(KeepSeries).start(going.lead, {
    ...going.input,
    templateId: cast.templateIds.get(going.template) as string,
    clientId: cast.clientIds.get(going.client) as string,
    ...(contactId === undefined ? {} : { contactId }),
    firstDay: going.since,
    roles: Object.entries(people).map(([role, person]) => ({
      roleId: cast.roleIds.get(role) as string,
      personId: (cast.who.get(person) as Who).personId as string,
    })),
  });
  for (let day = parseDay(going.since) as number; day < (parseDay(today) as number); day += 14) {
    clock.moveTo(formatDay(day), '06:00');
    await app.get(RepeatJob).engagements({ seriesId: id });
  }
  clock.moveTo(today, '06:00');
  await app.get(RepeatJob).engagements({ seriesId: id });
  const { units } = await app.get(ReadSeries).read(going.lead, id);
  for (const unit of units.filter(({ start }) => start < today)) await liveUnit(app, world, { unit, going, people });
}

/** A unit is done when its days are over, else it stands where its plan says. */
async function liveUnit(
  app: INestApplicationContext,
  world: World,
  {
    unit,
    going,
    people,
  }: { readonly unit: SeriesView['units'][number]; readonly going: Going; readonly people: Readonly<Record<string, string>> },
): Promise<void> {
  const running = await app
    .get(Database)
    .row<{ name: string }>(`SELECT name FROM phase WHERE engagement_id = $1 AND planned_finish >= $2 ORDER BY position LIMIT 1`, [
      unit.id,
      world.today,
    ]);
  const stand: Stand = running === null ? { kind: 'finished', daysAgo: 0 } : { kind: 'running', phase: running.name, gone: 0.5 };
  const { template, client } = going;
  const spec = { name: unit.name, client, template, lead: going.lead.name, stand, spare: 0, people };
  await new EngagementLife(app, spec, world).liveOn(unit.id);
}

function monthsBefore(day: IsoDay, months: number): IsoDay {
  const index = Number(day.slice(0, 4)) * 12 + Number(day.slice(5, 7)) - 1 - months;
  return `${Math.floor(index / 12)}-${String((index % 12) + 1).padStart(2, '0')}-${day.slice(8)}` as IsoDay;
}

/** A call with a museum every second Tuesday, hours sent on the last working day of the month. */
export async function repeatCalls(app: INestApplicationContext, { cast, today, week, closed }: World): Promise<void> {
  const calendar = unwrap(compileCalendar({ week, closed }));
  const before = (days: number): IsoDay => formatDay(addWorkingDays(calendar, parseDay(today) as number, -days));
  await repeat(app, calendar, {
    ...{ lead: cast.who.get('Odalys Renn') as Who, engagement: 'Keepers’ Quarters gallery', title: 'Call with the trust', minutes: 30 },
    ...{ since: before(14), rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', people: ['Odalys Renn', 'Noor Haddad'] },
    steps: ['What moved since last time', 'What we need from them', 'What they need from us'],
  });
  await repeat(app, calendar, {
    ...{
      lead: cast.who.get('Sunniva Ashe') as Who,
      engagement: 'Seed vault wayfinding',
      title: 'Send the hours to the garden',
      minutes: 20,
    },
    ...{ since: before(3), rule: 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1', people: ['Sunniva Ashe'], steps: [] },
  });
}

interface Repeating {
  readonly lead: Who;
  readonly engagement: string;
  readonly title: string;
  readonly minutes: number;
  readonly since: IsoDay;
  readonly rule: string;
  readonly people: readonly string[];
  readonly steps: readonly string[];
}

async function repeat(app: INestApplicationContext, calendar: Calendar, what: Repeating): Promise<void> {
  const { lead, since, title, rule } = what;
  const clock = app.get(Clock);
  const today = clock.today();
  clock.moveTo(since, '10:10');
  const phase = await app.get(Database).row<{ id: string; engagementId: string }>(
    `SELECT p.id, p.engagement_id AS "engagementId" FROM phase p JOIN engagement e ON e.id = p.engagement_id
     WHERE e.name = $1 AND p.state = 'running' ORDER BY p.position LIMIT 1`,
    [what.engagement],
  );
  if (phase === null) throw new Error(`nothing runs in ${what.engagement}`);
  const parts = app.get(TaskParts);
  const { task } = await app
    .get(AddTask)
    .run(lead, phase.engagementId, { phaseId: phase.id, title, days: 1, estimateMinutes: what.minutes });
  for (const step of what.steps) await parts.addStep(lead, task.id, step);
  const people = await app
    .get(Database)
    .rows<{ id: string }>('SELECT id FROM person WHERE name = ANY($1) ORDER BY array_position($1, name)', [what.people]);
  const first = formatDay(addWorkingDays(calendar, parseDay(since) as number, 1));
  const row = await app.get(Database).row<{ version: number }>('SELECT version FROM task WHERE id = $1', [task.id]);
  const edit = { version: row?.version ?? 0, assigneeIds: people.map(({ id }) => id), fixedDay: first };
  await app.get(EditTask).run(lead, task.id, edit);
  await app.get(KeepTaskSeries).repeat(lead, task.id, { rule });
  const held = await app
    .get(Database)
    .rows<{ id: string; version: number; start: IsoDay }>(
      'SELECT id, version, start_day AS start FROM task WHERE title = $1 AND engagement_id = $2 AND start_day < $3 ORDER BY start_day',
      [title, phase.engagementId, today],
    );
  for (const call of held) {
    clock.moveTo(call.start, '11:40');
    await app.get(KeepTime).log(lead, call.id, { day: call.start, minutes: what.minutes });
    await app.get(EditTask).run(lead, call.id, { version: call.version, status: 'done' });
  }
  clock.moveTo(today);
}
