import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { createServer, type AddressInfo } from 'node:net';
import { join } from 'node:path';
import type { EngagementPlan, PlanTask, TaskSheet, TaskEdited } from '@crew/contract';
import fc from 'fast-check';
import { startHarness, startSmall, TODAY, type Harness } from './harness.ts';
import { PASSWORD } from './small-world.ts';

/*
 * Fifty writers on one engagement over two processes of the server, ten of which are killed on
 * the way. Whoever is not answered sends the same again, to the other process. Afterwards all
 * that was acknowledged is there, once, nothing is half done, and every kept figure is what
 * computing it anew gives. What is done is drawn from a seed; when, the machine decides.
 */
const SEED = 20_261_129;
const WRITERS = 50;
/** While one process comes back, the other one answers. */
const MOST_TRIES = 400;
const STEPS = 8;
const KILLS = 10;
/** A slow machine gets through fewer in this time; each of the two has died once at least. */
const HARD_LIMIT_MS = 55_000;
const FEWEST_KILLS = 2;

let harness: Harness;
let processes: readonly Process[] = [];
beforeAll(async () => {
  harness = await startHarness();
  processes = [new Process(await freePort()), new Process(await freePort())];
});
afterAll(async () => {
  await Promise.all(processes.map((one) => one.kill()));
  await harness.close();
});

/** A process of the server that can be killed and comes back at the same address. */
class Process {
  readonly port: number;
  private child: ChildProcess | null = null;
  constructor(port: number) {
    this.port = port;
  }

  async start(): Promise<void> {
    const { databaseUrl, filesRoot } = harness;
    this.child = spawn(process.execPath, [join(__dirname, '../dist/main.js')], {
      stdio: 'ignore',
      env: {
        ...{ PATH: process.env['PATH'], CREW_DATABASE_URL: databaseUrl, CREW_PORT: String(this.port), CREW_FILES: filesRoot },
        ...{ CREW_SESSION_SECRET: 'for tests only', DEMO_TODAY: TODAY, CREW_QUIET: 'on', CREW_REQUESTS_PER_MINUTE: '1000000' },
      },
    });
    while (
      !(await fetch(`http://127.0.0.1:${this.port}/api/health`).then(
        ({ ok }) => ok,
        () => false,
      ))
    )
      if (this.child.exitCode !== null) throw new Error('the server ended');
  }

  async kill(): Promise<void> {
    const { child } = this;
    if (child === null || child.exitCode !== null) return;
    child.kill('SIGKILL');
    await once(child, 'exit');
  }
}

async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const { port } = probe.address() as AddressInfo;
  probe.close();
  await once(probe, 'close');
  return port;
}

interface Answer {
  readonly status: number;
  readonly body: unknown;
}

/** Somebody who is signed in with both processes, and does not give up. */
class Person {
  private readonly ports: readonly number[];
  private readonly headers: Record<string, string>;
  private turn: number;
  private constructor(ports: readonly number[], headers: Record<string, string>, turn: number) {
    this.ports = ports;
    this.headers = headers;
    this.turn = turn;
  }

  static async signIn(ports: readonly number[], email: string, turn: number): Promise<Person> {
    const at = `http://127.0.0.1:${ports[0]}/api/session`;
    const json = { 'content-type': 'application/json' };
    const signedIn = await fetch(at, { method: 'POST', headers: json, body: JSON.stringify({ email, password: PASSWORD }) });
    const cookie = signedIn.headers.get('set-cookie')?.split(';')[0] ?? '';
    const me = (await (await fetch(at, { headers: { cookie } })).json()) as { csrfToken: string };
    return new Person(ports, { ...json, cookie, 'x-crew-token': me.csrfToken }, turn);
  }

  get(path: string): Promise<Answer> {
    return this.ask('GET', path, {});
  }

  /** Until it is answered for good, with one key all the time. */
  async ask(method: string, path: string, { body, key }: { readonly body?: object; readonly key?: string }): Promise<Answer> {
    for (let tries = 0; tries < MOST_TRIES; tries++) {
      const port = this.ports[this.turn++ % this.ports.length] as number;
      const answer = await fetch(`http://127.0.0.1:${port}/api${path}`, {
        method,
        headers: { ...this.headers, ...(key === undefined ? {} : { 'idempotency-key': key }) },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      }).then(
        async (response) => ({ status: response.status, body: response.status === 204 ? null : ((await response.json()) as unknown) }),
        () => null,
      );
      if (answer !== null && answer.status !== 503) return answer;
    }
    throw new Error(`${method} ${path} was never answered`);
  }
}

/** What was acknowledged, to be found again. */
interface Acknowledged {
  readonly statuses: Map<string, string>;
  readonly days: Map<string, number>;
  readonly made: string[];
  readonly gone: string[];
  readonly logged: Map<string, number>;
  readonly refused: string[];
}

interface Scene {
  readonly engagementId: string;
  readonly phaseIds: readonly string[];
  readonly handoffId: string;
  readonly people: readonly Person[];
  readonly said: Acknowledged;
  /** Writers go on until all kills are done. */
  readonly isOver: () => boolean;
}

/** One writer: tasks of their own that nobody else touches, and one that all touch. */
async function write(index: number, { engagementId, phaseIds, handoffId, people, said, isOver }: Scene): Promise<void> {
  const draws = fc.sample(fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true }), { seed: SEED + index, numRuns: 500 });
  let drawn = 0;
  const draw = (): number => draws[drawn++ % draws.length] as number;
  const person = people[index % people.length] as Person;
  let count = 0;
  const keyOf = (): string => `storm-${index}-${++count}-key`;
  const change = (method: string, path: string, body: object): Promise<Answer> => person.ask(method, path, { body, key: keyOf() });
  const expectDone = ({ status, body }: Answer, what: string): boolean => {
    if (status >= 300) said.refused.push(`${what}: ${status} ${JSON.stringify(body)}`);
    return status < 300;
  };
  const title = `Writer ${index}`;
  const made = await change('POST', `/engagements/${engagementId}/tasks`, { phaseId: phaseIds[index % 2], title, estimateMinutes: 300 });
  if (!expectDone(made, 'a task')) return;
  said.made.push(title);
  let { task } = made.body as TaskEdited;
  const edit = async (fields: object): Promise<boolean> => {
    const answer = await change('PATCH', `/tasks/${task.id}`, { version: task.version, ...fields });
    if (!expectDone(answer, JSON.stringify(fields))) return false;
    task = (answer.body as { task: TaskSheet }).task;
    return true;
  };
  for (let step = 0; step < STEPS || !isOver(); step++) {
    const kind = Math.floor(draw() * 7);
    if (kind === 0) {
      const status = draw() < 0.5 ? 'active' : 'done';
      if (await edit({ status })) said.statuses.set(task.id, status);
    } else if (kind === 1) {
      const days = 1 + Math.floor(draw() * 5);
      if (await edit({ days })) said.days.set(task.id, days);
    } else if (kind === 2) {
      const minutes = 1 + Math.floor(draw() * 5);
      if (expectDone(await change('POST', `/tasks/${task.id}/time`, { day: TODAY, minutes }), 'time'))
        said.logged.set(task.id, (said.logged.get(task.id) ?? 0) + minutes);
      task = (await person.get(`/tasks/${task.id}`)).body as TaskSheet;
    } else if (kind === 3) {
      const answer = await change('PATCH', `/tasks/${task.id}`, { version: task.version, days: 9 });
      if (!expectDone(answer, 'to be undone')) continue;
      const { changeId } = answer.body as { changeId: string };
      expectDone(await change('POST', `/changes/${changeId}/undo`, {}), 'undo');
      task = (await person.get(`/tasks/${task.id}`)).body as TaskSheet;
    } else if (kind === 4) {
      const short = await change('POST', `/engagements/${engagementId}/tasks`, { phaseId: phaseIds[0], title: `${title} short ${step}` });
      if (!expectDone(short, 'a short one')) continue;
      const { id, version } = (short.body as TaskEdited).task;
      const both = [
        change('POST', `/engagements/${engagementId}/changes`, { tasks: [{ id, version, isDeleted: true }] }),
        change('PATCH', `/tasks/${id}`, { version, title: `${title} edited` }),
      ];
      const [deleted] = (await Promise.all(both)) as [Answer, Answer];
      // Whoever came first: it is deleted, or was edited and stands there.
      if (deleted.status < 300) said.gone.push(id);
    } else if (kind === 5)
      await change('POST', '/timer', { taskId: task.id }).then(({ status }) => status < 500 || said.refused.push(`timer: ${status}`));
    else {
      const { version } = (await person.get(`/handoffs/${handoffId}`)).body as { version: number };
      const turn = draw() < 0.5 ? 'hand-off' : 'send-back';
      const body = turn === 'hand-off' ? { version, words: '', reason: 'A storm.' } : { version, question: 'Really?' };
      // Everybody moves the one baton: who is late is told so.
      const { status, body: said409 } = await change('POST', `/handoffs/${handoffId}/${turn}`, body);
      if (status >= 500) said.refused.push(`${turn}: ${status} ${JSON.stringify(said409)}`);
    }
  }
}

const planNow = async (id: string): Promise<EngagementPlan> =>
  (await (await harness.as('Lena')).get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;

const FIGURES = `SELECT percent, open_tasks, overdue_tasks, effort_minutes, logged_minutes, next_due, finish_day, late_days, waiting_title, waiting_since,
  progress FROM engagement_summary WHERE engagement_id = $1`;
const ODD_TASKS = `
  SELECT t.title FROM task t WHERE t.engagement_id = $1 AND (
    t.logged_minutes <> (SELECT coalesce(sum(x.minutes), 0) FROM time_entry x WHERE x.task_id = t.id)
    OR t.steps_all <> (SELECT count(*) FROM step s WHERE s.task_id = t.id)
    OR EXISTS (SELECT 1 FROM task_assignee a WHERE a.task_id = t.id AND a.is_open <> (t.status NOT IN ('done', 'dropped'))))`;

test('fifty writers, two processes, ten kills: nothing acknowledged is lost or doubled, nothing is half done', async () => {
  const lead = await harness.as('Lena');
  const engagementId = await startSmall(lead, harness, { name: 'Stormy' });
  const { phases } = await planNow(engagementId);
  await Promise.all(processes.map((one) => one.start()));
  const ports = processes.map(({ port }) => port);
  const people: Person[] = [];
  for (const [index, name] of ['lena', 'oona', 'mak', 'dora'].entries())
    people.push(await Person.signIn(ports, `${name}@small.example`, index));
  const said: Acknowledged = { statuses: new Map(), days: new Map(), made: [], gone: [], logged: new Map(), refused: [] };
  const scene = { engagementId, phaseIds: phases.map(({ id }) => id), handoffId: phases[0]?.handoffId as string, people, said };

  let kills = 0;
  const until = Date.now() + HARD_LIMIT_MS;
  const isOver = (): boolean => kills === KILLS || Date.now() > until;
  const storm = Promise.all(Array.from({ length: WRITERS }, (_, index) => write(index, { ...scene, isOver })));
  for (; !isOver(); kills++) {
    const victim = processes[kills % 2] as Process;
    await victim.kill();
    await victim.start();
  }
  await storm;

  expect(said.refused).toEqual([]);
  expect(kills).toBeGreaterThanOrEqual(FEWEST_KILLS);
  const plan = await planNow(engagementId);
  const tasks = new Map(plan.tasks.map((task): [string, PlanTask] => [task.id, task]));
  const wanted = <Value>(told: Map<string, Value>, of: (task: PlanTask) => Value) =>
    [...told]
      .filter(([id, value]) => of(tasks.get(id) as PlanTask) !== value)
      .map(([id, value]) => ({ id, value, is: of(tasks.get(id) as PlanTask) }));
  expect(wanted(said.days, ({ days }) => days)).toEqual([]);
  expect(wanted(said.logged, ({ loggedMinutes }) => loggedMinutes)).toEqual([]);
  expect(said.made.filter((title) => plan.tasks.filter((task) => task.title === title).length !== 1)).toEqual([]);
  expect(said.gone.filter((id) => tasks.has(id))).toEqual([]);
  // A timer that began a task later has set it under way.
  expect(wanted(said.statuses, ({ status }) => status).filter(({ is }) => is !== 'active')).toEqual([]);

  await harness.settle();
  const kept = await harness.database.row(FIGURES, [engagementId]);
  await harness.database.rows(
    `UPDATE engagement_summary SET pending_task_ids = ARRAY(SELECT id FROM task WHERE engagement_id = $1) WHERE engagement_id = $1`,
    [engagementId],
  );
  await harness.database.rows(
    `SELECT graphile_worker.add_job('refresh-engagement', payload := json_build_object('engagementId', $1::text))`,
    [engagementId],
  );
  await harness.settle();
  expect(await harness.database.row(FIGURES, [engagementId])).toEqual(kept);
  expect(await harness.database.rows(ODD_TASKS, [engagementId])).toEqual([]);

  // What the killed ones had taken is given back by those that live, within a minute.
  const late = Date.now() + 60_000;
  while ((await left()).length > 0 && Date.now() < late) await new Promise((resolve) => setTimeout(resolve, 500));
  expect(await left()).toEqual([]);
}, 200_000);

/** Jobs that are dead, or locked by a worker that is. */
const left = () =>
  harness.database
    .rows(`SELECT task_identifier, attempts, last_error FROM graphile_worker.jobs j WHERE attempts >= max_attempts OR (locked_by IS NOT NULL
    AND NOT EXISTS (SELECT 1 FROM worker_heartbeat b WHERE b.worker_id = j.locked_by AND b.at > now() - interval '20 seconds'))`);
