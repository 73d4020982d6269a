import fc from 'fast-check';
import { TASK_STATUS, type EngagementPlan, type PlanTask, type TaskSheet, type TaskStatus } from '@crew/contract';
import { historyOf, startSmall, testWorld, TODAY } from '../../test/harness.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { PlanBehind } from '../schedule/plan-behind.ts';
import { RefreshJob } from '../jobs/refresh.job.ts';
import { ChangeStatus } from './change-status.ts';

const { harness, lead } = testWorld();

const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const taskOf = async (id: string, title: string): Promise<PlanTask> =>
  (await planOf(id)).tasks.find((task) => task.title === title) as PlanTask;
const summaryOf = (id: string) =>
  harness.database.row<Record<string, unknown>>(
    `SELECT percent, open_tasks, overdue_tasks, effort_minutes, logged_minutes, next_due, waiting_title, waiting_since,
       (SELECT array_agg(p.percent ORDER BY p.position) FROM phase p WHERE p.engagement_id = s.engagement_id) AS phases
     FROM engagement_summary s WHERE engagement_id = $1`,
    [id],
  );
const pendingOf = async (id: string): Promise<string[]> =>
  (await harness.database.row<{ ids: string[] }>('SELECT pending_task_ids AS ids FROM engagement_summary WHERE engagement_id = $1', [id]))
    ?.ids ?? [];
const jobsFor = async (id: string): Promise<number> => {
  await harness.app.get(PlanBehind).asked();
  const sql = 'SELECT count(*)::int AS jobs FROM graphile_worker.jobs WHERE key = $1';
  return (await harness.database.row<{ jobs: number }>(sql, [`refresh ${id}`]))?.jobs ?? -1;
};

test('the task, the figures, the event and the job are there together, the days behind it a moment later', async () => {
  const id = await startSmall(lead, harness);
  const sketch = await taskOf(id, 'Sketch');
  harness.clock.moveTo('2026-11-25');
  const { body } = await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, status: 'active' }).expect(200);
  expect(body).toMatchObject({ effect: null, task: { status: 'active', version: sketch.version + 1 } });
  expect((await historyOf(lead, sketch.id))[0]).toMatchObject({ by: { name: 'Lena Park' }, kind: 'task-status-changed', canUndo: true });
  expect(await pendingOf(id)).toEqual([sketch.id]);
  expect(await jobsFor(id)).toBe(1);
  expect((await taskOf(id, 'Ink')).start).toBe('2026-11-25');
  await harness.settle();
  // Starting two days late and two days long: what follows begins after the closed Friday.
  expect((await taskOf(id, 'Ink')).start).toBe('2026-11-30');
  expect(await pendingOf(id)).toEqual([]);
  harness.clock.moveTo(TODAY);
});

test('many changes of one engagement ask for one job, and it takes all of them', async () => {
  const id = await startSmall(lead, harness);
  const [sketch, cut] = [await taskOf(id, 'Sketch'), await taskOf(id, 'Cut')];
  for (const task of [sketch, cut]) await lead.patch(`/tasks/${task.id}`, { version: task.version, status: 'active' }).expect(200);
  expect(await jobsFor(id)).toBe(1);
  expect(await pendingOf(id)).toEqual([sketch.id, cut.id]);
  await harness.settle();
  expect(await pendingOf(id)).toEqual([]);
});

test('what is pending and was never asked for is found by the job of every minute', async () => {
  const id = await startSmall(lead, harness);
  await harness.settle();
  const sketch = await taskOf(id, 'Sketch');
  const lost = 'UPDATE engagement_summary SET pending_task_ids = ARRAY[$2::uuid] WHERE engagement_id = $1';
  await harness.database.rows(lost, [id, sketch.id]);
  expect(await jobsFor(id)).toBe(0);
  await harness.app.get(RefreshJob).all();
  await harness.settle();
  expect(await pendingOf(id)).toEqual([]);
});

test('another edit takes along what is pending', async () => {
  const id = await startSmall(lead, harness);
  const sketch = await taskOf(id, 'Sketch');
  await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, status: 'done' }).expect(200);
  const ink = await taskOf(id, 'Ink');
  await lead.patch(`/tasks/${ink.id}`, { version: ink.version, days: 2 }).expect(200);
  expect(await pendingOf(id)).toEqual([]);
  expect((await taskOf(id, 'Ink')).openPredecessors).toBe(0);
});

test('two at the same moment: one is kept, the other is told how it is now', async () => {
  const id = await startSmall(lead, harness);
  const sketch = await taskOf(id, 'Sketch');
  const other = await harness.as('Dora');
  const answers = await Promise.all([
    lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, status: 'active' }),
    other.patch(`/tasks/${sketch.id}`, { version: sketch.version, status: 'review' }),
  ]);
  expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409]);
  const refused = answers.find((answer) => answer.status === 409);
  const kept = (await taskOf(id, 'Sketch')).status;
  expect(refused?.body).toMatchObject({ code: 'changed-meanwhile', details: { current: { status: kept } } });
});

test('changes of different tasks at the same moment all count', async () => {
  const id = await startSmall(lead, harness);
  const who = await harness.whoIs('Lena');
  const tasks = (await planOf(id)).tasks;
  const changing = harness.app.get(ChangeStatus);
  await Promise.all(tasks.slice(0, 3).map((task) => changing.run(who, task.id, { version: task.version, status: 'done' })));
  expect(await summaryOf(id)).toMatchObject({ open_tasks: 2 });
});

test('the same status once more changes nothing and keeps no event', async () => {
  const id = await startSmall(lead, harness);
  const sketch = await taskOf(id, 'Sketch');
  const { body } = await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, status: 'queued' }).expect(200);
  expect((body as { task: TaskSheet }).task).toMatchObject({ version: sketch.version });
  expect(await historyOf(lead, sketch.id)).toEqual([]);
  expect(await jobsFor(id)).toBe(0);
});

test('finished work is counted when it is taken up again', async () => {
  const id = await startSmall(lead, harness);
  const sketch = await taskOf(id, 'Sketch');
  for (const [step, status] of (['done', 'active', 'done', 'queued'] as const).entries())
    await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version + step, status }).expect(200);
  const row = await harness.database.row<{ reopened: number }>('SELECT reopened FROM task WHERE id = $1', [sketch.id]);
  expect(row?.reopened).toBe(2);
});

test('what is closed leaves the open work of its people, and comes back with it', async () => {
  const id = await startSmall(lead, harness);
  const cut = await taskOf(id, 'Cut');
  const openOf = async () =>
    (await harness.database.row<{ open: boolean }>('SELECT is_open AS open FROM task_assignee WHERE task_id = $1', [cut.id]))?.open;
  expect(await openOf()).toBe(true);
  await lead.patch(`/tasks/${cut.id}`, { version: cut.version, status: 'dropped' }).expect(200);
  expect(await openOf()).toBe(false);
  await lead.patch(`/tasks/${cut.id}`, { version: cut.version + 1, status: 'queued' }).expect(200);
  expect(await openOf()).toBe(true);
});

test('a freelancer sets the status of own tasks and finds no others', async () => {
  const id = await startSmall(lead, harness);
  const fred = await harness.as('Fred');
  const [sketch, cut] = [await taskOf(id, 'Sketch'), await taskOf(id, 'Cut')];
  await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, assigneeIds: [harness.ids.people['Fred']] }).expect(200);
  const now = await taskOf(id, 'Sketch');
  await fred.patch(`/tasks/${sketch.id}`, { version: now.version, status: 'active' }).expect(200);
  await fred.patch(`/tasks/${cut.id}`, { version: cut.version, status: 'active' }).expect(404);
});

test('whatever statuses are set, the figures at once are those of computing everything anew', async () => {
  const id = await startSmall(lead, harness);
  const who = await harness.whoIs('Lena');
  const changing = harness.app.get(ChangeStatus);
  const titles = (await planOf(id)).tasks.map((task) => task.id);
  const taken = new Set<TaskStatus>();
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(fc.nat(titles.length - 1), fc.constantFrom(...TASK_STATUS)), { minLength: 1, maxLength: 4 }),
      async (steps) => {
        for (const [index, status] of steps) {
          const task = (await planOf(id)).tasks.find((other) => other.id === titles[index]) as PlanTask;
          await changing.run(who, task.id, { version: task.version, status });
          taken.add(status);
        }
        const atOnce = await summaryOf(id);
        await harness.database.transaction((manager) =>
          refreshEngagement(manager, id, { today: TODAY, by: { actor: { job: 'plan' }, at: new Date() }, changed: [] }),
        );
        const anew = await summaryOf(id);
        // Days move behind a status, and with them what is due next; all else must be right at once.
        expect({ ...atOnce, next_due: null, overdue_tasks: null }).toEqual({ ...anew, next_due: null, overdue_tasks: null });
      },
    ),
    { numRuns: 25 },
  );
  expect(taken.size).toBe(TASK_STATUS.length);
});
