import { startHarness, type Harness } from '../../test/harness.ts';
import { addJob } from '../platform/job-names.ts';
import { WatchWorkers } from './watch-workers.ts';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

/** A job that a worker took, so many seconds ago. */
async function takenBy(workerId: string, secondsAgo: number): Promise<void> {
  await harness.database.transaction((manager) => addJob(manager, { name: 'refresh-all', payload: {}, key: workerId }));
  await harness.database.rows(
    `UPDATE graphile_worker._private_jobs SET locked_by = $1, locked_at = now() - make_interval(secs => $2) WHERE key = $1`,
    [workerId, secondsAgo],
  );
}
const isLocked = async (key: string): Promise<boolean> =>
  (await harness.database.rows('SELECT 1 FROM graphile_worker.jobs WHERE key = $1 AND locked_by IS NOT NULL', [key])).length > 0;
const beat = (workerId: string, secondsAgo: number) =>
  harness.database.rows('INSERT INTO worker_heartbeat (worker_id, at) VALUES ($1, now() - make_interval(secs => $2))', [
    workerId,
    secondsAgo,
  ]);

test('jobs of a worker that is silent are free again; those of one that lives, and of one that has just begun, are not', async () => {
  await takenBy('dead', 40);
  await beat('dead', 35);
  await takenBy('never-heard', 40);
  await takenBy('alive', 400);
  await beat('alive', 2);
  await takenBy('fresh', 3);
  await harness.app.get(WatchWorkers).unlockDead();
  expect(await Promise.all(['dead', 'never-heard', 'alive', 'fresh'].map(isLocked))).toEqual([false, false, true, true]);
});

test('a job that was asked for again while a worker had it goes with the worker that was killed', async () => {
  await takenBy('killed', 40);
  await harness.database.transaction((manager) => addJob(manager, { name: 'refresh-all', payload: {}, key: 'killed' }));
  const aside = () => harness.database.rows('SELECT 1 FROM graphile_worker.jobs WHERE attempts >= max_attempts');
  expect(await aside()).toHaveLength(1);
  await harness.app.get(WatchWorkers).unlockDead();
  expect(await aside()).toEqual([]);
  expect(await harness.database.rows(`SELECT 1 FROM graphile_worker.jobs WHERE key = 'killed'`)).toHaveLength(1);
});
