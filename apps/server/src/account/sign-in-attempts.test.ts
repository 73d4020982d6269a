import type { ErrorBody, Me } from '@crew/contract';
import request from 'supertest';
import { startHarness, type Harness } from '../../test/harness.ts';
import { PASSWORD } from '../../test/small-world.ts';
import { PruneJob } from '../jobs/prune.job.ts';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness({ trustedProxies: 1 });
});
afterAll(() => harness.close());

let address = 0;
/** Tries to sign in from an address nobody has tried from yet. */
const tryIn = (email: string, password: string) =>
  request(harness.app.getHttpServer())
    .post('/api/session')
    .set('X-Forwarded-For', `198.51.100.${++address % 250}`)
    .send({ email, password });
/** Time goes by: the wait of an address is over. */
const waitOver = (email: string) => harness.database.rows('UPDATE sign_in_attempt SET until = now() WHERE email = $1', [email]);
/** The database's time, and until when an address has to wait, both in seconds. */
const times = async (email: string): Promise<{ now: number; until: number }> =>
  (await harness.database.row<{ now: number; until: number }>(
    `SELECT extract(epoch FROM now())::float8 AS now,
       coalesce((SELECT extract(epoch FROM until) FROM sign_in_attempt WHERE email = $1), 0)::float8 AS until`,
    [email],
  )) ?? { now: 0, until: 0 };

test('sixty wrong passwords from sixty addresses at once: five are looked at, the others have to wait', async () => {
  const answers = await Promise.all(Array.from({ length: 60 }, () => tryIn('dora@small.example', 'wrong')));
  const looked = answers.filter(({ status }) => status === 401).length;
  // On a slow machine the first waits, of a second or two, are over before the last of them come.
  expect(looked).toBeGreaterThanOrEqual(5);
  expect(looked).toBeLessThan(10);
  const refused = answers.filter(({ status }) => status === 429);
  expect(refused).toHaveLength(60 - looked);
  expect(Number(refused[0]?.headers['retry-after'])).toBeGreaterThan(0);
  expect((refused[0]?.body as ErrorBody).message).toMatch(
    /^Too many wrong passwords for this address\. Wait \d+ seconds?, then try again\.$/,
  );
});

test('each further one doubles the wait, up to a quarter of an hour, for addresses nobody has too', async () => {
  const email = 'nobody@small.example';
  const waits = [0, 0, 0, 0, 1, 2, 4, 8, 16, 32, 64, 128, 256, 512, 900, 900];
  for (const wait of waits) {
    const before = await times(email);
    await tryIn(email, 'wrong').expect(401);
    const after = await times(email);
    // The wait began at some moment between the two.
    expect(after.until - before.now).toBeGreaterThanOrEqual(wait);
    expect(after.until - after.now).toBeLessThanOrEqual(wait);
    await waitOver(email);
  }
});

test('while it waits even the right password is not looked at; afterwards it signs in, and its owner is told once', async () => {
  for (let tried = 0; tried < 7; tried++) {
    await tryIn('mak@small.example', 'wrong').expect(401);
    if (tried < 6) await waitOver('mak@small.example');
  }
  await tryIn('mak@small.example', PASSWORD).expect(429);
  await waitOver('mak@small.example');
  const mak = await harness.signIn('mak@small.example', PASSWORD);
  expect(((await mak.get('/session').expect(200)).body as Me).wrongPasswords).toMatchObject({ count: 7 });
  await mak.delete('/session/wrong-passwords').expect(204);
  expect(((await mak.get('/session').expect(200)).body as Me).wrongPasswords).toBeNull();
});

test('one slip of the finger is nothing to be told of', async () => {
  await tryIn('lena@small.example', 'wrong').expect(401);
  const lena = await harness.signIn('lena@small.example', PASSWORD);
  expect(((await lena.get('/session').expect(200)).body as Me).wrongPasswords).toBeNull();
});

test.each(['password1234', 'passwordpassword', 'aaaaaaaaaaaa', 'letmeinletmein', 'qwertyuiop123'])(
  '%s is refused as a password',
  async (password) => {
    const oona = await harness.as('Oona');
    const answer = await oona.post('/account/password', { current: PASSWORD, password }).expect(400);
    expect(answer.body).toMatchObject({ field: 'password' });
  },
);

test('a password of a few words is taken', async () => {
  const oona = await harness.as('Oona');
  await oona.post('/account/password', { current: PASSWORD, password: 'copper kettle by the weir' }).expect(204);
  await harness.signIn('oona@small.example', 'copper kettle by the weir');
});

test('a session ends after sixty days, however often it was prolonged; ended ones are removed', async () => {
  const lena = await harness.as('Lena');
  await lena.get('/session').expect(200);
  const began = Date.now() - 61 * 86_400_000;
  await harness.database.rows(`UPDATE session SET sess = jsonb_set(sess::jsonb, '{beganAt}', $1::jsonb)::json`, [JSON.stringify(began)]);
  const answer = await lena.get('/session').expect(401);
  expect((answer.body as ErrorBody).message).toMatch(/60 days/);
  await harness.database.rows(`UPDATE session SET expire = now() - interval '1 minute'`);
  await harness.app.get(PruneJob).run();
  expect(await harness.database.rows('SELECT 1 FROM session')).toEqual([]);
});
