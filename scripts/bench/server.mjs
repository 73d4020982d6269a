import pg from 'pg';
import { dropDatabase, ensureDatabase, projectRoot, startCluster } from '../cluster.mjs';
import { spawn, spawnSync } from 'node:child_process';
import { report, timeOfAsync } from './measure.mjs';

/** The server's figures on the demo world, over loopback. */
export async function benchServer(port) {
  const cluster = await startCluster({ name: 'test-database', isThrowaway: true });
  await dropDatabase(cluster, 'bench');
  await ensureDatabase(cluster, 'bench');
  const settings = {
    CREW_DATABASE_URL: cluster.url('bench'),
    CREW_PORT: String(port),
    CREW_SESSION_SECRET: 'for the bench only',
    CREW_DEMO: 'on',
    CREW_QUIET: 'on',
  };
  const env = { ...process.env, ...settings, DEMO_TODAY: '2026-11-23' };
  spawnSync(process.execPath, ['apps/server/dist/prepare.js'], { cwd: projectRoot, env });
  const server = spawn(process.execPath, ['apps/server/dist/main.js'], { cwd: projectRoot, env, stdio: 'inherit' });
  const client = new pg.Client({ connectionString: cluster.url('bench') });
  try {
    while (!(await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => null))?.ok)
      await new Promise((resolve) => setTimeout(resolve, 200));
    await client.connect();
    await measure(client, `http://127.0.0.1:${port}/api`);
  } finally {
    await client.end();
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await ended;
    cluster.stop();
  }
}

async function signIn(base) {
  const people = await (await fetch(`${base}/session/demo`)).json();
  const { accountId } = people.find((person) => person.name === 'Odalys Renn');
  const answer = await fetch(`${base}/session/demo`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ accountId }),
  });
  const cookie = answer.headers.get('set-cookie').split(';')[0];
  const { csrfToken } = await (await fetch(`${base}/session`, { headers: { cookie } })).json();
  return { cookie, 'X-Crew-Token': csrfToken, 'Content-Type': 'application/json' };
}

async function measure(client, base) {
  const headers = await signIn(base);
  const get = (path) => fetch(`${base}${path}`, { headers }).then((answer) => answer.text());
  const { rows } =
    await client.query(`SELECT e.id, (SELECT t.id FROM task t WHERE t.engagement_id = e.id AND t.status = 'queued' ORDER BY t.number LIMIT 1) AS task
    FROM engagement e WHERE e.name LIKE 'Keepers%'`);
  const { id, task } = rows[0];
  const times = (ratio) => `${ratio.toFixed(1)} ×`;
  const key = await timeOfAsync(() => client.query({ name: 'key', text: 'SELECT * FROM task WHERE id = $1', values: [task] }));
  const document = await timeOfAsync(() =>
    client.query({
      name: 'doc',
      text: `SELECT json_agg(to_json(t) ORDER BY t.number) FROM task t WHERE t.engagement_id = $1`,
      values: [id],
    }),
  );
  report(
    'plan document by the API, against one JSON read of its tasks by the driver',
    times((await timeOfAsync(() => get(`/engagements/${id}/plan`))) / document),
    '≤ 2.0 ×',
  );
  report('my desk by the API, against one read by primary key (demo world)', times((await timeOfAsync(() => get('/desk'))) / key), '≤ 6 ×');
  report('list of engagements by the API, the same (demo world)', times((await timeOfAsync(() => get('/engagements'))) / key), '≤ 8 ×');
  let version = (await client.query('SELECT version FROM task WHERE id = $1', [task])).rows[0].version;
  const bare = await timeOfAsync(() => client.query(`UPDATE task SET title = title WHERE id = $1`, [task]));
  const edit = await timeOfAsync(async () => {
    const status = version % 2 === 0 ? 'queued' : 'active';
    const answer = await fetch(`${base}/tasks/${task}`, { method: 'PATCH', headers, body: JSON.stringify({ version, status }) });
    if (!answer.ok) throw new Error(await answer.text());
    version++;
  });
  report('a status change with replan, summary and event, against the bare update', times(edit / bare), '≤ 1.6 ×');
}
