import { once } from 'node:events';
import { get, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';
import request from 'supertest';
import { startHarness, startSmall, testWorld } from '../../test/harness.ts';
import { PASSWORD } from '../../test/small-world.ts';
import { announceChange } from '../platform/announce.ts';
import { Subject } from 'rxjs';
import type { Announcement } from '../platform/announce.ts';
import { noticeFor, streamFor } from './changes.controller.ts';
import { ChangesFeed } from './changes-feed.ts';

const { harness, lead } = testWorld();

/** Somebody's open stream, and what it has said so far. */
async function openStream(
  name: string,
): Promise<{ readonly said: () => string; readonly until: (text: string) => Promise<void>; readonly end: () => void }> {
  const { port } = harness.app.getHttpServer().address() as AddressInfo;
  harness.forgetTries();
  const signedIn = await request(harness.app.getHttpServer())
    .post('/api/session')
    .send({ email: `${name}@small.example`, password: PASSWORD });
  const cookie = (signedIn.headers['set-cookie'] as unknown as string[])[0]?.split(';')[0] ?? '';
  const opened = get({ port, host: '127.0.0.1', path: '/api/changes', headers: { cookie } });
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
  await stream.until(`{"engagementId":"${id}"}`);
  stream.end();
});

test('a change that is taken back is never told', async () => {
  const stream = await openStream('mak');
  const who = await harness.whoIs('Lena');
  const lost = '11111111-1111-4111-8111-111111111111';
  const kept = '22222222-2222-4222-8222-222222222222';
  const attempt = harness.database.transaction(async (manager) => {
    await announceChange(manager, { agencyId: who.agencyId, engagementId: lost });
    throw new Error('the lights went out');
  });
  await expect(attempt).rejects.toThrow('the lights went out');
  await harness.database.transaction((manager) => announceChange(manager, { agencyId: who.agencyId, engagementId: kept }));
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
    await announceChange(manager, { agencyId: theirs, engagementId: theirs });
    await announceChange(manager, { agencyId: who.agencyId, engagementId: ours });
  });
  await stream.until(ours);
  expect(stream.said()).not.toContain(theirs);
  stream.end();
});

test.each([
  ['Lena', true],
  ['Mak', true],
  ['Fred', false],
  ['Hal', false],
])('which engagement changed is told to %s: %s', async (name, isTold) => {
  const who = await harness.whoIs(name);
  const notice = noticeFor(who, { agencyId: who.agencyId, engagementId: 'x' });
  expect(notice.engagementId).toBe(isTold ? 'x' : null);
});

test('a lost connection to the database is made again, and everybody is told to look', async () => {
  const stream = await openStream('mak');
  await harness.database.rows(
    `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND application_name = 'nimble-crew changes'`,
  );
  await stream.until('{"engagementId":null}');
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
    streamFor(who, { heard, pulses, isStillIn: () => Promise.resolve(isIn) }).subscribe({
      next: ({ type }) => said.push(type),
      complete: resolve,
    }),
  );
  heard.next({ agencyId: who.agencyId, engagementId: 'x' });
  pulses.next();
  // The check is asked for and answered a moment later.
  await Promise.resolve();
  isIn = false;
  pulses.next();
  await ended;
  heard.next({ agencyId: who.agencyId, engagementId: 'x' });
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
