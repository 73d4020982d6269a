import type { IsoDay } from '@crew/core';
import type { Desk, EngagementPlan } from '@crew/contract';
import { startHarness, startSmall, TODAY, type Caller, type Harness } from '../../test/harness.ts';

let harness: Harness;
let lead: Caller;
let dora: Caller;
let id: string;
beforeAll(async () => {
  harness = await startHarness();
  lead = await harness.as('Lena');
  dora = await harness.as('Dora');
  id = await startSmall(lead, harness, { roles: await everythingToDora() });
});
beforeEach(() => harness.forgetTries());
afterEach(() => harness.clock.moveTo(TODAY));
afterAll(() => harness.close());

async function everythingToDora(): Promise<object[]> {
  const roles = await harness.database.rows<{ id: string }>('SELECT id FROM role');
  return roles.map((role) => ({ roleId: role.id, personId: harness.ids.people['Dora'] }));
}
const deskOf = async (caller: Caller, query = ''): Promise<Desk> => (await caller.get(`/desk${query}`).expect(200)).body as Desk;
const set = async (title: string, change: object): Promise<void> => {
  const plan = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  const task = plan.tasks.find((other) => other.title === title);
  await lead.patch(`/tasks/${task?.id}`, { version: task?.version, ...change }).expect(200);
  await harness.settle();
};
const titles = (tasks: readonly { readonly title: string }[]): string[] => tasks.map((task) => task.title);

test('at the start only what nothing stands in front of is ready; the rest says after whom', async () => {
  const desk = await deskOf(dora);
  expect(desk.now).toBeNull();
  expect(titles(desk.ready)).toEqual(['Sketch']);
  expect(desk.waiting).toMatchObject([{ title: 'Ink', waitingFor: 'after “Sketch” by the same person' }]);
  expect(desk.ready[0]).toMatchObject({ holdsUp: 1, remainingMinutes: 480 });
});

test('tasks of a phase that has not begun come to the desk in their week, and say what they wait for', async () => {
  const desk = await deskOf(dora);
  expect(titles([...desk.ready, ...desk.waiting, ...desk.overdue])).not.toContain('Cut');
  harness.clock.moveTo('2026-12-01');
  const later = await deskOf(dora);
  expect(later.waiting).toContainEqual(expect.objectContaining({ title: 'Cut', waitingFor: 'until Make is picked up' }));
  expect(titles([...later.ready, ...later.overdue])).not.toContain('Cut');
});

test('under way it is the one thing now, and what it held up is ready once it is done', async () => {
  await set('Sketch', { status: 'active' });
  expect((await deskOf(dora)).now?.title).toBe('Sketch');
  await set('Sketch', { status: 'done' });
  const desk = await deskOf(dora);
  expect(desk.now).toBeNull();
  expect(titles(desk.ready)).toEqual(['Ink']);
});

test('of two under way the one worked on last is now', async () => {
  await set('Ink', { status: 'active' });
  await set('Sketch', { status: 'active' });
  await dora
    .post(`/tasks/${(await deskOf(dora)).ready[0]?.id ?? (await deskOf(dora)).now?.id}/time`, { day: TODAY, minutes: 10 })
    .expect(201);
  const worked = await harness.database.row<{ title: string }>('SELECT t.title FROM time_entry x JOIN task t ON t.id = x.task_id');
  expect((await deskOf(dora)).now?.title).toBe(worked?.title);
  await set('Sketch', { status: 'done' });
});

test('due before today it is overdue, from the next day on and not on the day', async () => {
  await set('Ink', { status: 'queued' });
  const { due } = (await deskOf(dora)).ready[0] as { due: IsoDay };
  harness.clock.moveTo(due);
  expect(titles((await deskOf(dora)).overdue)).toEqual([]);
  harness.clock.moveTo('2026-12-02');
  expect(titles((await deskOf(dora)).overdue)).toEqual(['Ink']);
});

test('a brief stands on the desk a week ahead, is late once its day is over, and goes when it is sent', async () => {
  const outside = { maker: 'Tallow & Tin', turnaroundDays: 2, bufferDays: 0, neededOn: '2026-12-01', state: 'to-brief' };
  await set('Ink', { outside });
  const [brief] = (await deskOf(dora)).briefs;
  expect(brief).toMatchObject({ title: 'Ink', outside: { maker: 'Tallow & Tin' } });
  expect((brief?.outside.briefBy as string) < '2026-12-01').toBe(true);
  await set('Ink', { outside: { ...outside, neededOn: '2027-02-01' } });
  expect((await deskOf(dora)).briefs).toEqual([]);
  await set('Ink', { outside: { ...outside, state: 'briefed' } });
  expect((await deskOf(dora)).briefs).toEqual([]);
  await set('Ink', { outside: null });
});

test('waiting says on whom and since when, and is neither ready nor overdue', async () => {
  await set('Ink', { status: 'waiting', waitingOn: 'supplier' });
  harness.clock.moveTo('2026-12-02');
  const desk = await deskOf(dora);
  expect(desk.waiting.filter((task) => task.status === 'waiting')).toMatchObject([{ title: 'Ink', waitingFor: 'supplier', since: TODAY }]);
  expect([...desk.ready, ...desk.overdue]).toEqual([]);
  harness.clock.moveTo(TODAY);
  await set('Ink', { status: 'queued' });
});

test('the week carries the hours of its tasks day by day against the available hours', async () => {
  const desk = await deskOf(dora);
  expect(desk.days.map((day) => day.date)).toEqual(['2026-11-23', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27']);
  expect(desk.days.map((day) => day.capacity)).toEqual([480, 480, 480, 480, 0]);
  for (const day of desk.days) expect(day.load).toBe(day.tasks.reduce((sum, task) => sum + task.minutes, 0));
  expect(desk.week.plannedMinutes).toBe(desk.days.reduce((sum, day) => sum + day.load, 0));
});

test('shared work puts only the own share on the week', async () => {
  const before = (await deskOf(dora)).week.plannedMinutes;
  await set('Ink', { assigneeIds: [harness.ids.people['Dora'], harness.ids.people['Mak']] });
  const after = (await deskOf(dora)).week.plannedMinutes;
  expect(after).toBeLessThan(before);
  await set('Ink', { assigneeIds: [harness.ids.people['Dora']] });
  expect((await deskOf(dora)).week.plannedMinutes).toBe(before);
});

test('a lead opens anyone’s desk, a member only the own', async () => {
  const theirs = await deskOf(lead, `?person=${harness.ids.people['Dora']}`);
  expect(theirs.person.name).toBe('Dora Quill');
  const refused = await dora.get(`/desk?person=${harness.ids.people['Mak']}`).expect(403);
  expect(refused.body).toMatchObject({ field: 'person' });
  await dora.get(`/desk?person=${harness.ids.people['Dora']}`).expect(200);
});

test.each([
  ['nobody there is', '00000000-0000-4000-8000-000000000000', 404],
  ['no id at all', 'dora', 400],
])('the desk of %s is refused', async (_who, person, status) => {
  await lead.get(`/desk?person=${person}`).expect(status);
});

test('what was logged this week is told beside what was planned', async () => {
  const row = await harness.database.row<{ minutes: number }>(`SELECT sum(minutes)::int AS minutes FROM time_entry WHERE person_id = $1`, [
    harness.ids.people['Dora'],
  ]);
  const { week, days } = await deskOf(dora);
  expect(week.loggedMinutes).toBe(row?.minutes);
  const byDay = await harness.database.rows<{ day: string; minutes: number }>(
    `SELECT day, sum(minutes)::int AS minutes FROM time_entry WHERE person_id = $1 GROUP BY day`,
    [harness.ids.people['Dora']],
  );
  const logged = new Map(byDay.map(({ day, minutes }) => [day, minutes]));
  expect(days.map(({ date, loggedMinutes }) => [date, loggedMinutes])).toEqual(days.map(({ date }) => [date, logged.get(date) ?? 0]));
});

test('what their timer is on is the one thing now, whatever else is under way', async () => {
  const other = await startSmall(lead, harness, { roles: await everythingToDora(), name: 'Lamp panels' });
  const { tasks } = (await lead.get(`/engagements/${other}/plan`).expect(200)).body as EngagementPlan;
  const cut = tasks.find((task) => task.title === 'Cut');
  await dora.post('/timer', { taskId: cut?.id }).expect(200);
  const desk = await deskOf(dora);
  expect([desk.now?.id, desk.now?.engagement.name]).toEqual([cut?.id, 'Lamp panels']);
  expect([...desk.ready, ...desk.waiting, ...desk.overdue].some((task) => task.id === cut?.id)).toBe(false);
  await dora.delete('/timer').expect(204);
});
