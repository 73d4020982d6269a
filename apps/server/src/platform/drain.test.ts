import { get, request as httpRequest, type IncomingMessage } from 'node:http';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import request from 'supertest';
import { startHarness, startSmall } from '../../test/harness.ts';
import { PASSWORD } from '../../test/small-world.ts';

test('told to stop, it answers what is under way, refuses what comes, and says good-bye to streams', async () => {
  const harness = await startHarness();
  const lead = await harness.as('Lena');
  await startSmall(lead, harness);
  const { port } = harness.app.getHttpServer().address() as AddressInfo;
  const signedIn = await request(harness.app.getHttpServer()).post('/api/session').send({ email: 'mak@small.example', password: PASSWORD });
  const cookie = (signedIn.headers['set-cookie'] as unknown as string[])[0]?.split(';')[0] ?? '';
  const [stream] = (await once(get({ port, host: '127.0.0.1', path: '/api/changes', headers: { cookie } }), 'response')) as [
    IncomingMessage,
  ];
  let said = '';
  stream.setEncoding('utf8').on('data', (text: string) => (said += text));
  const streamEnded = once(stream, 'end');
  while (!said.includes('ready')) await once(stream, 'data');

  // Twenty that take a while, on one engagement each, and a connection that is held open ahead of need.
  const { template, client } = harness.ids;
  const running = Array.from({ length: 20 }, (_, index) =>
    lead
      .post('/engagements', { templateId: template, clientId: client, name: `Late ${index}`, start: '2026-12-01' })
      .then(({ status }) => status),
  );
  const held = httpRequest({ port, host: '127.0.0.1', path: '/api/agency', headers: { connection: 'keep-alive' } });
  held.on('error', () => undefined);
  await new Promise((resolve) => setImmediate(resolve));
  while (
    (await harness.database.row<{ count: number }>(`SELECT count(*)::int AS count FROM engagement WHERE name LIKE 'Late%'`))?.count === 0
  );
  const closed = harness.app.close();
  const refused = await new Promise<IncomingMessage>((resolve, reject) => held.once('response', resolve).once('error', reject).end());
  expect([refused.statusCode, refused.headers['retry-after']]).toEqual([503, '2']);
  expect(await Promise.all(running)).toEqual(Array.from({ length: 20 }, () => 201));
  await streamEnded;
  expect(said).toContain('event: end');
  await closed;
  await harness.dropDatabase();
}, 60_000);
