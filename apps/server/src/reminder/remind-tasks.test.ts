import type { Desk, EngagementPlan, HistoryLine, Notices, PlanTask, TaskEdited } from '@crew/contract';
import { historyOf, startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';
import { RemindJob } from './remind.job.ts';

/* Days are worked from 9:00 to 17:00; it starts on Monday 23 November, and Friday 27 is closed. Dora draws. */

const { harness, lead } = testWorld();
let owner: Caller;
let drawer: Caller;
let engagementId: string;
let sketch: PlanTask;
let looks: PlanTask;

const HOURS = { remindTaskHours: 8, remindTaskLeadHours: 24, remindClientHours: 0, remindClientLeadHours: 16, remindLoggingHours: 8 };

beforeAll(async () => {
  [owner, drawer] = [await harness.as('Oona'), await harness.as('Dora')];
});
beforeEach(async () => {
  harness.clock.moveTo(TODAY, '10:00');
  await owner.patch('/settings', HOURS).expect(200);
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Drawer'`);
  engagementId = await startSmall(lead, harness, { roles: [{ roleId: role?.id, personId: harness.ids.people['Dora'] }] });
  const plan = (await lead.get(`/engagements/${engagementId}/plan`).expect(200)).body as EngagementPlan;
  const named = (title: string) => plan.tasks.find((task) => task.title === title) as PlanTask;
  [sketch, looks] = [named('Sketch'), named('Client looks')];
});
afterEach(async () => {
  await harness.database.rows('DELETE FROM engagement');
  await harness.database.rows('DELETE FROM time_off');
  await harness.database.rows('UPDATE person SET stand_in_id = NULL');
});

/** Who was reminded of a task by then, the first first, as "step name". */
async function remindedBy(day: string, time: string, task: Pick<PlanTask, 'id'> = sketch): Promise<string[]> {
  harness.clock.moveTo(day as typeof TODAY, time);
  await harness.app.get(RemindJob).run();
  return (await reminders(task)).map(({ note }) => note ?? '');
}
const reminders = async (task: Pick<PlanTask, 'id'>): Promise<HistoryLine[]> =>
  (await historyOf(lead, task.id)).filter(({ kind }) => kind === 'reminded').reverse();
const setStatus = (caller: Caller, task: Pick<PlanTask, 'id' | 'version'>, body: object) =>
  caller.patch(`/tasks/${task.id}`, { version: task.version, ...body }).expect(200);
async function told(caller: Caller, task: Pick<PlanTask, 'id'>): Promise<object[]> {
  await harness.settle();
  const { groups } = (await caller.get('/notices').expect(200)).body as Notices;
  return groups.filter(({ about }) => about.id === task.id).flatMap(({ lines }) => lines.filter(({ event }) => event === 'reminded'));
}

test('whoever has an overdue task is reminded after so many of their hours, then its lead', async () => {
  // Due on Tuesday: its clock starts on Wednesday morning.
  expect(await remindedBy('2026-11-25', '16:59')).toEqual([]);
  expect(await remindedBy('2026-11-25', '17:00')).toEqual(['Dora Quill']);
  expect(await remindedBy('2026-11-26', '17:00')).toEqual(['Dora Quill']);
  // Friday is closed, then comes the weekend.
  expect(await remindedBy('2026-11-30', '17:00')).toEqual(['Dora Quill', 'Lena Park']);
  expect(await told(drawer, sketch)).toMatchObject([{ kind: 'overdue', reminderOf: 'overdue', minutes: 480, by: null }]);
  expect(await told(lead, sketch)).toMatchObject([{ kind: 'overdue', reminderOf: 'overdue', name: 'Dora Quill', minutes: 1440 }]);
});

test('what has something open in front of it reminds nobody; with another day its clock starts anew', async () => {
  const ink = ((await lead.get(`/engagements/${engagementId}/plan`)).body as EngagementPlan).tasks.find(({ title }) => title === 'Ink');
  expect(await remindedBy('2026-12-04', '17:00', ink as PlanTask)).toEqual([]);
  expect(await reminders(sketch)).toHaveLength(2);
  const { version } = (await lead.get(`/tasks/${sketch.id}`).expect(200)).body as PlanTask;
  await lead.patch(`/tasks/${sketch.id}`, { version, days: 12 }).expect(200);
  const { due } = (await lead.get(`/tasks/${sketch.id}`).expect(200)).body as PlanTask;
  expect(due > '2026-12-04').toBe(true);
  expect(await remindedBy(due, '17:00')).toHaveLength(2);
});

test('while somebody is away whoever stands in is reminded, and nobody of work that is nobody’s but its lead', async () => {
  const { Dora, Mak } = harness.ids.people;
  await harness.database.rows('UPDATE person SET stand_in_id = $2 WHERE id = $1', [Dora, Mak]);
  await lead.post(`/crew/${Dora}/time-off`, { from: '2026-11-25', to: '2026-11-26', note: '' }).expect(201);
  expect(await remindedBy('2026-11-25', '17:00')).toEqual(['Mak Reyes']);
  const { version } = (await lead.get(`/tasks/${sketch.id}`).expect(200)).body as PlanTask;
  await lead.patch(`/tasks/${sketch.id}`, { version, assigneeIds: [] }).expect(200);
  expect(await remindedBy('2026-11-26', '17:00')).toEqual(['Mak Reyes', 'Lena Park']);
});

test('a task that waits for a colleague reminds from the day after it began to wait', async () => {
  await setStatus(drawer, sketch, { status: 'waiting', waitingOn: 'colleague' });
  expect(await remindedBy('2026-11-24', '16:59')).toEqual([]);
  expect(await remindedBy('2026-11-24', '17:00')).toEqual(['Dora Quill']);
  expect(await told(drawer, sketch)).toMatchObject([{ kind: 'overdue', reminderOf: 'waiting' }]);
});

test('what waits for the client mails them only where an owner wants it, and only what they may see', async () => {
  await setStatus(drawer, sketch, { status: 'waiting', waitingOn: 'client' });
  expect(await remindedBy('2026-11-25', '16:59')).toEqual([]);
  expect(await remindedBy('2026-11-25', '17:00')).toEqual(['Lena Park']);
  await owner.patch('/settings', { remindClientHours: 24 }).expect(200);
  // The client does not see this task: whoever waits for them is reminded instead.
  expect(await remindedBy('2026-11-26', '17:00')).toEqual(['Lena Park', 'Dora Quill']);
  await harness.settle();
  expect(await harness.database.rows(`SELECT 1 FROM mail WHERE kind = 'client'`)).toEqual([]);
});

test('a client is asked for all they owe by one mail, once', async () => {
  await owner.patch('/settings', { remindClientHours: 8 }).expect(200);
  await setStatus(lead, looks, { status: 'waiting', waitingOn: 'client' });
  await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, isShownToClient: true }).expect(200);
  const { version } = (await lead.get(`/tasks/${sketch.id}`).expect(200)).body as PlanTask;
  await setStatus(drawer, { id: sketch.id, version }, { status: 'waiting', waitingOn: 'client' });
  expect(await remindedBy('2026-11-24', '17:00')).toEqual(['Hal Crane']);
  expect(await remindedBy('2026-11-25', '16:00')).toEqual(['Hal Crane']);
  expect(await remindedBy('2026-11-25', '17:00')).toEqual(['Hal Crane', 'Lena Park']);
  await harness.settle();
  const mails = await harness.database.rows<{ to: string; subject: string; text: string }>(
    `SELECT to_name AS to, subject, text FROM mail WHERE kind = 'client'`,
  );
  expect(mails).toMatchObject([{ to: 'Hal Crane', subject: expect.stringContaining('we still need 2 things') as string }]);
  expect(mails[0]?.text).toMatch(/• Client looks[^]*• Sketch|• Sketch[^]*• Client looks/);
  expect((await historyOf(lead, engagementId, 'engagement')).filter(({ kind }) => kind === 'mailed')).toHaveLength(1);
});

test('where mail to the client comes back, whoever waits for them is reminded', async () => {
  await owner.patch('/settings', { remindClientHours: 8 }).expect(200);
  await harness.database.rows(
    `INSERT INTO mail_fault (agency_id, address, why, at) SELECT id, 'hal@small.example', 'unknown', now() FROM agency`,
  );
  await setStatus(lead, looks, { status: 'waiting', waitingOn: 'client' });
  expect(await remindedBy('2026-11-24', '17:00', looks)).toEqual(['Lena Park']);
  await harness.database.rows('DELETE FROM mail_fault');
});

test('whoever did work without logging time is asked for it, until it is logged', async () => {
  await setStatus(drawer, sketch, { status: 'done' });
  expect(await remindedBy('2026-11-24', '16:59')).toEqual([]);
  expect(await remindedBy('2026-11-24', '17:00')).toEqual(['Dora Quill']);
  expect(await remindedBy('2026-12-02', '17:00')).toEqual(['Dora Quill']);
  expect(await told(drawer, sketch)).toMatchObject([{ kind: 'unlogged', reminderOf: 'unlogged' }]);
  const { unlogged } = (await drawer.get('/desk').expect(200)).body as Desk;
  const { groups } = (await drawer.get('/notices').expect(200)).body as Notices;
  const about = groups.find((group) => group.about.id === sketch.id)?.about;
  // The desk and the notice say the same.
  expect(about).toMatchObject({ isLogged: false, doneOn: TODAY, usualMinutes: unlogged[0]?.usualMinutes });
  await drawer.post(`/tasks/${sketch.id}/time`, { day: TODAY, minutes: 60 }).expect(201);
  const after = ((await drawer.get('/notices').expect(200)).body as Notices).groups.find((group) => group.about.id === sketch.id);
  expect(after?.about).toMatchObject({ isLogged: true });
});

test('reminding does not count as work: what it was told of can still be undone', async () => {
  const body = { title: 'Extra', phaseId: sketch.phaseId, days: 1 };
  const added = (await lead.post(`/engagements/${engagementId}/tasks`, body).expect(201)).body as TaskEdited;
  const extra = added.task;
  expect(await remindedBy('2026-12-04', '17:00', extra)).not.toEqual([]);
  await lead.post(`/changes/${added.changeId}/undo`).expect(200);
  await lead.get(`/tasks/${extra.id}`).expect(404);
});

test('reminding twice at once reminds once', async () => {
  harness.clock.moveTo('2026-11-30', '17:00');
  await Promise.all([harness.app.get(RemindJob).run(), harness.app.get(RemindJob).run()]);
  expect((await reminders(sketch)).map(({ note }) => note)).toEqual(['Dora Quill', 'Lena Park']);
});
