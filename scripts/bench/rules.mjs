import { once } from 'node:events';
import { get } from 'node:http';
import pg from 'pg';
import { startCluster } from '../cluster.mjs';
import { freshDemo, serveDemo } from './demo-server.mjs';
import { bothOf, middle, report, slowestInTwenty } from './measure.mjs';

/** How soon, and how many, events go through rules; and how soon many open screens hear of a change. On the demo, with its job queue. */
const ONE_BY_ONE = 40;
const STREAMS = 200;
const STREAMS_EACH = 20;
const HEARD = 20;

export async function benchRules() {
  const cluster = await startCluster({ name: 'bench-database' });
  const url = await freshDemo(cluster, 'bench_rules');
  const client = new pg.Client({ connectionString: url });
  try {
    await client.connect();
    await serveDemo({ url, settings: { CREW_JOBS: 'on' } }, async (server) => {
      const person = server.people.find(({ access }) => access === 'lead');
      const lead = { person, ...(await server.signIn(person)) };
      const tasks = await openTasks(lead.ask);
      await addRule(lead.ask);
      await measureDelay(client, lead.ask, tasks.splice(0, ONE_BY_ONE + 1));
      await measureFlow(client, lead.ask, tasks);
      await measureStreams(server, lead, (await openTasks(lead.ask, 'active')).slice(0, HEARD));
    });
  } finally {
    await client.end();
    if (!cluster.wasRunning) cluster.stop();
  }
}

/** Tasks of every engagement, of one status. */
async function openTasks(ask, wanted = 'queued') {
  const { body } = await ask('GET', '/engagements');
  const plans = await Promise.all(body.map(async ({ id }) => ({ id, ...(await ask('GET', `/engagements/${id}/plan`)).body })));
  return plans.flatMap((plan) =>
    plan.tasks
      .filter(({ status, isGroup, kind }) => status === wanted && !isGroup && kind !== 'client')
      .map((task) => ({ ...task, engagementId: plan.id })),
  );
}

/** Whatever is begun becomes urgent: an effect that can be seen on the task. */
async function addRule(ask) {
  const { status, body } = await ask('POST', '/rules', {
    level: 'agency',
    content: {
      when: { kind: 'status-changed', slots: { status: 'active' } },
      if: [],
      then: [{ do: 'set-priority', slots: { priority: 'high' } }],
    },
  });
  if (status !== 201) throw new Error(`The rule was refused: ${JSON.stringify(body)}`);
}

const areUrgent = async (client, ids) => {
  const { rows } = await client.query({
    name: 'urgent',
    text: `SELECT count(*)::int AS count FROM task WHERE id = ANY($1) AND priority = 'high'`,
    values: [ids],
  });
  return rows[0].count === ids.length;
};

async function until(isSo) {
  while (!(await isSo())) await new Promise((resolve) => setTimeout(resolve, 2));
}

const begin = (ask, { id, version }) => ask('PATCH', `/tasks/${id}`, { version, status: 'active' });

async function measureDelay(client, ask, [first, ...tasks]) {
  await begin(ask, first);
  await until(() => areUrgent(client, [first.id]));
  const saving = [];
  const delays = [];
  for (const task of tasks) {
    const began = performance.now();
    await begin(ask, task);
    const saved = performance.now();
    await until(() => areUrgent(client, [task.id]));
    saving.push(saved - began);
    delays.push(performance.now() - saved);
  }
  report('from a status that is saved to the effect of its rule: middle / slowest in twenty', bothOf(delays), 'told beside it');
  report('  against saving the status', `${(middle(delays) / middle(saving)).toFixed(1)} ×`, '≤ 10 ×');
  report('  its slowest in twenty, against its middle', `${(slowestInTwenty(delays) / middle(delays)).toFixed(1)} ×`, '≤ 3 ×');
}

async function measureFlow(client, ask, tasks) {
  const began = performance.now();
  for (let at = 0; at < tasks.length; at += 20) await Promise.all(tasks.slice(at, at + 20).map((task) => begin(ask, task)));
  const saved = performance.now() - began;
  await until(() =>
    areUrgent(
      client,
      tasks.map(({ id }) => id),
    ),
  );
  const through = performance.now() - began;
  report(
    `${tasks.length} statuses at once: events through rules`,
    `${Math.round((tasks.length / through) * 1000)} a second`,
    'told beside it',
  );
  report('  against how fast they are saved', `${(through / saved).toFixed(1)} ×`, '≤ 3 ×');
}

/** Each of many screens is told of a change; how long the last of them waits, against a single one. */
async function measureStreams(server, lead, tasks) {
  const hear = async (streams) => {
    const delays = [];
    for (const task of tasks.splice(0, HEARD / 2)) {
      const told = streams.map((stream) => stream.next(`engagement:${task.engagementId}`));
      const began = performance.now();
      const { status } = await lead.ask('PATCH', `/tasks/${task.id}`, { version: task.version, title: `${task.title}, again` });
      if (status !== 200) throw new Error(`The title was refused: ${status}`);
      await Promise.all(told);
      delays.push(performance.now() - began);
    }
    return delays;
  };
  const one = await openStream(server, lead.cookie);
  const alone = await hear([one]);
  const staff = server.people.filter(({ access }) => access === 'owner' || access === 'lead' || access === 'member');
  const signedIn = await Promise.all(Array.from({ length: STREAMS / STREAMS_EACH }, (_, at) => server.signIn(staff[at])));
  // The lead has one open already, and nobody may have more than so many.
  const cookies = signedIn.flatMap(({ cookie }, at) =>
    Array.from({ length: STREAMS_EACH - (staff[at] === lead.person ? 1 : 0) }, () => cookie),
  );
  const streams = [one, ...(await Promise.all(cookies.map((cookie) => openStream(server, cookie))))];
  const all = await hear(streams);
  for (const stream of streams) stream.end();
  report(`${STREAMS} open screens hear of a change, the last of them: middle / slowest in twenty`, bothOf(all), 'told beside it');
  report('  against a single one', `${(middle(all) / middle(alone)).toFixed(1)} ×`, '≤ 3 ×');
}

/** An open stream that tells when it has heard of something. */
async function openStream({ port }, cookie) {
  const asked = get({ port, host: '127.0.0.1', path: '/api/changes', headers: { cookie } });
  const [stream] = await once(asked, 'response');
  if (stream.statusCode !== 200) throw new Error(`A stream was refused: ${stream.statusCode}`);
  const waiting = new Set();
  stream.setEncoding('utf8').on('data', (text) => {
    for (const one of waiting)
      if (text.includes(one.topic)) {
        waiting.delete(one);
        one.heard();
      }
  });
  stream.on('error', () => undefined);
  return {
    next: (topic) => new Promise((heard) => waiting.add({ topic, heard })),
    end: () => stream.destroy(),
  };
}
