import { startHarness, startSmall, TODAY, type Harness } from '../../test/harness.ts';
import { areas } from '../areas.ts';
import { addJob, JOB_NAMES } from '../platform/job-names.ts';
import { RefreshJob } from './refresh.job.ts';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

const waiting = async (): Promise<number> =>
  (await harness.database.row<{ jobs: number }>('SELECT count(*)::int AS jobs FROM graphile_worker.jobs'))?.jobs ?? -1;
const overdueOf = async (id: string) =>
  (
    await harness.database.row<{ overdue: number }>('SELECT overdue_tasks AS overdue FROM engagement_summary WHERE engagement_id = $1', [
      id,
    ])
  )?.overdue;

test('a job asked for in a transaction that is rolled back was never asked for', async () => {
  const before = await waiting();
  const attempt = harness.database.transaction(async (manager) => {
    await addJob(manager, { name: 'refresh-all', payload: {} });
    throw new Error('the lights went out');
  });
  await expect(attempt).rejects.toThrow('the lights went out');
  expect(await waiting()).toBe(before);
});

test('a job with a key waits once, however often it is asked for', async () => {
  const before = await waiting();
  for (let times = 0; times < 3; times++) {
    await harness.database.transaction((manager) => addJob(manager, { name: 'refresh-all', payload: {}, key: 'once' }));
  }
  expect(await waiting()).toBe(before + 1);
});

test('after midnight the jobs bring overdue work into the lists, by the real queue', async () => {
  const id = await startSmall(await harness.as('Lena'), harness);
  expect(await overdueOf(id)).toBe(0);
  harness.clock.moveTo('2026-11-26');
  await harness.app.get(RefreshJob).all();
  await harness.settle();
  expect(await overdueOf(id)).toBe(1);
  harness.clock.moveTo(TODAY);
});

test('every job is done by one area', () => {
  const done = areas.flatMap((area) => (area.jobs ?? []).map(({ name }) => name));
  expect([...done].sort()).toEqual([...JOB_NAMES].sort());
});
