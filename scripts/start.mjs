import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { dropDatabase, ensureDatabase, freePort, hasDatabase, projectRoot, startCluster } from './cluster.mjs';

/** Builds, brings the database up, migrates, fills the demo, serves; stops all of it on Ctrl-C. */

const isEmpty = process.argv.includes('--empty');
const isLarge = process.argv.includes('--large');
/** Makes the demo anew as of today: what was done in it is gone. */
const isAgain = process.argv.includes('--again');
const port = Number(process.env.CREW_PORT ?? 4180);
/** The bundled mailboxes and the port for answers, when they are not given: those behind the app's own. */
const mailboxPort = Number(process.env.CREW_MAILBOX_PORT ?? port + 1);
const mailInPort = Number(process.env.CREW_MAIL_IN_PORT ?? port + 2);

if (isAgain && (isEmpty || isLarge)) fail('Only the demo is made again: ./start --again');

function fail(message) {
  console.error(message);
  process.exit(1);
}

await freePort(port).catch(() => fail(`Port ${port} is taken. Stop what uses it, or choose another: CREW_PORT=4281 ./start`));
for (const [name, mailPort] of [
  ['CREW_MAILBOX_PORT', mailboxPort],
  ['CREW_MAIL_IN_PORT', mailInPort],
])
  await freePort(mailPort).catch(() =>
    fail(`Port ${mailPort}, for mail, is taken. Stop what uses it, or choose another: ${name}=4281 ./start`),
  );

// Some ports are closed to web pages everywhere; asking one fails at once and without a network code.
const asked = await fetch(`http://127.0.0.1:${port}`).catch((error) => error);
if (asked.cause !== undefined && asked.cause.code === undefined)
  fail(`Browsers refuse to open port ${port}. Choose another: CREW_PORT=4281 ./start`);

console.log('Building …');
const built = spawnSync('npm', ['run', '-s', 'build'], { cwd: projectRoot, encoding: 'utf8' });
if (built.status !== 0) fail(`The build failed:\n${built.stdout}${built.stderr}`);

const cluster = await startCluster({ name: 'database' }).catch((error) => fail(error.message));
const database = isEmpty ? 'crew_empty' : isLarge ? 'crew_large' : 'crew_demo';
if (isAgain) {
  await dropDatabase(cluster, database);
  rmSync(join(projectRoot, '.data/files', database), { recursive: true, force: true });
}
if (isLarge && !(await hasDatabase(cluster, database))) {
  const { demoToday, makeLargeWorld } = await import('./large-world.mjs');
  console.log('Making the large world, once; it takes a minute or two:');
  await makeLargeWorld(cluster, { today: demoToday(), say: (step) => console.log(`  ${step}`) });
} else await ensureDatabase(cluster, database);

const environment = {
  ...process.env,
  CREW_DATABASE_URL: cluster.url(database),
  CREW_FILES: join(projectRoot, '.data/files', database),
  CREW_PORT: String(port),
  CREW_MAILBOX_PORT: String(mailboxPort),
  CREW_MAIL_IN_PORT: String(mailInPort),
  CREW_SESSION_SECRET: readSecret(),
  CREW_DEMO: isEmpty ? 'off' : 'on',
  CREW_WEB_ROOT: join(projectRoot, 'apps/web/dist'),
  CREW_QUIET: process.env.CREW_QUIET ?? 'on',
};
const prepared = spawnSync(process.execPath, ['apps/server/dist/prepare.js'], { cwd: projectRoot, env: environment, stdio: 'inherit' });
if (prepared.status !== 0) {
  cluster.stop();
  fail('The database could not be prepared; what went wrong stands above.');
}

// In a group of its own: Ctrl-C reaches this process, which then stops the server and the database in order.
const server = spawn(process.execPath, ['apps/server/dist/main.js'], {
  cwd: projectRoot,
  env: environment,
  stdio: 'inherit',
  detached: true,
});
server.once('exit', (code) => {
  if (!cluster.wasRunning) cluster.stop();
  process.exit(code ?? 0);
});
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => server.kill('SIGTERM'));

await whenReady(`http://127.0.0.1:${port}/api/health`);
if (server.exitCode === null && !server.killed) console.log(`\n${await whereItIs()}\nCtrl-C stops it.`);

/** The address; before there is an agency, with the set-up key. */
async function whereItIs() {
  const address = `http://127.0.0.1:${port}`;
  const { isSetUp } = await (await fetch(`${address}/api/agency`)).json();
  if (isSetUp) return `Nimble Crew is at ${address}`;
  const printed = spawnSync(process.execPath, ['apps/server/dist/setup-key.js'], { cwd: projectRoot, env: environment, encoding: 'utf8' });
  if (printed.status !== 0) return `Nimble Crew is at ${address}\nThe set-up key could not be read:\n${printed.stderr}`;
  const key = printed.stdout.trim();
  return `Set up your agency at ${address}/set-up?key=${key}\nThe set-up key is ${key}; whoever has it becomes the owner.`;
}

/** One secret per installation, readable by its owner only. */
function readSecret() {
  const folder = join(projectRoot, '.data');
  const path = join(folder, 'session-secret');
  mkdirSync(folder, { recursive: true });
  if (!existsSync(path)) writeFileSync(path, randomBytes(32).toString('base64url'), { mode: 0o600 });
  return readFileSync(path, 'utf8');
}

/** Waits until the server answers; a slow machine gets its time. */
async function whenReady(url) {
  const until = Date.now() + 180_000;
  while (Date.now() < until) {
    const answer = await fetch(url, { signal: AbortSignal.timeout(5000) }).catch(() => null);
    if (answer?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  console.error('The server did not come up within three minutes; what it said stands above.');
  server.kill('SIGTERM');
}
