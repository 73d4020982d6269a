import { spawn, spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { dropDatabase, ensureDatabase, freePort, projectRoot } from '../cluster.mjs';

const TODAY = '2026-11-23';

const settingsOf = (url) => ({
  CREW_DATABASE_URL: url,
  CREW_FILES: join(projectRoot, '.data/files', new URL(url).pathname.slice(1)),
  CREW_SESSION_SECRET: 'for the bench only',
  CREW_QUIET: 'on',
  CREW_JOBS: 'off',
  CREW_DEMO: 'on',
  CREW_REQUESTS_PER_MINUTE: '1000000',
  DEMO_TODAY: TODAY,
});

/** The demo in a database of its own, made anew; answers its address. */
export async function freshDemo(cluster, name) {
  await dropDatabase(cluster, name);
  await ensureDatabase(cluster, name);
  const env = { ...process.env, ...settingsOf(cluster.url(name)) };
  const done = spawnSync(process.execPath, ['apps/server/dist/prepare.js'], { cwd: projectRoot, env, encoding: 'utf8' });
  if (done.status !== 0) throw new Error(`Preparing ${name} failed:\n${done.stdout}${done.stderr}`);
  return cluster.url(name);
}

/** Runs a server of a checkout on a demo while some work lasts, and ends it. */
export async function serveDemo({ url, folder = projectRoot, settings = {} }, work) {
  const port = await freePort();
  const env = { ...process.env, ...settingsOf(url), ...settings, CREW_PORT: String(port) };
  const server = spawn(process.execPath, ['apps/server/dist/main.js'], { cwd: folder, env, stdio: 'inherit' });
  try {
    const base = `http://127.0.0.1:${port}/api`;
    while (!(await fetch(`${base}/health`).catch(() => null))?.ok) await new Promise((resolve) => setTimeout(resolve, 200));
    await work({ port, people: await (await fetch(`${base}/session/demo`)).json(), signIn: (person) => signIn(base, person) });
  } finally {
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await ended;
  }
}

/** Somebody of the demo, signed in: their cookie, and a way to ask. */
async function signIn(base, { accountId }) {
  const json = { 'content-type': 'application/json' };
  const answer = await fetch(`${base}/session/demo`, { method: 'POST', headers: json, body: JSON.stringify({ accountId }) });
  const cookie = answer.headers.get('set-cookie').split(';')[0];
  const { csrfToken } = await (await fetch(`${base}/session`, { headers: { cookie } })).json();
  const ask = async (method, path, body) => {
    const headers = { ...json, cookie, 'x-crew-token': csrfToken };
    const response = await fetch(`${base}${path}`, { method, headers, ...(body === undefined ? {} : { body: JSON.stringify(body) }) });
    return { status: response.status, body: response.status === 204 ? null : await response.json() };
  };
  return { cookie, ask };
}
