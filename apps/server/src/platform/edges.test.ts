import { request as httpRequest } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { ErrorBody } from '@crew/contract';
import request from 'supertest';
import { startHarness, startSmall, testWorld, type Harness } from '../../test/harness.ts';

const { harness, lead } = testWorld();

const bodyOf = (answer: { readonly body: unknown }): ErrorBody => answer.body as ErrorBody;
const many = (count: number, text: string): string => Array.from({ length: count }, () => text).join(',');

test.each(['/engagements/new/plan', '/tasks/42', '/handoffs/x', '/clients/tarrow-fen'])(
  '%s leads nowhere, and says so in plain words',
  async (path) => {
    const { body } = await lead.get(path).expect(404);
    expect(body).toEqual({ code: 'not-found', message: 'There is nothing at this address. Check the link.' });
  },
);

describe('what is read before it is known who asks', () => {
  test.each(['/session', '/session/demo', '/agency'])('a kilobyte is enough for %s', async (path) => {
    const answer = await harness.nobody.post(path, { email: 'x'.repeat(1100) }).expect(413);
    expect(bodyOf(answer)).toMatchObject({ code: 'too-large' });
  });

  test.each([
    ['lists in lists', '['.repeat(300) + ']'.repeat(300)],
    ['unknown fields', `{${many(100, '"a":1')}}`],
    ['many items', `{"a":[${many(200, '1')}]}`],
  ])('%s are refused before they are parsed', async (_what, text) => {
    const answer = await harness.nobody.post('/session').set('Content-Type', 'application/json').send(text).expect(413);
    expect(bodyOf(answer).message).toMatch(/^(It is nested|An object in it|A list in it|It has) .*Send less at once\.$/);
  });

  test('a body nobody may send is refused without being read: the answer comes while it is still on its way', async () => {
    const contact = await request(harness.app.getHttpServer())
      .post('/api/session')
      .send({ email: 'hal@small.example', password: 'harbour wall at noon' });
    const { port } = harness.app.getHttpServer().address() as AddressInfo;
    const status = await new Promise<number | undefined>((resolve, reject) => {
      const sent = httpRequest({
        ...{ port, host: '127.0.0.1', method: 'POST', path: '/api/templates/import' },
        headers: {
          'content-type': 'application/json',
          'content-length': 60_000_000,
          cookie: (contact.headers['set-cookie'] as unknown as string[])[0],
        },
      });
      sent.once('response', (answer) => {
        resolve(answer.statusCode);
        sent.destroy();
      });
      sent.once('error', reject);
      sent.write('{"file":');
    });
    expect(status).toBe(403);
  });
});

describe('what a body may be', () => {
  test.each([
    ['another charset', 'application/json; charset=iso-8859-1', {}],
    ['another format', 'text/plain', {}],
    ['an unknown coding', 'application/json', { 'Content-Encoding': 'zebra' }],
  ])('%s is 415', async (_what, type, headers) => {
    const sent = lead.post('/clients').set('Content-Type', type);
    for (const [name, value] of Object.entries(headers)) void sent.set(name, value);
    expect(bodyOf(await sent.send('{"name":"x"}').expect(415))).toMatchObject({ code: 'wrong-format' });
  });

  test('nesting beyond what anything of ours has is refused', async () => {
    const answer = await lead
      .post('/clients')
      .set('Content-Type', 'application/json')
      .send(`{"name":${'['.repeat(3000)}${']'.repeat(3000)}}`)
      .expect(413);
    expect(bodyOf(answer).message).toBe('It is nested more than 12 deep. Send less at once.');
  });

  test.each(['\ud800', 'a\udfff', '\u0000'])('half a character, or none, is refused in a sentence', async (piece) => {
    const answer = await lead.post('/clients', { name: `Quay ${piece}` }).expect(400);
    expect(bodyOf(answer).message).toBe('A text has a character in it that cannot be kept. Write it anew.');
  });

  test('a list where a part is due is refused, also an empty one', async () => {
    const id = await startSmall(lead, harness, { name: 'Parts' });
    const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as { tasks: { id: string }[] };
    for (const body of [{ pageLinks: [[]] }, { outside: [] }, { customFields: [[]] }, { after: [[]] }])
      await lead.patch(`/tasks/${tasks[0]?.id}`, { version: 1, ...body }).expect(400);
    await lead.post('/engagements/preview', { templateId: harness.ids.template, start: '2026-12-01', roles: [[]] }).expect(400);
    await lead.post('/week-plan/places', { tasks: [[]] }).expect(400);
    await lead.post('/calendar/closed-days', { days: [[]] }).expect(400);
  });

  test('of many faults the first twenty are told', async () => {
    const days = Array.from({ length: 100 }, () => ({ day: 'soon', name: '' }));
    const answer = await lead.post('/calendar/closed-days', { days }).expect(400);
    expect((bodyOf(answer).details as { fields: object[] }).fields).toHaveLength(20);
  });

  test.each(['1989-12-31', '2200-01-01', '9999-12-31', '0001-01-01'])('%s is no day of a plan', async (day) => {
    const { template, client } = harness.ids;
    await lead.post('/engagements', { templateId: template, clientId: client, name: 'Far', start: day }).expect(400);
    await lead.get(`/templates/${template}?start=${day}`).expect(400);
    await lead.get(`/workload?from=${day}`).expect(400);
    await lead.get(`/time?day=${day}`).expect(400);
    await lead.post('/rhythms/preview', { rule: `FREQ=DAILY;UNTIL=${day.replaceAll('-', '')}`, from: '2026-12-01' }).expect(400);
  });

  test('a day given twice in an address is none', async () => {
    await lead.get('/workload?from=2026-12-01&from=2026-12-02').expect(400);
    await lead.get('/engagements?role=a&role=b').expect(400);
  });
});

describe('what costs much is bounded', () => {
  const line = () => ({
    ...{ kind: 'line', name: 'Fast', clientId: harness.ids.client, templateId: harness.ids.template, firstDay: '2026-11-30' },
    rule: 'FREQ=DAILY',
  });

  test('a line that would make thousands at once is refused, saying how many; nothing is made', async () => {
    const answer = await lead.post('/series', { ...line(), each: 50, aheadDays: 180 }).expect(413);
    expect(bodyOf(answer).message).toMatch(/^This makes \d+ engagements at once; at most 60 are made at once\./);
    expect(await harness.database.rows(`SELECT 1 FROM engagement_series WHERE name = 'Fast'`)).toEqual([]);
  });

  test('a pace nobody could keep is not tried', async () => {
    const { id } = (await lead.post('/series', { ...line(), rule: 'FREQ=WEEKLY;BYDAY=MO' }).expect(201)).body as { id: string };
    await lead.post(`/series/${id}/rhythms/preview`, { from: '2026-12-14', rule: 'FREQ=DAILY', each: 50 }).expect(413);
    await lead.post(`/series/${id}/rhythms/preview`, { from: '2190-01-01', rule: 'FREQ=WEEKLY;BYDAY=MO' }).expect(400);
    const far = { from: '2026-12-14', rule: 'FREQ=WEEKLY;BYDAY=MO', shownFrom: '2199-01-01' };
    await lead.post(`/series/${id}/rhythms/preview`, far).expect(400);
  });

  test('a small calendar file with endless events is refused, and others are answered meanwhile', async () => {
    const event = (index: number): string =>
      [
        'BEGIN:VEVENT',
        `UID:${index}`,
        'DTSTART:19900101T000000Z',
        'DURATION:PT1M',
        'RRULE:FREQ=SECONDLY',
        `SUMMARY:E${index}`,
        'END:VEVENT',
      ].join('\r\n');
    const text = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${Array.from({ length: 400 }, (_, index) => event(index)).join('\r\n')}\r\nEND:VCALENDAR\r\n`;
    const freelancer = await harness.as('Fred');
    const refused = freelancer.post(`/crew/${harness.ids.people['Fred']}/time-off/import`, { text, isTrial: true }).expect(400);
    const began = performance.now();
    const [answer] = await Promise.all([refused, lead.get('/crew').expect(200)]);
    expect(bodyOf(answer).code).toBe('faulty-file');
    expect(performance.now() - began).toBeLessThan(8000);
  });
});

describe('small things', () => {
  test('no answer is kept by anybody on the way', async () => {
    for (const path of ['/session', '/crew', '/workload', '/nowhere'])
      expect((await lead.get(path)).headers['cache-control']).toContain('no-store');
  });

  test('an id of nothing is not found, whatever is asked of it', async () => {
    const { paths } = (await lead.get('/openapi.json').expect(200)).body as { paths: Record<string, Record<string, object>> };
    const none = '00000000-0000-4000-8000-000000000000';
    // A closed day or a session that is gone already is what a deletion asks for.
    const isEndedOnce = /closed-days|account\/sessions/;
    const asked = Object.entries(paths).filter(([path]) => path.includes('{id}') && !isEndedOnce.test(path));
    const found: string[] = [];
    for (const [path, methods] of asked)
      for (const method of Object.keys(methods).filter((one) => one === 'get' || one === 'delete')) {
        const at = path.replace('/api', '').replace('{id}', none);
        const { status } =
          method === 'get' ? await lead.get(`${at}${path.endsWith('/difference') ? '?from=1&to=2' : ''}`) : await lead.delete(at);
        if (status !== 404) found.push(`${method} ${path}: ${status}`);
      }
    expect(found).toEqual([]);
  });

  test('a role of another agency is refused by what puts work on people', async () => {
    const roles = [{ roleId: '00000000-0000-4000-8000-000000000000', personId: harness.ids.people['Mak'] }];
    const { template, client } = harness.ids;
    const plan = { templateId: template, start: '2026-12-01', roles };
    await lead.post('/engagements/preview', plan).expect(400);
    await lead.post('/workload/try', plan).expect(400);
    await lead.post('/engagements', { ...plan, clientId: client, name: 'Foreign' }).expect(400);
    const series = {
      kind: 'line',
      name: 'Foreign',
      clientId: client,
      templateId: template,
      firstDay: '2026-12-01',
      rule: 'FREQ=WEEKLY;BYDAY=MO',
      roles,
    };
    await lead.post('/series', series).expect(400);
  });
});

describe('behind a proxy', () => {
  let behind: Harness;
  beforeAll(async () => {
    behind = await startHarness({ trustedProxies: 1, requestsPerMinute: 20 });
  });
  afterAll(() => behind.close());
  const ask = (address: string) =>
    request(behind.app.getHttpServer()).get('/api/agency').set('X-Forwarded-For', address).set('X-Forwarded-Proto', 'https');

  test('requests are counted by the address they really come from', async () => {
    for (let count = 0; count < 20; count++) await ask('192.0.2.1').expect(200);
    await ask('192.0.2.1').expect(429);
    await ask('192.0.2.2').expect(200);
  });

  test('the cookie is for TLS only, and browsers are told to use nothing else', async () => {
    const answer = await request(behind.app.getHttpServer())
      .post('/api/session')
      .set('X-Forwarded-For', '192.0.2.3')
      .set('X-Forwarded-Proto', 'https')
      .send({ email: 'lena@small.example', password: 'harbour wall at noon' })
      .expect(204);
    expect((answer.headers['set-cookie'] as unknown as string[])[0]).toContain('Secure');
    expect(answer.headers['strict-transport-security']).toContain('max-age=31536000');
  });

  test('without one, what a caller says of its own address is not believed', async () => {
    const alone = await startHarness({ requestsPerMinute: 5 });
    const from = (address: string) => request(alone.app.getHttpServer()).get('/api/agency').set('X-Forwarded-For', address);
    for (let count = 0; count < 5; count++) await from(`192.0.2.${count}`);
    await from('192.0.2.99').expect(429);
    await alone.close();
  });
});
