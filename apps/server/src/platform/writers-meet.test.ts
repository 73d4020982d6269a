import { startHarness, startSmall, type Harness } from '../../test/harness.ts';
import { writersOf, type Side, type Writer } from '../../test/writers.ts';

/*
 * Every kind of writer beside every other, in two processes of the server, on things of their
 * own in one engagement: each is done, none is told that something changed meanwhile, and the
 * database has ended none of them for a deadlock.
 */

let harness: Harness;
let other: Awaited<ReturnType<Harness['beside']>>;

type People = Pick<Side, 'caller' | 'own' | 'personId' | 'settle'>;
let people: readonly [People, People];

beforeAll(async () => {
  harness = await startHarness();
  other = await harness.beside();
  const idOf = (name: string): string => harness.ids.people[name] as string;
  people = [
    { caller: await harness.as('Lena'), own: await harness.as('Mak'), personId: idOf('Mak'), settle: harness.settle },
    { caller: await other.as('Oona'), own: await other.as('Dora'), personId: idOf('Dora'), settle: other.settle },
  ];
});

/** Both sides, with an engagement they share that is not long yet. */
async function begin(): Promise<readonly [Kinds, Kinds]> {
  const { caller } = people[0];
  const engagementId = await startSmall(caller, harness, { name: 'Shared' });
  const otherId = await startSmall(caller, harness, { name: 'Other' });
  const { phases } = (await caller.get(`/engagements/${engagementId}/plan`).expect(200)).body as { phases: { id: string }[] };
  const shared = { engagementId, otherId, phaseIds: phases.map(({ id }) => id) };
  return [writersOf({ ...people[0], ...shared, place: 0 }, harness), writersOf({ ...people[1], ...shared, place: 1 }, harness)];
}
type Kinds = ReturnType<typeof writersOf>;

afterAll(async () => {
  await other.close();
  await harness.close();
});

const deadlocks = async (): Promise<number> =>
  (await harness.database.row<{ count: number }>('SELECT deadlocks::int AS count FROM pg_stat_database WHERE datname = current_database()'))
    ?.count ?? -1;

/** Writes all at once and looks whether each was done. */
async function race(writers: readonly Writer[]): Promise<void> {
  const names = writers.length > TOGETHER + 1 ? 'all' : writers.map(({ name }) => name).join(' beside ');
  const answers = await Promise.all(writers.map((writer) => writer.write()));
  for (const [index, writer] of writers.entries()) {
    const answer = answers[index] ?? null;
    const so = { names, of: writer.name };
    if (answer !== null) expect({ ...so, refusal: answer.status < 300 ? null : (answer.body as object) }).toEqual({ ...so, refusal: null });
    await writer.check();
  }
}

/** One meets so many at once, which is as good as one after the other and takes less time. */
const TOGETHER = 5;

/** They take a few hundredths of a second; this long, each time, somebody waited for a timeout. */
const LONGEST_MS = 4000;
const TRIES = 3;

test('each kind of writer beside each other one: all is done, nothing is lost, and nobody waits for ever', async () => {
  const before = await deadlocks();
  const slow: string[] = [];
  const kinds = (await begin())[0].length;
  let pairs = 0;
  for (let index = 0; index < kinds; index++) {
    await endWhatMet();
    const [left, right] = await begin();
    const others = right.slice(index);
    for (let from = 0; from < others.length; from += TOGETHER) {
      const met = [left[index] as Kinds[number], ...others.slice(from, from + TOGETHER)];
      const { name, tookMs } = await meet(met);
      if (tookMs > LONGEST_MS) slow.push(name);
      pairs += met.length - 1;
    }
  }
  expect(pairs).toBe((kinds * (kinds + 1)) / 2);
  expect(await deadlocks()).toBe(before);
  expect(slow).toEqual([]);
}, 400_000);

/** What has met is over: a closed day would go through all of it again, each time through more. */
async function endWhatMet(): Promise<void> {
  await harness.database.rows(`UPDATE engagement SET state = 'finished', closed_on = start_day WHERE state IN ('proposal', 'open')`);
  await harness.database.rows(`UPDATE engagement_series SET stopped_on = '2026-11-23' WHERE stopped_on IS NULL`);
}

/** Lets writers of these kinds meet; once more where it took long, since the machine may have been busy just then. */
async function meet(kinds: Kinds): Promise<{ readonly name: string; readonly tookMs: number }> {
  let [name, tookMs] = ['', Infinity];
  for (let tries = 0; tries < TRIES && tookMs > LONGEST_MS; tries++) {
    const writers: Writer[] = [];
    for (const kind of kinds) writers.push(await kind.ready());
    const began = performance.now();
    await race(writers);
    tookMs = performance.now() - began;
    name = writers.map((writer) => writer.name).join(' beside ');
  }
  return { name, tookMs };
}

test('all kinds of writers of both sides at once, again and again', async () => {
  const before = await deadlocks();
  for (let round = 0; round < 2; round++) {
    const writers: Writer[] = [];
    for (const side of await begin()) for (const kind of side) writers.push(await kind.ready());
    await race(writers);
  }
  expect(await deadlocks()).toBe(before);
}, 200_000);

/** An engagement with so many tasks that nobody has touched. */
async function withTasks(count: number): Promise<readonly { readonly id: string; readonly version: number }[]> {
  const { caller } = people[0];
  const id = await startSmall(caller, harness, { name: `With ${count}` });
  const { phases } = (await caller.get(`/engagements/${id}/plan`).expect(200)).body as { phases: { id: string }[] };
  const tasks: { id: string; version: number }[] = [];
  for (let index = 0; index < count; index++) {
    const made = await caller.post(`/engagements/${id}/tasks`, { phaseId: phases[0]?.id, title: `One of many ${index}` }).expect(201);
    tasks.push((made.body as { task: { id: string; version: number } }).task);
  }
  return tasks;
}

test('fifty statuses on fifty tasks of one engagement at once are all saved, from both processes', async () => {
  const tasks = await withTasks(50);
  const answers = await Promise.all(
    tasks.map(({ id, version }, index) => (people[index % 2] as People).caller.patch(`/tasks/${id}`, { version, status: 'active' })),
  );
  expect(answers.filter(({ status }) => status !== 200).map(({ body }) => body as object)).toEqual([]);
});

test('twenty changes of one engagement keep nobody else waiting: others are answered before they are through', async () => {
  const tasks = await withTasks(20);
  const { caller } = people[0];
  const order: string[] = [];
  const edits = tasks.map(({ id, version }) =>
    caller.patch(`/tasks/${id}`, { version, days: 3 }).then(({ status }) => {
      expect(status).toBe(200);
      order.push('edit');
    }),
  );
  for (let count = 0; count < 3; count++) await caller.get('/crew').expect(200);
  order.push('others');
  await Promise.all(edits);
  expect(order.indexOf('others')).toBeLessThan(order.length - 3);
});
