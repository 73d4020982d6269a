import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { dropDatabase, ensureDatabase, projectRoot } from './cluster.mjs';

export const TEST_TODAY = '2026-11-23';
export const TEST_TEMPLATE = 'test_template';
/** Each database has a folder of its own in it: a sweep removes what its database does not know. */
const TEST_FILES = join(projectRoot, '.data/test-files');
export const DEMO_TEMPLATE = 'demo_template';

/** One migrated template a run, and one with the demo in it; tests copy them in milliseconds. */
export async function prepareTestDatabases(cluster, { withDemo }) {
  await make(cluster, TEST_TEMPLATE, 'off');
  if (withDemo) await make(cluster, DEMO_TEMPLATE, 'on');
  return {
    CREW_TEST_SERVER: cluster.url('postgres'),
    CREW_TEST_TEMPLATE: TEST_TEMPLATE,
    CREW_DEMO_TEMPLATE: DEMO_TEMPLATE,
    CREW_FILES: TEST_FILES,
    DEMO_TODAY: TEST_TODAY,
  };
}

async function make(cluster, name, demo) {
  console.log(`\n── database ${name}`);
  await dropDatabase(cluster, name);
  rmSync(join(TEST_FILES, name), { recursive: true, force: true });
  await ensureDatabase(cluster, name);
  const env = {
    ...process.env,
    CREW_DATABASE_URL: cluster.url(name),
    CREW_SESSION_SECRET: 'for tests only',
    CREW_FILES: join(TEST_FILES, name),
    CREW_DEMO: demo,
    DEMO_TODAY: TEST_TODAY,
  };
  const done = spawnSync(process.execPath, ['apps/server/dist/prepare.js'], { cwd: projectRoot, env, encoding: 'utf8' });
  if (done.status !== 0) throw new Error(`Preparing ${name} failed:\n${done.stdout}${done.stderr}`);
}
