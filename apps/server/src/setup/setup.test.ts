import request from 'supertest';
import type { AgencySettings, ClientSummary, CrewMember, Crew, DryRun, Me, SetupState, StartersAdded, StarterTrade } from '@crew/contract';
import { startHarness, type Caller, type Harness } from '../../test/harness.ts';
import { setupKeyOf } from '../platform/setup-key.ts';

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness({ isEmpty: true });
});
beforeEach(() => harness.forgetTries());
afterAll(() => harness.close());

const firstVisitor = {
  agencyName: ' Tallow Yard ',
  name: 'Perrin Vale',
  email: 'Perrin@Tallow.example',
  password: 'three candles lit',
  setupKey: setupKeyOf('for tests only'),
  zone: 'Pacific/Auckland',
  country: 'NZ',
  currency: 'NZD',
  week: [480, 480, 480, 480, 0, 0, 0],
};
const count = async (table: 'agency' | 'person' | 'template'): Promise<number> =>
  (await harness.database.row<{ rows: number }>(`SELECT count(*)::int AS rows FROM ${table}`))?.rows ?? -1;

test('an empty installation says that it is not set up', async () => {
  expect((await harness.nobody.get('/agency').expect(200)).body).toEqual({ isSetUp: false, name: null, logo: null });
});

test.each<[string, object, string]>([
  ['no name of the agency', { agencyName: ' ' }, 'agencyName'],
  ['no own name', { name: '' }, 'name'],
  ['no mail address', { email: 'perrin' }, 'email'],
  ['a password anybody guesses', { password: 'candle' }, 'password'],
  ['a time zone that is none', { zone: 'Europe/Quillmarsh' }, 'zone'],
  ['a country that is none', { country: 'Atlantis' }, 'country'],
  ['a week of six days', { week: [480, 480, 480, 480, 0, 0] }, 'week'],
  ['no key', { setupKey: undefined }, 'setupKey'],
])('%s is refused at the field and nothing is set up', async (_what, wrong, field) => {
  const { body } = await harness.nobody.post('/agency', { ...firstVisitor, ...wrong }).expect(400);
  expect(body).toMatchObject({ code: 'invalid-input', field });
  expect(await count('agency')).toBe(0);
});

test('only who can read the set-up key sets up the agency; how it is typed does not matter', async () => {
  const { body } = await harness.nobody.post('/agency', { ...firstVisitor, setupKey: 'AAAA-BBBB-CCCC-DDDD' }).expect(401);
  expect(body).toMatchObject({ code: 'wrong-secret', field: 'setupKey' });
  expect(await count('agency')).toBe(0);
  const weak = { ...firstVisitor, password: 'candle', setupKey: firstVisitor.setupKey.toLowerCase().replaceAll('-', ' ') };
  expect((await harness.nobody.post('/agency', weak).expect(400)).body).toMatchObject({ field: 'password' });
  expect(setupKeyOf('another secret')).not.toBe(firstVisitor.setupKey);
});

describe('two first visitors at the same moment', () => {
  let answers: readonly request.Response[];
  let owner: Caller;
  beforeAll(async () => {
    const second = { ...firstVisitor, agencyName: 'Other Yard', name: 'Quill Marr', email: 'quill@other.example' };
    answers = await Promise.all(
      [firstVisitor, second].map((visitor) => request(harness.app.getHttpServer()).post('/api/agency').send(visitor)),
    );
    const kept = await harness.database.row<{ email: string }>('SELECT email FROM account');
    owner = await harness.signIn(kept?.email ?? '', firstVisitor.password);
  });

  test('one sets up the agency, the other is told to sign in', async () => {
    expect(answers.map((answer) => answer.status).sort()).toEqual([204, 409]);
    expect(answers.find((answer) => answer.status === 409)?.body).toMatchObject({ code: 'already-there' });
    expect([await count('agency'), await count('person')]).toEqual([1, 1]);
  });

  test('who set it up owns it, and its days are those of its own time zone', async () => {
    expect((await owner.get('/session').expect(200)).body as Me).toMatchObject({ access: 'owner', zone: 'Pacific/Auckland' });
  });

  test('it has the country, currency and hours that were given, and rules for any agency', async () => {
    expect((await owner.get('/settings').expect(200)).body as AgencySettings).toMatchObject({ country: 'NZ', currency: 'NZD' });
    const { people } = (await owner.get('/crew').expect(200)).body as Crew;
    expect((people[0] as CrewMember).week).toEqual([480, 480, 480, 480, 0, 0, 0]);
    expect(((await owner.get('/rules').expect(200)).body as { rules: unknown[] }).rules.length).toBeGreaterThan(4);
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

const stepsOf = async (owner: Caller): Promise<Record<string, boolean>> =>
  Object.fromEntries(((await owner.get('/setup').expect(200)).body as SetupState).steps.map(({ step, isDone }) => [step, isDone]));

describe('after the agency', () => {
  let owner: Caller;
  beforeAll(async () => {
    const kept = await harness.database.row<{ email: string }>('SELECT email FROM account');
    owner = await harness.signIn(kept?.email ?? '', firstVisitor.password);
  });

  test('what is left to do is read from what there is', async () => {
    expect(await stepsOf(owner)).toEqual({
      ...{ agency: true, holidays: false, templates: false },
      ...{ people: false, engagement: false, mail: false },
    });
    await owner.post('/calendar/closed-days', { days: [{ day: '2026-12-25', name: 'Christmas Day' }] }).expect(201);
    expect(await stepsOf(owner)).toMatchObject({ holidays: true });
  });

  test('every starter template is offered by trade, with what it holds', async () => {
    const trades = (await owner.get('/starters').expect(200)).body as StarterTrade[];
    expect(trades).toHaveLength(7);
    for (const { templates } of trades) {
      expect(templates.length).toBeGreaterThanOrEqual(2);
      for (const template of templates) {
        expect(template.templateId).toBeNull();
        expect(template.taskCount).toBeGreaterThan(8);
        expect(template.effortMinutes).toBeGreaterThan(600);
      }
    }
  });

  test('they are added with the roles they name, once, however often that is asked for, by two at the same moment too', async () => {
    const asked = { templates: ['new-website', 'landing-page'] };
    const answers = await Promise.all([owner.post('/starters', asked).expect(201), owner.post('/starters', asked).expect(201)]);
    const added = answers.flatMap(({ body }) => (body as StartersAdded).templates);
    expect(added.map(({ key }) => key).sort()).toEqual(['landing-page', 'new-website']);
    const { roles } = (await owner.get('/crew').expect(200)).body as Crew;
    expect(roles.map(({ name }) => name).sort()).toEqual(['Client manager', 'Project lead', 'Web designer', 'Web developer', 'Writer']);
    const trades = (await owner.get('/starters').expect(200)).body as StarterTrade[];
    expect(trades[0]?.templates.map(({ templateId }) => templateId !== null)).toEqual([true, true, false]);
    expect(await stepsOf(owner)).toMatchObject({ templates: true });
    expect((await owner.post('/starters', { templates: ['spaceship'] }).expect(400)).body).toMatchObject({ field: 'templates' });
  });

  test('every starter template can be added, and an engagement started from it', async () => {
    const trades = (await owner.get('/starters').expect(200)).body as StarterTrade[];
    const keys = trades.flatMap(({ templates }) => templates.map(({ key }) => key));
    await owner.post('/starters', { templates: keys }).expect(201);
    const after = (await owner.get('/starters').expect(200)).body as StarterTrade[];
    const client = ((await owner.get('/clients').expect(200)).body as ClientSummary[])[0];
    for (const { templateId, taskCount } of after.flatMap(({ templates }) => templates)) {
      const asked = { templateId, clientId: client?.id, start: '2026-12-07' };
      const { tasks } = (await owner.post('/engagements/preview', asked).expect(201)).body as DryRun;
      expect(tasks).toHaveLength(taskCount);
    }
  });

  test('a hint that is closed stays closed, until all are shown again', async () => {
    const closed = async (): Promise<readonly string[]> => ((await owner.get('/session').expect(200)).body as Me).closedHints;
    for (const hint of ['desk', 'setup', 'desk']) await owner.post('/account/hints', { hint }).expect(204);
    expect(await closed()).toEqual(['desk', 'setup']);
    await owner.post('/account/hints', { hint: 'No such <thing>' }).expect(400);
    await owner.delete('/account/hints').expect(204);
    expect(await closed()).toEqual([]);
  });
});
