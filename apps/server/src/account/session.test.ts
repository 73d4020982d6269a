import type { AddressInfo } from 'node:net';
import type { DemoPerson, Me } from '@crew/contract';
import request from 'supertest';
import { startHarness, startSmall, type Harness } from '../../test/harness.ts';
import { PASSWORD } from '../../test/small-world.ts';
import { AccountRepository } from './account.repository.ts';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness({ isDemo: true });
});
beforeEach(() => harness.forgetTries());
afterAll(() => harness.close());

const meOf = async (name: string): Promise<Me> => (await (await harness.as(name)).get('/session').expect(200)).body as Me;
const sessions = async (): Promise<number> =>
  (await harness.database.row<{ open: number }>('SELECT count(*)::int AS open FROM session'))?.open ?? -1;
/** A sign-in by hand, for what an agent hides: the cookie. */
const signIn = (email: string, password: string, cookie = '') =>
  request(harness.app.getHttpServer()).post('/api/session').set('Cookie', cookie).send({ email, password });
const cookieOf = (answer: request.Response): string => (answer.headers['set-cookie'] as unknown as string[] | undefined)?.[0] ?? '';

describe('who is signed in', () => {
  test('is told with access, agency and the day it is', async () => {
    expect(await meOf('Lena')).toMatchObject({
      ...{ name: 'Lena Park', initials: 'LP', access: 'lead', agencyName: 'Small Studio', today: '2026-11-23' },
      ...{ personId: harness.ids.people['Lena'], clientName: null, counts: { handoffs: 0, desk: 0 } },
    });
  });

  test('a client is told its own name and is nobody of the crew', async () => {
    expect(await meOf('Hal')).toMatchObject({ access: 'client', personId: null, clientName: 'Harbour Museum' });
  });

  test('what waits is counted: new work that may begin, and a handoff to pick up', async () => {
    const lead = await harness.as('Lena');
    const role = async (name: string) => (await harness.database.row<{ id: string }>('SELECT id FROM role WHERE name = $1', [name]))?.id;
    const roles = [
      { roleId: await role('Drawer'), personId: harness.ids.people['Dora'] },
      { roleId: await role('Maker'), personId: harness.ids.people['Mak'] },
    ];
    const id = await startSmall(lead, harness, { roles });
    expect((await meOf('Dora')).counts).toEqual({ handoffs: 0, desk: 2 });
    expect((await meOf('Mak')).counts).toEqual({ handoffs: 0, desk: 0 });
    const plan = (await lead.get(`/engagements/${id}/plan`)).body as { phases: { handoffId: string }[] };
    await lead
      .post(`/handoffs/${plan.phases[0]?.handoffId}/hand-off`, { version: 1, words: '', reason: 'Agreed by telephone.' })
      .expect(200);
    expect((await meOf('Mak')).counts).toEqual({ handoffs: 1, desk: 0 });
    const dora = await harness.as('Dora');
    await dora.post('/desk/seen').expect(204);
    expect((await meOf('Dora')).counts.desk).toBe(0);
  });
});

describe('a session', () => {
  test('has a fresh id after every sign-in, so that one planted before is worth nothing', async () => {
    const first = cookieOf(await signIn('lena@small.example', PASSWORD).expect(204));
    const second = cookieOf(await signIn('mak@small.example', PASSWORD, first).expect(204));
    expect(second.split(';')[0]).not.toBe(first.split(';')[0]);
    await request(harness.app.getHttpServer()).get('/api/session').set('Cookie', first).expect(401);
  });

  test('is a cookie that scripts cannot read and other sites do not send', async () => {
    expect(cookieOf(await signIn('lena@small.example', PASSWORD))).toMatch(/HttpOnly.*SameSite=Lax|SameSite=Lax.*HttpOnly/);
  });

  test('is not kept for somebody who only looks at the sign-in page', async () => {
    const before = await sessions();
    await harness.nobody.get('/session').expect(401);
    await harness.nobody.get('/agency').expect(200);
    expect(await sessions()).toBe(before);
  });

  test('that was changed by hand is nobody’s', async () => {
    const cookie = cookieOf(await signIn('lena@small.example', PASSWORD)).split(';')[0] ?? '';
    const broken = `${cookie.slice(0, -3)}xyz`;
    await request(harness.app.getHttpServer()).get('/api/session').set('Cookie', broken).expect(401);
  });

  test('that is older than a day is prolonged when it is used, and only then written', async () => {
    const cookie = cookieOf(await signIn('mak@small.example', PASSWORD)).split(';')[0] ?? '';
    const sid = decodeURIComponent(cookie).slice('crew.sid=s:'.length).split('.')[0] as string;
    const expiry = async () =>
      (await harness.database.row<{ at: Date }>(`SELECT expire AS at FROM session WHERE sid = $1`, [sid]))?.at.getTime() ?? 0;
    const get = () => request(harness.app.getHttpServer()).get('/api/session').set('Cookie', cookie).expect(200);
    const begun = await expiry();
    await get();
    expect(await expiry()).toBe(begun);
    const aged = new Date(begun - 3 * 86_400_000).toISOString();
    await harness.database.rows(
      `UPDATE session SET expire = $2::timestamptz, sess = jsonb_set(sess::jsonb, '{cookie,expires}', to_jsonb($2::text))::json WHERE sid = $1`,
      [sid, aged],
    );
    await get();
    expect(await expiry()).toBeGreaterThanOrEqual(begun);
  });
});

describe('somebody who has left', () => {
  test('is told so at the sign-in, is out of every open session, and is not offered in the demo', async () => {
    const owner = await harness.as('Oona');
    const fred = await harness.as('Fred');
    const who = await harness.whoIs('Fred');
    const accounts = harness.app.get(AccountRepository);
    const sid =
      (await harness.database.row<{ sid: string }>(`SELECT sid FROM session WHERE sess->>'accountId' = $1`, [who.accountId]))?.sid ?? '';
    expect(await accounts.isStillIn(who, sid)).toBe(true);
    await owner.patch(`/crew/${who.personId}`, { version: 1, isActive: false }).expect(200);
    await fred.get('/session').expect(401);
    expect(await accounts.isStillIn(who, sid)).toBe(false);
    const { body } = await signIn('fred@small.example', PASSWORD).expect(403);
    expect(body).toMatchObject({ code: 'not-allowed', field: 'email' });
    const offered = (await harness.nobody.get('/session/demo').expect(200)).body as DemoPerson[];
    expect(offered.map((person) => person.name)).not.toContain('Fred Loan');
  });

  test('with a wrong password learns nothing of it', async () => {
    const { body } = await signIn('fred@small.example', 'not the password').expect(401);
    expect(body).toMatchObject({ code: 'wrong-sign-in' });
  });
});

describe('the demo', () => {
  test('lets anybody in as one of its people, by one press', async () => {
    const offered = (await harness.nobody.get('/session/demo').expect(200)).body as DemoPerson[];
    expect(offered.map((person) => person.access)).toEqual(['lead', 'member', 'member', 'owner', 'client', 'client']);
    const agent = request.agent(harness.app.getHttpServer());
    await agent.post('/api/session/demo').send({ accountId: offered[0]?.accountId }).expect(204);
    expect((await agent.get('/api/session').expect(200)).body).toMatchObject({ name: 'Lena Park' });
  });

  test('knows nobody else', async () => {
    const { body } = await harness.nobody.post('/session/demo', { accountId: '00000000-0000-4000-8000-000000000000' }).expect(404);
    expect(body).toMatchObject({ field: 'accountId' });
  });
});

test('a page of ours on its own port may sign in', async () => {
  const { port } = harness.app.getHttpServer().address() as AddressInfo;
  const answer = await signIn('lena@small.example', PASSWORD).set('Host', `127.0.0.1:${port}`).set('Origin', `http://127.0.0.1:${port}`);
  expect(answer.status).toBe(204);
});
