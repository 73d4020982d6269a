import request from 'supertest';
import type { ClientSummary, Crew, Me, TemplateSummary } from '@crew/contract';
import { startHarness, type Caller, type Harness } from '../../test/harness.ts';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness({ isEmpty: true });
});
beforeEach(() => harness.forgetTries());
afterAll(() => harness.close());

const founder = {
  agencyName: ' Tallow Yard ',
  name: 'Perrin Vale',
  email: 'Perrin@Tallow.example',
  password: 'three candles lit',
  withExamples: true,
  zone: 'Pacific/Auckland',
};
const count = async (table: 'agency' | 'person' | 'template'): Promise<number> =>
  (await harness.database.row<{ rows: number }>(`SELECT count(*)::int AS rows FROM ${table}`))?.rows ?? -1;

test('an empty installation says that nobody has founded it', async () => {
  expect((await harness.nobody.get('/agency').expect(200)).body).toEqual({ isFounded: false });
});

test.each<[string, object, string]>([
  ['no name of the agency', { agencyName: ' ' }, 'agencyName'],
  ['no own name', { name: '' }, 'name'],
  ['no mail address', { email: 'perrin' }, 'email'],
  ['a password anybody guesses', { password: 'candle' }, 'password'],
  ['a time zone that is none', { zone: 'Europe/Quillmarsh' }, 'zone'],
  ['no word on the examples', { withExamples: 'perhaps' }, 'withExamples'],
])('%s is refused at the field and nothing is founded', async (_what, wrong, field) => {
  const { body } = await harness.nobody.post('/agency', { ...founder, ...wrong }).expect(400);
  expect(body).toMatchObject({ code: 'invalid-input', field });
  expect(await count('agency')).toBe(0);
});

describe('two first visitors at the same moment', () => {
  let answers: readonly request.Response[];
  let owner: Caller;
  beforeAll(async () => {
    const second = { ...founder, agencyName: 'Other Yard', name: 'Quill Marr', email: 'quill@other.example' };
    answers = await Promise.all([founder, second].map((visitor) => request(harness.app.getHttpServer()).post('/api/agency').send(visitor)));
    const kept = await harness.database.row<{ email: string }>('SELECT email FROM account');
    owner = await harness.signIn(kept?.email ?? '', founder.password);
  });

  test('one founds the agency, the other is told to sign in', async () => {
    expect(answers.map((answer) => answer.status).sort()).toEqual([204, 409]);
    expect(answers.find((answer) => answer.status === 409)?.body).toMatchObject({ code: 'already-there' });
    expect([await count('agency'), await count('person')]).toEqual([1, 1]);
  });

  test('who founded it owns it, and its days are those of its own time zone', async () => {
    expect((await owner.get('/session').expect(200)).body as Me).toMatchObject({ access: 'owner', zone: 'Pacific/Auckland' });
  });

  test('the example templates are there with the roles they need', async () => {
    const templates = (await owner.get('/templates').expect(200)).body as TemplateSummary[];
    expect(templates.map((template) => template.name)).toEqual(expect.arrayContaining(['Permanent gallery', 'Audio trail']));
    const { roles } = (await owner.get('/crew').expect(200)).body as Crew;
    expect(roles.length).toBeGreaterThan(5);
  });

  test('the agency is a client of its own, for work nobody pays for', async () => {
    const clients = (await owner.get('/clients').expect(200)).body as ClientSummary[];
    expect(clients).toMatchObject([{ isOwn: true, hue: 'slate' }]);
  });

  test('a client takes the hue used least, and a name only once', async () => {
    for (const name of ['Quay Museum', 'Fen Trust', 'Clock House']) await owner.post('/clients', { name }).expect(201);
    const clients = (await owner.get('/clients').expect(200)).body as ClientSummary[];
    const hues = clients.filter((client) => !client.isOwn).map((client) => client.hue);
    expect(new Set(hues).size).toBe(3);
    expect((await owner.post('/clients', { name: 'Quay Museum' }).expect(409)).body).toMatchObject({ code: 'already-there' });
    expect((await owner.post('/clients', { name: '  ' }).expect(400)).body).toMatchObject({ field: 'name' });
    expect((await owner.post('/clients', { name: 'Mill', hue: 'pink' }).expect(400)).body).toMatchObject({ field: 'hue' });
  });
});
