import type { Desk, EngagementPlan, PlanTask } from '@crew/contract';
import { startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';

const { harness, lead } = testWorld();
const [TUESDAY, WEDNESDAY, THURSDAY] = ['2026-11-24', '2026-11-25', '2026-11-26'] as const;
let dora: Caller;
let tasks: Readonly<Record<string, PlanTask>>;
let engagementId: string;

beforeAll(async () => {
  dora = await harness.as('Dora');
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Drawer'`);
  engagementId = await startSmall(lead, harness, { roles: [{ roleId: role?.id, personId: harness.ids.people['Dora'] }] });
  await readTasks();
});
beforeEach(async () => {
  harness.clock.moveTo(TODAY);
  await harness.database.rows('DELETE FROM desk_place');
});

async function readTasks(): Promise<void> {
  const plan = (await lead.get(`/engagements/${engagementId}/plan`).expect(200)).body as EngagementPlan;
  tasks = Object.fromEntries(plan.tasks.map((task) => [task.title, task]));
}
const desk = async (who: Caller = dora): Promise<Desk> => (await who.get('/desk').expect(200)).body as Desk;
const place = (task: string, day: string, more: object = {}, who: Caller = dora) =>
  who.post('/desk/places', { taskId: tasks[task]?.id, day, ...more });
const on = (view: Desk, date: string) =>
  view.days.find((day) => day.date === date)?.tasks.map(({ title, minutes, isPlaced }) => [title, minutes, isPlaced]) ?? [];
const edit = async (task: string, change: object): Promise<void> => {
  await readTasks();
  await lead.patch(`/tasks/${tasks[task]?.id}`, { version: tasks[task]?.version, ...change }).expect(200);
  await harness.settle();
};

test('put on a day it stands there with all that is left, and its dates stay as they are', async () => {
  const before = tasks['Sketch'];
  await place('Sketch', THURSDAY).expect(200);
  const view = await desk();
  expect(on(view, THURSDAY)[0]).toEqual(['Sketch', 480, true]);
  expect(view.days.flatMap((day) => day.tasks).filter((task) => task.title === 'Sketch')).toHaveLength(1);
  await readTasks();
  expect([tasks['Sketch']?.start, tasks['Sketch']?.due, tasks['Sketch']?.version]).toEqual([before?.start, before?.due, before?.version]);
});

test('a part of it can be put on each of two days; the rest lies on its other days', async () => {
  await place('Sketch', TUESDAY, { minutes: 120 }).expect(200);
  const spread = (view: Desk): number =>
    view.days
      .flatMap((day) => day.tasks)
      .reduce((sum, { title, minutes, isPlaced }) => sum + (title === 'Sketch' && !isPlaced ? minutes : 0), 0);
  expect(spread(await desk())).toBe(360);
  await place('Sketch', WEDNESDAY, { fromDay: WEDNESDAY, minutes: 300 }).expect(200);
  const view = await desk();
  expect([on(view, TUESDAY)[0], on(view, WEDNESDAY)[0]]).toEqual([
    ['Sketch', 120, true],
    ['Sketch', 300, true],
  ]);
  expect(spread(view)).toBe(60);
});

test('moved to another day it leaves the first, and only that one', async () => {
  await place('Sketch', TUESDAY, { minutes: 120 }).expect(200);
  await place('Sketch', WEDNESDAY, { fromDay: WEDNESDAY, minutes: 60 }).expect(200);
  await place('Sketch', THURSDAY, { fromDay: TUESDAY, minutes: 120 }).expect(200);
  const view = await desk();
  expect([TUESDAY, WEDNESDAY, THURSDAY].map((day) => on(view, day).filter(([, , isPlaced]) => isPlaced).length)).toEqual([0, 1, 1]);
});

test('a day keeps the order its work is put in', async () => {
  await place('Sketch', THURSDAY, { minutes: 60 }).expect(200);
  await place('Ink', THURSDAY, { minutes: 90 }).expect(200);
  const order = async (): Promise<unknown[]> => on(await desk(), THURSDAY).map(([title]) => title);
  expect(await order()).toEqual(['Sketch', 'Ink']);
  await place('Ink', THURSDAY, { fromDay: THURSDAY, minutes: 90, beforeTaskId: tasks['Sketch']?.id }).expect(200);
  expect(await order()).toEqual(['Ink', 'Sketch']);
  await place('Ink', THURSDAY, { fromDay: THURSDAY, minutes: 30 }).expect(200);
  expect(await order()).toEqual(['Ink', 'Sketch']);
});

test('each step can be undone: the day it was on, its hours, the order of the day', async () => {
  const undo = (before: unknown) => dora.post('/desk/places/restore', before as object).expect(200);
  const week = async () => (await desk()).days.map(({ tasks: own }) => own.map(({ id, minutes, isPlaced }) => [id, minutes, isPlaced]));
  await place('Sketch', TUESDAY, { minutes: 120 }).expect(200);
  await place('Ink', TUESDAY, { minutes: 60 }).expect(200);
  const steps = [
    () => place('Sketch', THURSDAY, { fromDay: TUESDAY, minutes: 120 }),
    () => place('Sketch', THURSDAY),
    () => place('Ink', TUESDAY, { fromDay: TUESDAY, minutes: 60, beforeTaskId: tasks['Sketch']?.id }),
    () => place('Ink', TUESDAY, { fromDay: TUESDAY, minutes: 30 }),
    () => dora.post('/desk/places/remove', { taskId: tasks['Sketch']?.id }),
  ];
  for (const step of steps) {
    const before = await week();
    const { body } = await step().expect(200);
    expect(await week()).not.toEqual(before);
    await undo(body);
    expect(await week()).toEqual(before);
  }
});

test('more hours than are left of a task are refused with what is left', async () => {
  await place('Sketch', TUESDAY, { minutes: 120 }).expect(200);
  const { body } = await place('Sketch', TUESDAY, { fromDay: TUESDAY, minutes: 1200 }).expect(400);
  expect(body).toMatchObject({ field: 'minutes', message: expect.stringMatching(/^Only 8 h of “Sketch” are left for this day/) as string });
  // Dragged on, as much goes along as is left.
  await place('Sketch', THURSDAY, { fromDay: TUESDAY, minutes: 1200 }).expect(200);
});

test('too much on a day is told', async () => {
  await place('Sketch', WEDNESDAY).expect(200);
  await place('Ink', WEDNESDAY).expect(200);
  const day = (await desk()).days.find(({ date }) => date === WEDNESDAY);
  expect([day?.load, day?.over]).toEqual([1440, 960]);
});

test('taken off again the plan puts it on its own days', async () => {
  const before = await desk();
  await place('Sketch', THURSDAY).expect(200);
  await dora.post('/desk/places/remove', { taskId: tasks['Sketch']?.id, day: THURSDAY }).expect(200);
  expect((await desk()).days).toEqual(before.days);
});

test.each([
  ['a day that is over', { day: '2026-11-20' }, 400],
  ['somebody else’s week', { personId: '00000000-0000-4000-8000-000000000000' }, 403],
])('%s is refused', async (_what, more, status) => {
  await place('Sketch', WEDNESDAY, more).expect(status);
});

test('a lead arranges the week of anybody; what is not theirs cannot be put there', async () => {
  const personId = harness.ids.people['Dora'];
  await place('Sketch', WEDNESDAY, { personId }, lead).expect(200);
  expect(on(await desk(), WEDNESDAY)[0]?.[0]).toBe('Sketch');
  await place('Sketch', WEDNESDAY, {}, lead).expect(404);
});

test('work that can start before its phase is ready, though its phase has not begun', async () => {
  const makerReady = async (): Promise<string[]> => (await desk()).ready.map((task) => task.title);
  await edit('Cut', { assigneeIds: [harness.ids.people['Dora']] });
  expect(await makerReady()).not.toContain('Cut');
  await edit('Cut', { mayStartEarly: true });
  expect(await makerReady()).toContain('Cut');
  await edit('Cut', { mayStartEarly: false });
});

test('done without any time of theirs asks for it, with what such work usually took', async () => {
  await edit('Sketch', { status: 'done' });
  const view = await desk();
  expect(view.unlogged).toMatchObject([{ title: 'Sketch', doneOn: TODAY, usualMinutes: 480, engagement: { name: 'Quay panels' } }]);
  expect(view.doneThisWeek).toMatchObject([{ title: 'Sketch', loggedMinutes: 0 }]);
  expect((await place('Sketch', WEDNESDAY).expect(409)).body).toMatchObject({ field: 'taskId' });
  await dora.post(`/tasks/${tasks['Sketch']?.id}/time`, { day: TODAY, minutes: 200 }).expect(201);
  expect((await desk()).unlogged).toEqual([]);
  harness.clock.moveTo('2026-12-01');
  expect((await desk()).doneThisWeek).toEqual([]);
});

test('working days without time are named, closed ones and time off are not', async () => {
  harness.clock.moveTo('2026-11-30');
  expect((await desk()).forgottenDays.map((day) => day.slice(8))).toEqual(['16', '17', '18', '19', '20', '23', '24', '25', '26']);
});
