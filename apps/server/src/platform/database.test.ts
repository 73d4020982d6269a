import { DataSource } from 'typeorm';
import { startHarness, startSmall, type Harness } from '../../test/harness.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

test('entities and migrations describe the same tables', async () => {
  const { upQueries } = await harness.app.get(DataSource).driver.createSchemaBuilder().log();
  expect(upQueries.map(({ query }) => query)).toEqual([]);
});

test('every migration has a way back', async () => {
  const source = harness.app.get(DataSource);
  const runner = source.createQueryRunner();
  await runner.startTransaction();
  for (const migration of [...source.migrations].reverse()) await migration.down(runner);
  const left = (await runner.query(
    `SELECT count(*)::int AS tables FROM pg_tables WHERE schemaname = 'public' AND tablename <> 'migrations'`,
  )) as { tables: number }[];
  await runner.rollbackTransaction();
  await runner.release();
  expect(left[0]?.tables).toBe(0);
});

test.each<[string, string]>([
  ['a task that is done without a day', `UPDATE task SET status = 'done'`],
  ['a task that waits on nobody', `UPDATE task SET status = 'waiting'`],
  ['more steps done than there are', 'UPDATE task SET steps_done = steps_all + 1'],
  ['due before start', `UPDATE task SET due_day = start_day - 1`],
  ['a phase that is over without a finish', `UPDATE phase SET state = 'over'`],
  ['a percent above 100', 'UPDATE engagement_summary SET percent = 101'],
])('the database itself refuses %s', async (_name, sql) => {
  const lead = await harness.as('Lena');
  await startSmall(lead, harness);
  await expect(harness.database.rows(sql)).rejects.toMatchObject({ code: '23514' });
});

test('a fault in the middle of starting leaves nothing behind', async () => {
  const before = await harness.database.row('SELECT count(*) FROM engagement');
  const attempt = harness.database.transaction(async (manager) => {
    const rows = await manager.query<{ id: string }[]>('SELECT id FROM engagement LIMIT 1');
    await refreshEngagement(manager, rows[0]?.id ?? '', {
      today: '2026-11-23',
      by: { actor: { job: 'plan' }, at: new Date() },
      changed: [],
    });
    await manager.query('DELETE FROM engagement');
    throw new Error('the lights went out');
  });
  await expect(attempt).rejects.toThrow('the lights went out');
  expect(await harness.database.row('SELECT count(*) FROM engagement')).toEqual(before);
});

describe('one transaction for several use cases', () => {
  const names = async (): Promise<string[]> =>
    (await harness.database.rows<{ name: string }>('SELECT name FROM role')).map(({ name }) => name);
  const add = (name: string): Promise<void> =>
    harness.database.transaction(async (manager) => {
      await manager.query('INSERT INTO role (agency_id, name) SELECT id, $1 FROM agency', [name]);
    });

  test('goes through or back as a whole, and sees what it has written', async () => {
    const both = (fault: boolean): Promise<void> =>
      harness.database.together(async () => {
        await add('Glazier');
        expect(await names()).toContain('Glazier');
        if (fault) throw new Error('the lights went out');
      });
    await expect(both(true)).rejects.toThrow('the lights went out');
    expect(await names()).not.toContain('Glazier');
    await both(false);
    expect(await names()).toContain('Glazier');
  });

  test('what goes on behind it is no part of it', async () => {
    const behind: { read?: Promise<string[]> } = {};
    await harness.database.together(async () => {
      await add('Carver');
      behind.read = new Promise((resolve, reject) => void setTimeout(() => names().then(resolve, reject), 50));
    });
    expect(await behind.read).toContain('Carver');
    // It read by the pool: its connection is there for others again.
    expect(await names()).toContain('Carver');
  });
});
