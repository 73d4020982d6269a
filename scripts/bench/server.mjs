import 'reflect-metadata';
import { spawn } from 'node:child_process';
import { NestFactory } from '@nestjs/core';
import { join } from 'node:path';
import pg from 'pg';
import { AccountRepository } from '../../apps/server/dist/account/account.repository.js';
import { AppModule } from '../../apps/server/dist/app.module.js';
import { PLAN_DOCUMENT } from '../../apps/server/dist/engagement/engagement.repository.js';
import { ChangeStatus } from '../../apps/server/dist/task/change-status.js';
import { KeepLoad } from '../../apps/server/dist/load/keep-load.js';
import { freePort, projectRoot, startCluster } from '../cluster.mjs';
import { LARGE_DATABASE, makeLargeWorld } from '../large-world.mjs';
import { report, timeOfAsync } from './measure.mjs';
import { benchGrid } from './grid.mjs';
import { benchTimeline } from './timeline.mjs';

const TODAY = '2026-11-23';
const times = (ratio) => `${ratio.toFixed(1)} ×`;

/** The server's figures on the large world, over loopback, on a database that waits for its disk. */
export async function benchServer() {
  const cluster = await startCluster({ name: 'bench-database' });
  await makeLargeWorld(cluster, { today: TODAY });
  const settings = {
    CREW_DATABASE_URL: cluster.url(LARGE_DATABASE),
    CREW_FILES: join(projectRoot, '.data/files', LARGE_DATABASE),
    CREW_PORT: String(await freePort()),
    CREW_SESSION_SECRET: 'for the bench only',
    CREW_QUIET: 'on',
    CREW_JOBS: 'off',
    CREW_WEB_ROOT: join(projectRoot, 'apps/web/dist'),
  };
  const env = { ...process.env, ...settings, DEMO_TODAY: TODAY };
  const server = spawn(process.execPath, ['apps/server/dist/main.js'], { cwd: projectRoot, env, stdio: 'inherit' });
  const client = new pg.Client({ connectionString: settings.CREW_DATABASE_URL });
  try {
    const base = `http://127.0.0.1:${settings.CREW_PORT}/api`;
    while (!(await fetch(`${base}/health`).catch(() => null))?.ok) await new Promise((resolve) => setTimeout(resolve, 200));
    await client.connect();
    const floor = await measureReads(client, base);
    await measureStatus(client, settings, floor);
    const screen = { address: base.replace(/\/api$/, ''), sessionCookie: (await signIn(base)).cookie };
    await benchTimeline(client, screen);
    await benchGrid(client, screen);
  } finally {
    await client.end();
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await ended;
    if (!cluster.wasRunning) cluster.stop();
  }
}

async function signIn(base) {
  const answer = await fetch(`${base}/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: 'person5@large.example', password: 'a very large studio' }),
  });
  return { cookie: answer.headers.get('set-cookie').split(';')[0] };
}

async function measureReads(client, base) {
  const headers = await signIn(base);
  const get = async (path) => {
    const answer = await fetch(`${base}${path}`, { headers });
    const text = await answer.text();
    if (!answer.ok) throw new Error(`${path}: ${text}`);
  };
  const { rows } =
    await client.query(`SELECT e.id, e.agency_id AS agency, (SELECT t.id FROM task t WHERE t.engagement_id = e.id AND t.status = 'queued' LIMIT 1) AS task
    FROM engagement e WHERE e.name = 'Engagement 40'`);
  const { id, agency, task } = rows[0];
  const byDriver = (name, text, values) => timeOfAsync(() => client.query({ name, text, values }));
  const key = await byDriver('key', 'SELECT * FROM task WHERE id = $1', [task]);
  const keyByApi = await timeOfAsync(() => get('/session'));
  const document = await byDriver('document', `${PLAN_DOCUMENT} AND e.agency_id = $2`, [id, agency]);
  const plan = await timeOfAsync(() => get(`/engagements/${id}/plan`));
  report('plan document by the API, against the same SQL document by the driver', times(plan / document), '≤ 2.0 ×');
  const screens = [
    ['my desk', '/desk', '≤ 5 ×'],
    ['handoffs', '/handoffs', '≤ 5 ×'],
    ['a week of time', '/time', '≤ 5 ×'],
    ['the week plan', '/week-plan', '≤ 5 ×'],
    ['list of engagements', '/engagements', '≤ 8 ×'],
    ['the history of everything', '/history', '≤ 5 ×'],
    ['the history of one engagement', `/history?engagement=${id}`, '≤ 5 ×'],
    ['how handoffs go', '/handoffs/speed', 'told beside it'],
  ];
  for (const [name, path, aim] of screens) {
    const ratio = times((await timeOfAsync(() => get(path))) / keyByApi);
    report(`${name} by the API, against the smallest request (who am I)`, ratio, aim);
  }
  return keyByApi - key;
}

/** Each change is of another engagement, so that each really asks for its job. */
async function measureStatus(client, settings, floor) {
  const config = {
    databaseUrl: settings.CREW_DATABASE_URL,
    port: 0,
    sessionSecret: 'x',
    isDemo: false,
    today: TODAY,
    webRoot: null,
    filesRoot: settings.CREW_FILES,
    runsJobs: false,
    address: 'http://bench.test',
    mail: { outgoing: null, mailboxPort: null, incomingPort: null, domain: 'bench.test' },
  };
  const app = await NestFactory.createApplicationContext(AppModule.with({ ...config, isQuiet: true }), { logger: false });
  try {
    const account = await client.query(`SELECT id FROM account WHERE email = 'person5@large.example'`);
    const who = await app.get(AccountRepository).findWho(account.rows[0].id);
    const { rows } = await client.query(`SELECT DISTINCT ON (e.id) t.id, t.version FROM task t JOIN engagement e ON e.id = t.engagement_id
      WHERE e.state = 'open' AND t.status = 'queued' ORDER BY e.id, t.id`);
    const [bystander, ...subjects] = rows;
    let status = 'active';
    const bare = await timeOfAsync(() => {
      status = status === 'active' ? 'review' : 'active';
      return client.query({
        name: 'bare',
        text: 'UPDATE task SET status = $2, real_start = $3, version = version + 1 WHERE id = $1',
        values: [bystander.id, status, TODAY],
      });
    }, 100);
    const whole = await timeOfAsync(() => {
      const subject = subjects.pop();
      return app.get(ChangeStatus).run(who, subject.id, { version: subject.version, status: 'active' });
    }, 100);
    const asRequest = times((floor + whole) / (floor + bare));
    report('a status change with summary, event and job, against the bare update as a request', asRequest, '≤ 1.6 ×');
    report('  the same by the driver alone', times(whole / bare), 'told beside it');
    await measureLoad(app.get(KeepLoad), client, who.agencyId);
  } finally {
    await app.close();
  }
}

/** The load of 200 people over 150 open engagements: brought up to date after one of them has changed, against computed whole. */
async function measureLoad(keeping, client, agency) {
  const { rows } = await client.query(`SELECT id FROM engagement WHERE agency_id = $1 AND state = 'open' ORDER BY id LIMIT 1`, [agency]);
  const touch = () => client.query('UPDATE engagement_summary SET revision = revision + 1 WHERE engagement_id = $1', [rows[0].id]);
  const whole = await timeOfAsync(() => {
    keeping.forget(agency);
    return keeping.read(agency);
  }, 9);
  const touching = await timeOfAsync(touch, 20);
  const changed = await timeOfAsync(async () => {
    await touch();
    await keeping.read(agency);
  }, 20);
  report('the load after one engagement has changed, faster than computing it whole', times(whole / (changed - touching)), '≥ 5 ×');
}
