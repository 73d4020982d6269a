import type { Me, RecoveryCodes, SecondFactorSecret, SecondFactorState, SecurityLog, SessionLine } from '@crew/contract';
import { Secret, TOTP } from 'otpauth';
import { startHarness, type Caller, type Harness } from '../../test/harness.ts';
import { PASSWORD } from '../../test/small-world.ts';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
beforeEach(() => harness.forgetTries());
afterAll(() => harness.close());

const NEXT = 'copper kettle by the weir';
/** What the app shows so many steps of 30 seconds from now. */
const codeOf = ({ secret }: SecondFactorSecret, steps = 0): string =>
  new TOTP({ algorithm: 'SHA1', digits: 6, period: 30, secret: Secret.fromBase32(secret) }).generate({
    timestamp: Date.now() + steps * 30_000,
  });
const tryIn = (email: string, more: object) => {
  harness.forgetTries();
  return harness.nobody.post('/session', { email, password: PASSWORD, ...more });
};
const sessionsOf = async (caller: Caller): Promise<SessionLine[]> =>
  (await caller.get('/account/sessions').expect(200)).body as SessionLine[];
const logOf = async (): Promise<SecurityLog> =>
  (await (await harness.as('Oona')).get('/account/security-log').expect(200)).body as SecurityLog;

describe('one’s own password', () => {
  test('changed, it ends every other session and keeps this one', async () => {
    const [here, there] = [await harness.as('Dora'), await harness.as('Dora')];
    await here.post('/account/password', { current: PASSWORD, password: NEXT }).expect(204);
    await here.get('/session').expect(200);
    await there.get('/session').expect(401);
    await harness.signIn('dora@small.example', NEXT);
  });

  test('is not changed by who does not know it, or to one that is easily guessed', async () => {
    const mak = await harness.as('Mak');
    const wrong = await mak.post('/account/password', { current: 'nothing like it', password: NEXT }).expect(400);
    expect(wrong.body).toMatchObject({ field: 'current', message: 'This is not your current password. Try again.' });
    await mak.post('/account/password', { current: PASSWORD, password: 'passwordpassword' }).expect(400);
    await mak.post('/account/password', { current: PASSWORD, password: 'short' }).expect(400);
    await harness.as('Mak');
  });

  test('guessed at from an open session it costs more and more time, as at the sign-in', async () => {
    const mak = await harness.as('Mak');
    const statuses: number[] = [];
    for (let count = 0; count < 7; count++) {
      harness.forgetTries();
      statuses.push((await mak.post('/account/password', { current: `guess ${count}`, password: NEXT })).status);
    }
    expect(statuses.at(-1)).toBe(429);
    await harness.database.rows('DELETE FROM sign_in_attempt');
  });
});

describe('sessions', () => {
  test('are listed with where they are, this one marked; ids of sessions are not told', async () => {
    const [here, there] = [await harness.as('Lena'), await harness.as('Lena')];
    const lines = await sessionsOf(here);
    expect(lines.filter(({ isThis }) => isThis)).toHaveLength(1);
    const { sid } = (await harness.database.row<{ sid: string }>('SELECT sid FROM session LIMIT 1')) as { sid: string };
    expect(JSON.stringify(lines)).not.toContain(sid);
    const other = lines.find(({ isThis }) => !isThis) as SessionLine;
    await here.delete(`/account/sessions/${(lines.find(({ isThis }) => isThis) as SessionLine).id}`).expect(409);
    await here.delete(`/account/sessions/${other.id}`).expect(204);
    await here.delete(`/account/sessions/${other.id}`).expect(204);
    await here.delete('/account/sessions').expect(204);
    await here.get('/session').expect(200);
    await there.get('/session').expect(401);
    expect(await sessionsOf(here)).toHaveLength(1);
  });

  test('of somebody else are not there to end', async () => {
    const [lena, mak] = [await harness.as('Lena'), await harness.as('Mak')];
    const [line] = await sessionsOf(mak);
    await lena.delete(`/account/sessions/${line?.id}`).expect(204);
    await mak.get('/session').expect(200);
  });
});

describe('a second factor', () => {
  let secret: SecondFactorSecret;
  let codes: readonly string[];

  test('counts once a code of the app confirms it, and then every sign-in asks for one', async () => {
    const mak = await harness.as('Mak');
    secret = (await mak.post('/account/second-factor').expect(201)).body as SecondFactorSecret;
    expect(secret.uri).toMatch(/^otpauth:\/\/totp\/Small%20Studio:mak%40small\.example\?/);
    await tryIn('mak@small.example', {}).expect(204);
    await mak.post('/account/second-factor/confirm', { code: '000000' }).expect(400);
    codes = ((await mak.post('/account/second-factor/confirm', { code: codeOf(secret) }).expect(201)).body as RecoveryCodes).codes;
    expect(codes).toHaveLength(10);
    expect(new Set(codes).size).toBe(10);
    expect((await tryIn('mak@small.example', {}).expect(401)).body).toMatchObject({ code: 'second-factor-needed', field: 'code' });
    expect((await mak.get('/account/second-factor').expect(200)).body as SecondFactorState).toEqual({
      ...{ isOn: true, recoveryCodes: 10, isRequired: false },
    });
  });

  test('takes a code once, of now or half a minute beside it, and no other', async () => {
    // The code that confirmed it is used up.
    await tryIn('mak@small.example', { code: codeOf(secret) }).expect(401);
    await tryIn('mak@small.example', { code: codeOf(secret, 1) }).expect(204);
    await tryIn('mak@small.example', { code: codeOf(secret, 1) }).expect(401);
    await tryIn('mak@small.example', { code: codeOf(secret, 20) }).expect(401);
    await harness.database.rows('DELETE FROM sign_in_attempt');
  });

  test('a recovery code stands in for it once, however it is typed', async () => {
    const [first = '', second = ''] = codes;
    await tryIn('mak@small.example', { code: ` ${first.toUpperCase().replaceAll('-', ' ')} ` }).expect(204);
    await tryIn('mak@small.example', { code: first }).expect(401);
    await harness.database.rows('DELETE FROM sign_in_attempt');
    const both = await Promise.all([tryIn('mak@small.example', { code: second }), tryIn('mak@small.example', { code: second })]);
    expect(both.map(({ status }) => status).sort()).toEqual([204, 401]);
  });

  test('guessed at it costs more and more time; a right password without a code does not', async () => {
    await harness.database.rows('DELETE FROM sign_in_attempt');
    for (let count = 0; count < 8; count++) await tryIn('mak@small.example', {}).expect(401);
    const statuses: number[] = [];
    for (let count = 0; count < 7; count++) statuses.push((await tryIn('mak@small.example', { code: '111111' })).status);
    expect(statuses.slice(0, 5)).toEqual([401, 401, 401, 401, 401]);
    expect(statuses.at(-1)).toBe(429);
    await harness.database.rows('DELETE FROM sign_in_attempt');
  });

  test('is turned off by the password, and then no code is asked for', async () => {
    const { code } = { code: codes[2] as string };
    await tryIn('mak@small.example', { code }).expect(204);
    const me = (await harness.nobody.get('/session').expect(200)).body as Me;
    const post = (path: string, body: object) => harness.nobody.post(path, body).set('X-Crew-Token', me.csrfToken);
    await post('/account/second-factor', {}).expect(409);
    await post('/account/second-factor/off', { password: 'nothing like it' }).expect(400);
    const renewed = (await post('/account/second-factor/recovery-codes', { password: PASSWORD }).expect(201)).body as RecoveryCodes;
    expect(renewed.codes).not.toEqual(codes);
    await post('/account/second-factor/off', { password: PASSWORD }).expect(204);
    await post('/account/second-factor/recovery-codes', { password: PASSWORD }).expect(409);
    await tryIn('mak@small.example', {}).expect(204);
  });

  test('asked of owners and leads, they can do nothing else before they have one; members are not asked', async () => {
    const oona = await harness.as('Oona');
    await oona.patch('/settings', { secondFactorFor: 'leads' }).expect(200);
    const lena = await harness.as('Lena');
    expect((await lena.get('/session').expect(200)).body as Me).toMatchObject({ mustAddSecondFactor: true });
    expect((await lena.get('/engagements').expect(403)).body).toMatchObject({ code: 'second-factor-missing' });
    await (await harness.as('Mak')).get('/engagements').expect(200);
    const own = (await lena.post('/account/second-factor').expect(201)).body as SecondFactorSecret;
    await lena.post('/account/second-factor/confirm', { code: codeOf(own) }).expect(201);
    await lena.get('/engagements').expect(200);
    await oona.patch('/settings', { secondFactorFor: 'nobody' }).expect(403);
    await harness.database.rows(`UPDATE agency SET second_factor_for = 'nobody'`);
  });
});

describe('the security log', () => {
  test('holds sign-ins, refusals and changes of rights, for owners only', async () => {
    await tryIn('nobody@small.example', {}).expect(401);
    await tryIn('dora@small.example', { password: 'wrong' }).expect(401);
    const oona = await harness.as('Oona');
    const dora = harness.ids.people['Dora'];
    await oona.patch(`/crew/${dora}`, { version: 1, access: 'lead' }).expect(200);
    const { lines } = await logOf();
    expect(lines.slice(0, 5).map(({ kind, whom, by, note }) => ({ kind, whom, by, note }))).toEqual([
      { kind: 'signed-in', whom: 'Oona Field', by: null, note: '' },
      { kind: 'access-changed', whom: 'Dora Quill', by: 'Oona Field', note: 'member → lead' },
      { kind: 'signed-in', whom: 'Oona Field', by: null, note: '' },
      { kind: 'refused', whom: 'Dora Quill', by: null, note: 'wrong password' },
      { kind: 'refused', whom: 'nobody@small.example', by: null, note: 'wrong password' },
    ]);
  });

  test('is read page by page, each line once', async () => {
    const oona = await harness.as('Oona');
    for (let count = 0; count < 60; count++) await tryIn(`nobody${count}@small.example`, {}).expect(401);
    const first = await logOf();
    const second = (await oona.get(`/account/security-log?before=${first.before}`).expect(200)).body as SecurityLog;
    expect(first.lines).toHaveLength(50);
    expect(second.lines.map(({ id }) => id)).not.toContain(first.lines.at(-1)?.id);
    await oona.get('/account/security-log?before=x').expect(400);
  });
});
