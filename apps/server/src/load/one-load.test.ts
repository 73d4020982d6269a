import fc from 'fast-check';
import { addDays, type IsoDay } from '@crew/core';
import type { Desk, EngagementPlan, TriedEngagement, WeekPlan, Workload } from '@crew/contract';
import { startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';

/* Desk, week plan and workload speak of the same load: the same minutes on the same days, from today on. */

const { harness, lead } = testWorld();
const DAYS = [TODAY, '2026-11-24', '2026-11-25', '2026-11-28', '2026-12-01', '2026-12-04'] as const;
let people: Readonly<Record<string, string>>;
let engagementId: string;

beforeAll(async () => {
  people = harness.ids.people;
  const roles = await harness.database.rows<{ id: string }>('SELECT id FROM role ORDER BY name');
  const own = roles.map(({ id }) => ({ roleId: id, personId: people['Dora'] }));
  engagementId = await startSmall(lead, harness, { name: 'Able', roles: own });
  await startSmall(lead, harness, { name: 'Perhaps', likelihood: 40, clientId: harness.ids.otherClient, roles: own });
  const [first] = (await planOf(engagementId)).tasks;
  // A unit a week that is made three days ahead only: the rest of the next two weeks is not created yet.
  const line = { kind: 'line', name: 'Kit', templateId: harness.ids.template, clientId: harness.ids.client, roles: own };
  await lead.post('/series', { ...line, firstDay: '2026-11-24', rule: 'FREQ=WEEKLY;BYDAY=TU', aheadDays: 3 }).expect(201);
  await harness.settle();
  const both = { version: first?.version, assigneeIds: [people['Dora'], people['Fred']] };
  await lead.patch(`/tasks/${first?.id}`, both).expect(200);
});
beforeEach(async () => {
  harness.clock.moveTo(TODAY);
  await harness.database.rows('DELETE FROM desk_place');
});

const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const deskOf = async (name: string): Promise<Desk> => (await lead.get(`/desk?person=${people[name]}`).expect(200)).body as Desk;
const place = (name: string, taskId: string | undefined, more: object, by: Caller = lead) =>
  by.post('/desk/places', { personId: people[name], taskId, ...more });

/** Somebody's row of the workload as minutes by day. */
async function loadOf(name: string, from: IsoDay, to: IsoDay): Promise<ReadonlyMap<IsoDay, readonly [number, number]>> {
  const { rows, dates } = (await lead.get(`/workload?from=${from}&to=${to}`).expect(200)).body as Workload;
  const row = rows.find(({ person }) => person.id === people[name]);
  return new Map(dates.map(({ date }, index) => [date, [row?.load[index] ?? -1, row?.capacity[index] ?? -1] as const]));
}

async function expectOneLoad(today: IsoDay): Promise<void> {
  const plan = (await lead.get('/week-plan').expect(200)).body as WeekPlan;
  const monday = plan.thisWeek;
  for (const name of ['Dora', 'Fred']) {
    const { days, week } = await deskOf(name);
    const load = await loadOf(name, monday, addDays(monday, 13));
    for (const day of days) {
      expect([day.date, day.load, day.capacity]).toEqual([day.date, ...(load.get(day.date) as readonly [number, number])]);
      const parts = [...day.tasks, ...day.coming].reduce((sum, part) => sum + part.minutes, 0);
      expect(parts).toBe(day.load);
      if (day.date < today) expect(day.tasks).toEqual([]);
    }
    const sum = (from: IsoDay, to: IsoDay, field: 0 | 1): number =>
      [...load].reduce((total, [date, cell]) => total + (date >= from && date <= to ? cell[field] : 0), 0);
    const thisWeek = [sum(today, addDays(monday, 6), 0), sum(today, addDays(monday, 6), 1)];
    const next = [sum(addDays(monday, 7), addDays(monday, 13), 0), sum(addDays(monday, 7), addDays(monday, 13), 1)];
    expect([week.plannedMinutes, week.capacityMinutes]).toEqual(thisWeek);
    const row = plan.people.find(({ person }) => person.id === people[name]);
    expect([row?.load, row?.capacity]).toEqual([
      [thisWeek[0], next[0]],
      [thisWeek[1], next[1]],
    ]);
  }
}

test.each(['2026-11-23', '2026-11-25', '2026-11-29', '2026-12-02'] as const)(
  'on %s desk, week plan and workload say the same, whatever was put on which day',
  async (today) => {
    const { tasks } = await planOf(engagementId);
    const own = tasks.filter((task) => task.assignees.some(({ id }) => id === people['Dora']));
    const anyPlace = fc.record({ task: fc.nat(own.length - 1), day: fc.constantFrom(...DAYS), minutes: fc.integer({ min: 15, max: 600 }) });
    let placed = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(anyPlace, { maxLength: 5 }), async (places) => {
        harness.clock.moveTo(TODAY);
        await harness.database.rows('DELETE FROM desk_place');
        for (const { task, day, minutes } of places) {
          // More than is left of it is refused.
          const { status } = await place('Dora', own[task]?.id, { day, fromDay: day, minutes });
          expect([200, 400]).toContain(status);
          if (status === 200) placed++;
        }
        harness.clock.moveTo(today);
        await expectOneLoad(today);
      }),
      { numRuns: 6 },
    );
    expect(placed).toBeGreaterThan(0);
  },
);

test('what somebody puts on a day is in everybody’s workload at once, and leaves it again', async () => {
  const { tasks } = await planOf(engagementId);
  const task = tasks.find(({ assignees }) => assignees.length === 1 && assignees[0]?.id === people['Dora']);
  const minutesOn = async (day: IsoDay): Promise<number> => (await loadOf('Dora', TODAY, '2026-12-11')).get(day)?.[0] ?? -1;
  const before = await minutesOn('2026-12-11');
  await place('Dora', task?.id, { day: '2026-12-11', minutes: 95 }).expect(200);
  expect(await minutesOn('2026-12-11')).toBe(before + 95);
  await lead.post('/desk/places/remove', { personId: people['Dora'], taskId: task?.id }).expect(200);
  expect(await minutesOn('2026-12-11')).toBe(before);
});

test('what a new engagement is tried on is that load: it comes out as the load and its own work', async () => {
  const roles = (await harness.database.rows<{ id: string }>('SELECT id FROM role')).map(({ id }) => ({
    roleId: id,
    personId: people['Dora'],
  }));
  const [from, to] = [TODAY, addDays(TODAY, 120)] as const;
  const sumOf = (minutes: readonly number[]): number => minutes.reduce((sum, each) => sum + each, 0);
  const before = [...(await loadOf('Dora', from, to))].map(([, [load]]) => load);
  const asked = { templateId: harness.ids.template, start: TODAY, roles, from, to };
  const tried = (await lead.post('/workload/try', asked).expect(200)).body as TriedEngagement;
  const dora = tried.people.find(({ person }) => person.id === people['Dora']);
  expect(sumOf(dora?.load ?? [])).toBe(sumOf(before) + tried.effortMinutes);
  const { rows } = (await lead.get(`/workload?from=${from}&to=${to}`).expect(200)).body as Workload;
  const row = rows.find(({ person }) => person.id === people['Dora']) as Workload['rows'][number];
  expect(dora?.before.over).toBe(sumOf(row.load.map((load, day) => Math.max(0, load - (row.capacity[day] ?? 0)))));
});

test('on a Sunday this week is the coming one, on desk, week plan, workload and time alike', async () => {
  harness.clock.moveTo('2026-11-29');
  const [desk, plan, load, time, me] = await Promise.all(
    ['/desk', '/week-plan', '/workload', '/time', '/session'].map(async (path) => (await lead.get(path).expect(200)).body as object),
  );
  expect(desk).toMatchObject({ monday: '2026-11-30' });
  expect(plan).toMatchObject({ thisWeek: '2026-11-30', nextWeek: '2026-12-07' });
  expect(load).toMatchObject({ from: '2026-11-30' });
  expect(time).toMatchObject({ days: [{ date: '2026-11-30' }, {}, {}, {}, {}, {}, {}] });
  expect(me).toMatchObject({ thisWeek: '2026-11-30' });
});

test('a desk looks at any week; what is to be done stays that of this one', async () => {
  const own = await deskOf('Dora');
  const later = (await lead.get(`/desk?person=${people['Dora']}&week=2026-12-02`).expect(200)).body as Desk;
  expect([later.monday, later.days[0]?.date]).toEqual(['2026-11-30', '2026-11-30']);
  expect(later.ready).toEqual(own.ready);
  expect(later.days.map(({ load }) => load)).not.toEqual(own.days.map(({ load }) => load));
  await lead.get('/desk?week=soon').expect(400);
});
