import { projectRoot, startCluster } from '../cluster.mjs';
import { freshDemo, serveDemo } from './demo-server.mjs';
import { bothOf, report, slowestInTwenty } from './measure.mjs';

/**
 * Many writers on one engagement at once, and how long everybody else waits meanwhile. With
 * BENCH_BEFORE=FOLDER a built checkout of another commit is measured too, in turns with this one.
 */
const DATABASE = 'bench_storm';
const ROUNDS = 3;
const STATUSES = 50;
const EDITS = 20;
/** Another screen asks this often, whether or not it was answered: waiting must not hide waiting. */
const ASKING_MS = 25;

/** Measures this checkout, and another one beside it where one is named. */
export async function benchStorm() {
  const cluster = await startCluster({ name: 'bench-database' });
  const folders = [...(process.env.BENCH_BEFORE ? [['before', process.env.BENCH_BEFORE]] : []), ['now', projectRoot]];
  const found = new Map(folders.map(([name]) => [name, { saved: 0, asked: 0, status: [], edit: [], calm: [], meanwhile: [] }]));
  try {
    for (let round = 0; round < ROUNDS; round++) {
      for (const [name, folder] of folders) await measure(folder, await freshDemo(cluster, DATABASE), found.get(name));
    }
  } finally {
    if (!cluster.wasRunning) cluster.stop();
  }
  for (const [name, so] of found) {
    report(`${so.asked} statuses, up to ${STATUSES} at once on one engagement: saved, ${name}`, String(so.saved), String(so.asked));
    report(`the same, each: middle / slowest in twenty, ${name}`, bothOf(so.status), '');
    report(`${EDITS} changes of dates at once, each, ${name}`, bothOf(so.edit), '');
    report(`another screen meanwhile (calm: ${bothOf(so.calm)}), ${name}`, bothOf(so.meanwhile), '');
    report(
      `the same, slowest in twenty against calm, ${name}`,
      `${(slowestInTwenty(so.meanwhile) / slowestInTwenty(so.calm)).toFixed(1)} ×`,
      '',
    );
  }
}

async function measure(folder, url, so) {
  await serveDemo({ url, folder }, async ({ people, signIn }) => {
    const { ask } = await signIn(people.find(({ access }) => access === 'lead'));
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
  });
}
