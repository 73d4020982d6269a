import type { ChangeUndone, EngagementPlan, PlacedInWeek, TaskSheet, WeekPlan, WeekPlanTask } from '@crew/contract';
import { startSmall, testWorld, TODAY } from '../../test/harness.ts';

const { harness, lead } = testWorld();
const [THIS_WEEK, NEXT_WEEK] = ['2026-11-23', '2026-11-30'] as const;
let tasks: Readonly<Record<string, string>>;

beforeAll(async () => {
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  const id = await startSmall(lead, harness, { roles: [{ roleId: role?.id, personId: null }] });
  const plan = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  tasks = Object.fromEntries(plan.tasks.map((task) => [task.title, task.id]));
});
beforeEach(async () => {
  harness.clock.moveTo(TODAY);
  await harness.database.rows('UPDATE task SET planned_week = NULL, carried = 0');
});

const weekPlan = async (): Promise<WeekPlan> => (await lead.get('/week-plan').expect(200)).body as WeekPlan;
const of = async (title: string): Promise<WeekPlanTask | undefined> => (await weekPlan()).tasks.find((task) => task.title === title);
const place = (title: string, week: string | null, more: object = {}) =>
  lead.post('/week-plan/places', { tasks: [{ taskId: tasks[title], week, ...more }] });

test('it holds what is to be done soon, who has it, and whether anything is in the way', async () => {
  const { tasks: found, thisWeek, nextWeek } = await weekPlan();
  expect([thisWeek, nextWeek]).toEqual([THIS_WEEK, NEXT_WEEK]);
  expect(found.map((task) => [task.title, task.assigneeIds.length, task.isReady])).toEqual([
    ['Sketch', 1, true],
    ['Ink', 1, false],
    ['Cut', 0, false],
    ['Paint', 0, false],
  ]);
});

test('the team’s hours of this week and the next are those open, closed days left out', async () => {
  await harness.database.rows(
    `INSERT INTO time_off (id, person_id, from_day, to_day) VALUES (gen_random_uuid(), $1, '2026-12-01', '2026-12-02')`,
    [harness.ids.people['Mak']],
  );
  const { people } = await weekPlan();
  expect(people.find(({ person }) => person.name === 'Mak Reyes')?.capacity).toEqual([4 * 480, 3 * 480]);
  await harness.database.rows('DELETE FROM time_off');
});

test('put into a week a task keeps its dates, its version and its people', async () => {
  const before = await of('Sketch');
  await place('Sketch', '2026-11-26').expect(200);
  expect(await of('Sketch')).toEqual({ ...before, plannedWeek: THIS_WEEK });
  await place('Sketch', null).expect(200);
  expect(await of('Sketch')).toEqual(before);
});

test('what is left over is carried, and counted once for each time', async () => {
  await place('Sketch', THIS_WEEK).expect(200);
  await place('Sketch', NEXT_WEEK).expect(200);
  expect((await of('Sketch'))?.carried).toBe(0);
  harness.clock.moveTo('2026-12-07');
  expect((await of('Sketch'))?.plannedWeek).toBe(NEXT_WEEK);
  const { changeId } = (await place('Sketch', '2026-12-07').expect(200)).body as PlacedInWeek;
  expect(await of('Sketch')).toMatchObject({ plannedWeek: '2026-12-07', carried: 1 });
  await lead.post(`/changes/${changeId}/undo`).expect(200);
  expect(await of('Sketch')).toMatchObject({ plannedWeek: NEXT_WEEK, carried: 0 });
});

test('undo leaves the week somebody else put a task into since, and what they changed besides', async () => {
  const both = ['Sketch', 'Ink'].map((title) => ({ taskId: tasks[title], week: THIS_WEEK }));
  const { changeId } = (await lead.post('/week-plan/places', { tasks: both }).expect(200)).body as PlacedInWeek;
  const dora = await harness.as('Dora');
  await dora.post('/week-plan/places', { tasks: [{ taskId: tasks['Sketch'], week: NEXT_WEEK }] }).expect(200);
  const ink = async () => (await lead.get(`/tasks/${tasks['Ink']}`).expect(200)).body as TaskSheet;
  await dora.patch(`/tasks/${tasks['Ink']}`, { version: (await ink()).version, priority: 'high' }).expect(200);
  const { body } = await lead.post(`/changes/${changeId}/undo`).expect(200);
  expect((body as ChangeUndone).kept).toEqual([{ subjectId: tasks['Sketch'], title: 'Sketch', field: 'week', by: 'Dora Quill' }]);
  expect(await of('Sketch')).toMatchObject({ plannedWeek: NEXT_WEEK });
  expect(await of('Ink')).toMatchObject({ plannedWeek: null });
  expect(await ink()).toMatchObject({ priority: 'high' });
});

test('several go together or not at all', async () => {
  const both = ['Sketch', 'Ink'].map((title) => ({ taskId: tasks[title], week: THIS_WEEK }));
  await lead
    .post('/week-plan/places', { tasks: [...both, { taskId: '00000000-0000-4000-8000-000000000000', week: THIS_WEEK }] })
    .expect(400);
  expect((await of('Ink'))?.plannedWeek).toBeNull();
  expect((await lead.post('/week-plan/places', { tasks: [...both, both[0]] }).expect(400)).body).toMatchObject({ field: 'tasks' });
  await lead.post('/week-plan/places', { tasks: both }).expect(200);
  expect((await of('Ink'))?.plannedWeek).toBe(THIS_WEEK);
});

test('work that is over needs no week, and is not in the weekPlan', async () => {
  await harness.database.rows(`UPDATE task SET status = 'done', done_on = $2, real_start = $2 WHERE id = $1`, [tasks['Sketch'], TODAY]);
  expect((await place('Sketch', THIS_WEEK).expect(409)).body).toMatchObject({ field: 'tasks' });
  expect(await of('Sketch')).toBeUndefined();
});
