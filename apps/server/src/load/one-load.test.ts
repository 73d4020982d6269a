import fc from 'fast-check';
import { addDays, mondayOf, type IsoDay } from '@crew/core';
import type { Desk, EngagementPlan, WeekPlan, Workload } from '@crew/contract';
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
  const monday = mondayOf(today);
  const plan = (await lead.get('/week-plan').expect(200)).body as WeekPlan;
  for (const name of ['Dora', 'Fred']) {
    const { days, week } = await deskOf(name);
    const load = await loadOf(name, monday, addDays(monday, 13));
    for (const day of days) {
      expect([day.date, day.load, day.capacity]).toEqual([day.date, ...(load.get(day.date) as readonly [number, number])]);
      expect(day.tasks.reduce((sum, task) => sum + task.minutes, 0)).toBe(day.load);
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
          await place('Dora', own[task]?.id, { day, fromDay: day, minutes }).expect(204);
          placed++;
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
  await place('Dora', task?.id, { day: '2026-12-11', minutes: 95 }).expect(204);
  expect(await minutesOn('2026-12-11')).toBe(before + 95);
  await lead.post('/desk/places/remove', { personId: people['Dora'], taskId: task?.id }).expect(204);
  expect(await minutesOn('2026-12-11')).toBe(before);
});
