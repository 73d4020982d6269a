import { spawn, spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { dropDatabase, ensureDatabase, freePort, projectRoot, startCluster } from '../cluster.mjs';
import { report } from './measure.mjs';

/**
 * Many writers on one engagement at once, and how long everybody else waits meanwhile. With
 * BENCH_BEFORE=FOLDER a built checkout of another commit is measured too, in turns with this one.
 */
const DATABASE = 'bench_storm';
const TODAY = '2026-11-23';
const ROUNDS = 3;
const STATUSES = 50;
const EDITS = 20;
/** Another screen asks this often, whether or not it was answered: waiting must not hide waiting. */
const ASKING_MS = 25;

const sorted = (values) => [...values].sort((left, right) => left - right);
const middle = (values) => sorted(values)[Math.floor(values.length / 2)] ?? 0;
const slowestInTwenty = (values) => sorted(values)[Math.ceil(values.length * 0.95) - 1] ?? 0;
const both = (values) => `${middle(values).toFixed(0)} / ${slowestInTwenty(values).toFixed(0)} ms`;

/** Measures this checkout, and another one beside it where one is named. */
export async function benchStorm() {
  const cluster = await startCluster({ name: 'bench-database' });
  const folders = [...(process.env.BENCH_BEFORE ? [['before', process.env.BENCH_BEFORE]] : []), ['now', projectRoot]];
  const found = new Map(folders.map(([name]) => [name, { saved: 0, asked: 0, status: [], edit: [], calm: [], meanwhile: [] }]));
  try {
    for (let round = 0; round < ROUNDS; round++) {
      for (const [name, folder] of folders) await measure(folder, await freshDatabase(cluster), found.get(name));
    }
  } finally {
    if (!cluster.wasRunning) cluster.stop();
  }
  for (const [name, so] of found) {
    report(`${so.asked} statuses, up to ${STATUSES} at once on one engagement: saved, ${name}`, String(so.saved), String(so.asked));
    report(`the same, each: middle / slowest in twenty, ${name}`, both(so.status), '');
    report(`${EDITS} changes of dates at once, each, ${name}`, both(so.edit), '');
    report(`another screen meanwhile (calm: ${both(so.calm)}), ${name}`, both(so.meanwhile), '');
    report(
      `the same, slowest in twenty against calm, ${name}`,
      `${(slowestInTwenty(so.meanwhile) / slowestInTwenty(so.calm)).toFixed(1)} ×`,
      '',
    );
  }
}

async function freshDatabase(cluster) {
  await dropDatabase(cluster, DATABASE);
  await ensureDatabase(cluster, DATABASE);
  const env = { ...process.env, ...settingsOf(cluster.url(DATABASE)), CREW_DEMO: 'on' };
  const done = spawnSync(process.execPath, ['apps/server/dist/prepare.js'], { cwd: projectRoot, env, encoding: 'utf8' });
  if (done.status !== 0) throw new Error(`Preparing the storm failed:\n${done.stdout}${done.stderr}`);
  return cluster.url(DATABASE);
}

const settingsOf = (url) => ({
  CREW_DATABASE_URL: url,
  CREW_FILES: join(projectRoot, '.data/files', DATABASE),
  CREW_SESSION_SECRET: 'for the bench only',
  CREW_QUIET: 'on',
  CREW_JOBS: 'off',
  CREW_DEMO: 'on',
  CREW_REQUESTS_PER_MINUTE: '1000000',
  DEMO_TODAY: TODAY,
});

async function measure(folder, url, so) {
  const port = await freePort();
  const env = { ...process.env, ...settingsOf(url), CREW_PORT: String(port) };
  const server = spawn(process.execPath, ['apps/server/dist/main.js'], { cwd: folder, env, stdio: 'inherit' });
  try {
    const base = `http://127.0.0.1:${port}/api`;
    while (!(await fetch(`${base}/health`).catch(() => null))?.ok) await new Promise((resolve) => setTimeout(resolve, 200));
    const ask = await signIn(base);
    const engagement = (await ask('GET', '/engagements')).body.find(({ name }) => name === 'Keepers’ Quarters gallery');
    const plan = async () => (await ask('GET', `/engagements/${engagement.id}/plan`)).body.tasks.filter((task) => !task.isGroup);
    const timed = async (write, list) => {
      const began = performance.now();
      const { status } = await write();
      list.push(performance.now() - began);
      return status < 300;
    };
    const askOften = (list) => {
      const asked = [];
      const timer = setInterval(() => asked.push(timed(() => ask('GET', '/crew'), list)), ASKING_MS);
      return () => {
        clearInterval(timer);
        return Promise.all(asked);
      };
    };
    await ask('GET', '/crew');
    const stopCalm = askOften(so.calm);
    await new Promise((resolve) => setTimeout(resolve, 60 * ASKING_MS));
    await stopCalm();
    const queued = (await plan()).filter((task) => task.status === 'queued').slice(0, STATUSES);
    const saved = await Promise.all(
      queued.map(({ id, version }) => timed(() => ask('PATCH', `/tasks/${id}`, { version, status: 'active' }), so.status)),
    );
    so.asked += saved.length;
    so.saved += saved.filter(Boolean).length;
    const open = (await plan()).filter((task) => task.status === 'queued' || task.status === 'active').slice(0, EDITS);
    const stop = askOften(so.meanwhile);
    await Promise.all(open.map(({ id, version, days }) => timed(() => ask('PATCH', `/tasks/${id}`, { version, days: days + 1 }), so.edit)));
    await stop();
  } finally {
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await ended;
  }
}

/** A lead of the demo, signed in. */
async function signIn(base) {
  const people = await (await fetch(`${base}/session/demo`)).json();
  const { accountId } = people.find(({ access }) => access === 'lead');
  const json = { 'content-type': 'application/json' };
  const answer = await fetch(`${base}/session/demo`, { method: 'POST', headers: json, body: JSON.stringify({ accountId }) });
  const cookie = answer.headers.get('set-cookie').split(';')[0];
  const { csrfToken } = await (await fetch(`${base}/session`, { headers: { cookie } })).json();
  return async (method, path, body) => {
    const headers = { ...json, cookie, 'x-crew-token': csrfToken };
    const response = await fetch(`${base}${path}`, { method, headers, ...(body === undefined ? {} : { body: JSON.stringify(body) }) });
    return { status: response.status, body: response.status === 204 ? null : await response.json() };
  };
}
