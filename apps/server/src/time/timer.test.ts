import type { IsoDay } from '@crew/core';
import type { CrewTime, EngagementPlan, TaskSheet, TimerState, TimerStopped, TimerView } from '@crew/contract';
import { startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';

const { harness, lead } = testWorld();
const at = (time: string, day: IsoDay = TODAY): void => harness.clock.moveTo(day, time);
beforeEach(async () => {
  at('09:00');
  await harness.database.rows('DELETE FROM timer');
  await harness.database.rows('DELETE FROM time_entry');
});
afterEach(() => at('09:00'));

async function begun(): Promise<{ id: string; tasks: Readonly<Record<string, string>> }> {
  const id = await startSmall(lead, harness);
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  return { id, tasks: Object.fromEntries(tasks.map((task) => [task.title, task.id])) };
}
const sheet = async (id: string | undefined): Promise<TaskSheet> => (await lead.get(`/tasks/${id}`).expect(200)).body as TaskSheet;
const timer = async (who: Caller = lead): Promise<TimerView | null> => ((await who.get('/timer').expect(200)).body as TimerState).timer;
/** No two moments are the same, so a second may be missing. */
const minutes = (view: TimerView | null): number => Math.round((view?.elapsedSeconds ?? 0) / 60);
const start = (taskId: string | undefined, who: Caller = lead) => who.post('/timer', { taskId });
const stop = async (body: object = {}): Promise<TimerStopped> => (await lead.post('/timer/stop', body).expect(200)).body as TimerStopped;
const entries = (taskId: string | undefined) =>
  harness.database.rows('SELECT day, minutes, note FROM time_entry WHERE task_id = $1 ORDER BY day, minutes', [taskId]);

test('it counts from the start, on every device alike, and what it counted is logged when it stops', async () => {
  const { tasks } = await begun();
  await start(tasks['Sketch']).expect(200);
  at('10:30');
  const elsewhere = await harness.as('Lena');
  expect(await timer(elsewhere)).toMatchObject({ task: { title: 'Sketch' }, isRunning: true, isLeft: false });
  expect(minutes(await timer(elsewhere))).toBe(90);
  expect(await stop({ note: 'Both sides' })).toMatchObject({ minutes: 90, day: TODAY, title: 'Sketch' });
  expect(await entries(tasks['Sketch'])).toEqual([{ day: TODAY, minutes: 90, note: 'Both sides' }]);
  expect((await sheet(tasks['Sketch'])).loggedMinutes).toBe(90);
  expect(await timer(elsewhere)).toBeNull();
});

test('work that had not begun is under way once its timer runs', async () => {
  const { tasks } = await begun();
  expect((await sheet(tasks['Sketch'])).status).toBe('queued');
  await start(tasks['Sketch']).expect(200);
  expect((await sheet(tasks['Sketch'])).status).toBe('active');
});

test('a pause counts nothing; starting the same task goes on', async () => {
  const { tasks } = await begun();
  await start(tasks['Sketch']).expect(200);
  at('09:20');
  await lead.post('/timer/pause').expect(200);
  at('13:00');
  const paused = await timer();
  expect([minutes(paused), paused?.isRunning]).toEqual([20, false]);
  await start(tasks['Sketch']).expect(200);
  at('13:10');
  expect((await stop()).minutes).toBe(30);
});

test('starting another task stops and logs the one before, in one go', async () => {
  const { tasks } = await begun();
  await start(tasks['Sketch']).expect(200);
  at('09:45');
  await start(tasks['Ink']).expect(200);
  expect(await timer()).toMatchObject({ task: { title: 'Ink' }, elapsedSeconds: 0 });
  expect(await entries(tasks['Sketch'])).toEqual([{ day: TODAY, minutes: 45, note: '' }]);
});

test('less than half a minute is not worth an entry, and a timer can be thrown away', async () => {
  const { tasks } = await begun();
  await start(tasks['Sketch']).expect(200);
  at('09:00:20');
  expect((await stop()).minutes).toBe(0);
  await start(tasks['Sketch']).expect(200);
  at('11:00');
  await lead.delete('/timer').expect(204);
  expect([await timer(), await entries(tasks['Sketch'])]).toEqual([null, []]);
});

test('left running over night it asks how much was work, guesses, and logs it on its own day', async () => {
  const { tasks } = await begun();
  at('14:00');
  await start(tasks['Sketch']).expect(200);
  at('08:30', '2026-11-24');
  expect(await timer()).toMatchObject({ isLeft: true, guessMinutes: 480, day: TODAY });
  const answer = await lead.post('/timer/stop', {}).expect(409);
  expect(answer.body).toMatchObject({ code: 'wrong-moment', field: 'minutes', details: { timer: { guessMinutes: 480 } } });
  const other = await start(tasks['Ink']).expect(409);
  expect((other.body as { message: string }).message).toMatch(/ran for a long time/);
  expect(await timer()).toMatchObject({ task: { title: 'Sketch' } });
  expect(await stop({ minutes: 180 })).toMatchObject({ minutes: 180, day: TODAY, title: 'Sketch' });
});

test('left on a day whose time was closed meanwhile, only a lead logs it, with a reason that is kept', async () => {
  const { tasks } = await begun();
  const mak = await harness.as('Mak');
  at('14:00');
  for (const who of [lead, mak]) await start(tasks['Cut'], who).expect(200);
  at('08:30', '2026-11-24');
  const oona = await harness.as('Oona');
  await oona.post('/time/closing', { through: TODAY }).expect(204);
  expect(await timer(mak)).toMatchObject({ isLeft: true, isClosed: true });
  expect((await mak.post('/timer/stop', { minutes: 60 }).expect(409)).body).toMatchObject({
    field: 'day',
    details: { closedThrough: TODAY },
  });
  expect((await lead.post('/timer/stop', { minutes: 60 }).expect(409)).body).toMatchObject({ field: 'reason' });
  expect(await timer()).not.toBeNull();
  expect(await stop({ minutes: 60, reason: 'Was on site' })).toMatchObject({ minutes: 60, day: TODAY });
  const { lateChanges } = (await oona.get('/time/crew').expect(200)).body as CrewTime;
  expect(lateChanges[0]).toMatchObject({ reason: 'Was on site', from: null, to: 60 });
  await mak.delete('/timer').expect(204);
  await oona.post('/time/closing', { through: null }).expect(204);
});

test('each has their own, and nobody works on what is over, not theirs, or done by its parts', async () => {
  const { id, tasks } = await begun();
  const mak = await harness.as('Mak');
  await start(tasks['Cut'], mak).expect(200);
  expect([await timer(), (await timer(mak))?.task.title]).toEqual([null, 'Cut']);
  const fred = await harness.as('Fred');
  await start(tasks['Paint'], fred).expect(404);
  const cut = await sheet(tasks['Paint']);
  await lead.patch(`/tasks/${cut.id}`, { version: cut.version, status: 'done' }).expect(200);
  expect((await start(tasks['Paint']).expect(409)).body).toMatchObject({ field: 'taskId' });
  await lead
    .post(`/engagements/${id}/tasks`, { phaseId: (await sheet(tasks['Ink'])).phaseId, parentId: tasks['Ink'], title: 'Line' })
    .expect(201);
  expect((await start(tasks['Ink']).expect(409)).body).toMatchObject({ message: expect.stringContaining('in its subtasks') as string });
  await lead.post('/timer/stop', {}).expect(404);
});

test('a task somebody’s timer is on is not removed', async () => {
  const { id, tasks } = await begun();
  await start(tasks['Cut']).expect(200);
  const { version } = await sheet(tasks['Cut']);
  const answer = await lead.post(`/engagements/${id}/changes`, { tasks: [{ id: tasks['Cut'], version, isDeleted: true }] }).expect(409);
  expect((answer.body as { message: string }).message).toBe(
    'The timer of Lena Park is on “Cut”; taking it out would lose it. Stop the timer first.',
  );
});

describe('stopping', () => {
  test('is undone: what was logged goes, and it counts on as if nothing had been', async () => {
    const { tasks } = await begun();
    await start(tasks['Sketch']).expect(200);
    at('09:50');
    const before = await timer();
    const stopped = (await lead.post('/timer/stop', {}).expect(200)).body as TimerStopped;
    expect(stopped.minutes).toBeGreaterThan(48);
    await lead.post('/timer/restore', stopped.undo).expect(200);
    const after = await timer();
    expect(after).toMatchObject({ isRunning: true, day: TODAY, task: { title: 'Sketch' } });
    expect(after?.elapsedSeconds).toBeGreaterThanOrEqual(before?.elapsedSeconds ?? 0);
    expect(
      (await harness.database.row<{ n: number }>('SELECT count(*)::int AS n FROM time_entry WHERE id = $1', [stopped.undo.entryId]))?.n,
    ).toBe(0);
    await lead.post('/timer/restore', stopped.undo).expect(409);
    await lead.delete('/timer').expect(204);
    expect(await entries(tasks['Sketch'])).toEqual([]);
  });

  test('what was corrected since is not taken away, and a timer of the future is none', async () => {
    const { tasks } = await begun();
    await start(tasks['Sketch']).expect(200);
    const { undo } = (await lead.post('/timer/stop', { minutes: 30 }).expect(200)).body as TimerStopped;
    await harness.database.rows('UPDATE time_entry SET version = 2 WHERE id = $1', [undo.entryId]);
    await lead.post('/timer/restore', undo).expect(409);
    await lead.post('/timer/restore', { ...undo, entryId: null, runningSince: '2099-01-01T00:00:00Z' }).expect(400);
  });
});

test('more than ten hours are asked about; paused over night it is not left running', async () => {
  const { tasks } = await begun();
  await start(tasks['Sketch']).expect(200);
  await lead.post('/timer/pause').expect(200);
  at('09:00', '2026-11-24');
  expect(await timer()).toMatchObject({ isLeft: false, isRunning: false });
  await harness.database.rows('UPDATE timer SET banked_seconds = 39000');
  expect(await timer()).toMatchObject({ isLeft: true });
  await lead.post('/timer/stop', {}).expect(409);
  await lead.post('/timer/stop', { minutes: 420 }).expect(200);
});
