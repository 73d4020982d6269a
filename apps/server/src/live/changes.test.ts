import { once } from 'node:events';
import { get, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import { TOPICS_HEADER, WINDOW_HEADER, type EngagementPlan, type PlanTask } from '@crew/contract';
import request from 'supertest';
import { startHarness, startSmall, testWorld } from '../../test/harness.ts';
import { PASSWORD } from '../../test/small-world.ts';
import { announceChange } from '../platform/announce.ts';
import { Subject } from 'rxjs';
import type { Announcement } from '../platform/announce.ts';
import { noticeFor, streamFor } from './changes.controller.ts';
import { ChangesFeed } from './changes-feed.ts';

const { harness, lead } = testWorld();

const fromElsewhere = (agencyId: string): Announcement => ({ agencyId, topics: 'crew', window: null });

/** Somebody's open stream, and what it has said so far. */
async function openStream(
  name: string,
  window = 'window-of-' + name,
): Promise<{ readonly said: () => string; readonly until: (text: string) => Promise<void>; readonly end: () => void }> {
  const { port } = harness.app.getHttpServer().address() as AddressInfo;
  harness.forgetTries();
  const signedIn = await request(harness.app.getHttpServer())
    .post('/api/session')
    .send({ email: `${name}@small.example`, password: PASSWORD });
  const cookie = (signedIn.headers['set-cookie'] as unknown as string[])[0]?.split(';')[0] ?? '';
  const opened = get({ port, host: '127.0.0.1', path: `/api/changes?window=${window}`, headers: { cookie } });
  const [stream] = (await once(opened, 'response')) as [IncomingMessage];
  let said = '';
  stream.setEncoding('utf8').on('data', (text: string) => (said += text));
  stream.on('error', () => undefined);
  const until = async (text: string): Promise<void> => {
    while (!said.includes(text)) await once(stream, 'data');
  };
  await until('ready');
  return { said: () => said, until, end: () => stream.destroy() };
}

test('what one person changes is told to another, by the engagement’s id', async () => {
  const stream = await openStream('mak');
  const id = await startSmall(lead, harness);
  await stream.until(`engagement:${id}`);
  stream.end();
});

test('a change that is taken back is never told', async () => {
  const stream = await openStream('mak');
  const who = await harness.whoIs('Lena');
  const lost = '11111111-1111-4111-8111-111111111111';
  const kept = '22222222-2222-4222-8222-222222222222';
  const attempt = harness.database.transaction(async (manager) => {
    await announceChange(manager, { agencyId: who.agencyId, topics: [`engagement:${lost}`] });
    throw new Error('the lights went out');
  });
  await expect(attempt).rejects.toThrow('the lights went out');
  await harness.database.transaction((manager) => announceChange(manager, { agencyId: who.agencyId, topics: [`engagement:${kept}`] }));
  await stream.until(kept);
  expect(stream.said()).not.toContain(lost);
  stream.end();
});

test('another agency’s changes are not told', async () => {
  const stream = await openStream('mak');
  const who = await harness.whoIs('Lena');
  const theirs = '33333333-3333-4333-8333-333333333333';
  const ours = '44444444-4444-4444-8444-444444444444';
  await harness.database.transaction(async (manager) => {
    await announceChange(manager, { agencyId: theirs, topics: [`engagement:${theirs}`] });
    await announceChange(manager, { agencyId: who.agencyId, topics: [`engagement:${ours}`] });
  });
  await stream.until(ours);
  expect(stream.said()).not.toContain(theirs);
  stream.end();
});

test.each([
  ['Lena', 'engagement:x person:p person:q'],
  ['Mak', 'engagement:x'],
  ['Fred', 'engagement'],
  ['Hal', 'everything'],
])('of a change of one engagement and whose work it is, %s is told “%s”', async (name, told) => {
  const who = await harness.whoIs(name);
  expect(noticeFor(who, { ...fromElsewhere(who.agencyId), topics: 'engagement:x person:p person:q' }).topics).toBe(told);
});

test('who has open work in an engagement is told of it as theirs', async () => {
  const mak = harness.ids.people['Mak'];
  const id = await startSmall(lead, harness, { name: 'Told' });
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  const [sketch, ink] = tasks as [PlanTask, PlanTask];
  await lead.patch(`/tasks/${ink.id}`, { version: ink.version, assigneeIds: [mak] }).expect(200);
  const stream = await openStream('mak');
  await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, title: 'Draw' }).expect(200);
  await stream.until(`engagement:${id} person:${mak}`);
  stream.end();
});

test('the window that made a change is not told of it: the answer says what it touched', async () => {
  const id = await startSmall(lead, harness, { name: 'Own' });
  const own = await openStream('lena', 'window-one');
  const other = await openStream('lena', 'window-two');
  const rename = (version: number, name: string, window: string) =>
    lead.patch(`/engagements/${id}`, { version, name }).set(WINDOW_HEADER, window).expect(200);
  const answer = await rename(1, 'Own one', 'window-one');
  expect(answer.headers[TOPICS_HEADER.toLowerCase()]).toBe(`engagement:${id}`);
  await other.until(`engagement:${id}`);
  expect(own.said()).not.toContain(id);
  await rename(2, 'Own two', 'window-two');
  await own.until(id);
  own.end();
  other.end();
});

test('what differs in nothing is told to nobody', async () => {
  const id = await startSmall(lead, harness, { name: 'Same' });
  const { tasks, engagement } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  const [task] = tasks as [PlanTask];
  const stream = await openStream('mak');
  const { headers } = await lead.patch(`/tasks/${task.id}`, { version: task.version, title: task.title, days: task.days }).expect(200);
  expect(headers[TOPICS_HEADER.toLowerCase()]).toBeUndefined();
  await lead.patch(`/engagements/${id}`, { version: engagement.version, name: 'Same as ever' }).expect(200);
  await stream.until(id);
  expect(stream.said().split('event: change')).toHaveLength(2);
  stream.end();
});

test('a lost connection to the database is made again, and everybody is told to look', async () => {
  const stream = await openStream('mak');
  await harness.database.rows(
    `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND application_name = 'nimble-crew changes'`,
  );
  await stream.until('{"topics":"everything"}');
  const id = await startSmall(lead, harness, { name: 'Pier panels' });
  await stream.until(id);
  stream.end();
});

test('a stream ends at the first pulse after its reader is out, and tells nothing more', async () => {
  const who = await harness.whoIs('Mak');
  const heard = new Subject<Announcement>();
  const pulses = new Subject<void>();
  let isIn = true;
  const said: (string | undefined)[] = [];
  const ended = new Promise<void>((resolve) =>
    streamFor(who, { heard, pulses, window: null, isStillIn: () => Promise.resolve(isIn) }).subscribe({
      next: ({ type }) => said.push(type),
      complete: resolve,
    }),
  );
  heard.next(fromElsewhere(who.agencyId));
  pulses.next();
  // The check is asked for and answered a moment later.
  await Promise.resolve();
  isIn = false;
  pulses.next();
  await ended;
  heard.next(fromElsewhere(who.agencyId));
  expect(said).toEqual(['ready', 'change', 'pulse']);
});

test('an account has at most twenty streams open', async () => {
  const streams = [];
  for (let count = 0; count < 20; count++) streams.push(await openStream('dora'));
  const dora = await harness.as('Dora');
  await dora.get('/changes').expect(429);
  for (const stream of streams) stream.end();
});

test('streams end with the server', async () => {
  const other = await startHarness();
  const ended = new Promise<void>((resolve) => other.app.get(ChangesFeed).all.subscribe({ complete: resolve }));
  await other.close();
  await ended;
});
