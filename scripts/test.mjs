import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { projectRoot, startCluster } from './cluster.mjs';
import { prepareTestDatabases } from './test-databases.mjs';

/** Runs every part, goes on after a failure so that all of them are seen, and ends with one line of counts. */

const HARD_LIMIT_MS = 30 * 60_000;
const wanted = process.argv[2];
const results = join(projectRoot, '.data/test-results');
const totals = { passed: 0, failed: 0 };
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

function run(title, [command, ...args], env = {}) {
  console.log(`\n── ${title}`);
  const began = Date.now();
  const done = spawnSync(command, args, {
    cwd: projectRoot,
    stdio: 'inherit',
    env: { ...process.env, ...env },
    timeout: HARD_LIMIT_MS,
    killSignal: 'SIGKILL',
  });
  console.log(`   ${title}: ${done.status === 0 ? 'ok' : 'FAILED'} in ${Math.round((Date.now() - began) / 1000)} s`);
  return done.status === 0;
}

/** A part that is one check. */
function check(title, words) {
  const isFine = run(title, words);
  if (isFine) totals.passed++;
  else totals.failed++;
  return isFine;
}

/** A part whose runner writes its own counts. */
function count(title, args, env = {}) {
  const report = join(results, `${title.replaceAll(' ', '-')}.json`);
  const isFine = run(title, ['npx', ...args, ...reporting(args[0], report)], {
    ...env,
    PLAYWRIGHT_JSON_OUTPUT_NAME: report,
  });
  const counted = read(args[0], report);
  totals.passed += counted.passed;
  totals.failed += counted.failed;
  // A runner that died before it could count has failed anyway.
  if (!isFine && counted.failed === 0) totals.failed++;
}

const reporting = (runner, report) => (runner === 'jest' ? ['--json', `--outputFile=${report}`] : []);

function read(runner, report) {
  try {
    const data = JSON.parse(readFileSync(report, 'utf8'));
    if (runner === 'jest') return { passed: data.numPassedTests, failed: data.numFailedTests + data.numRuntimeErrorTestSuites };
    return { passed: data.stats.expected + data.stats.flaky, failed: data.stats.unexpected };
  } catch {
    return { passed: 0, failed: 0 };
  }
}

const wants = (part) => wanted === undefined || wanted === part;
if (wants('lint')) {
  check('formatting', ['npx', 'prettier', '--check', '--log-level', 'warn', '.']);
  check('lint', ['npx', 'eslint', '.']);
  check('phrasings', ['node', 'scripts/check-phrasings.mjs']);
  check('schemas of the answers', ['node', 'scripts/answer-schemas.mjs', '--check']);
}
const isBuilt = check('types and build', ['npm', 'run', '-s', 'build']);
if (isBuilt && wants('lint')) {
  for (const part of ['packages/core', 'packages/contract', 'apps/server', 'apps/web'])
    check(`types of the tests of ${part}`, ['npx', 'tsc', '-p', `${part}/tsconfig.test.json`]);
}
if (isBuilt) {
  if (wants('unit')) count('unit tests', ['jest', '--selectProjects', 'core', 'contract', 'web', '--maxWorkers=2']);
  if (wants('server') || wants('browser')) {
    const cluster = await startCluster({ name: 'test-database', isThrowaway: true });
    try {
      const databases = await prepareTestDatabases(cluster, { withDemo: wants('browser') });
      if (wants('server')) check('world for benchmarks', ['node', 'scripts/check-large-world.mjs']);
      if (wants('server')) count('server tests', ['jest', '--selectProjects', 'server', '--maxWorkers=2'], databases);
      if (wants('browser')) count('browser tests', ['playwright', 'test', '--config', 'e2e/playwright.config.ts'], databases);
    } finally {
      cluster.stop();
    }
  }
}
console.log(`\n${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed === 0 && totals.passed > 0 ? 0 : 1);
