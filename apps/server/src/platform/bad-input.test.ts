import type { ErrorBody } from '@crew/contract';
import { everyBody, expectSentence, sendTo, UNKNOWN, type Body } from '../../test/every-body.ts';
import { startHarness, type Caller, type Harness } from '../../test/harness.ts';

let harness: Harness;
let owner: Caller;
let bodies: Readonly<Record<string, Body>>;
let documented: readonly string[];

beforeAll(async () => {
  harness = await startHarness();
  owner = await harness.as('Oona');
  bodies = await everyBody(harness, owner);
  const document = (await owner.get('/openapi.json').expect(200)).body as {
    paths: Record<string, Record<string, { requestBody?: { content: object } }>>;
  };
  documented = Object.entries(document.paths).flatMap(([path, methods]) =>
    Object.entries(methods).flatMap(([method, { requestBody }]) =>
      requestBody === undefined || !('application/json' in requestBody.content)
        ? []
        : [`${method.toUpperCase()} ${path.replace(/^\/api/, '')}`],
    ),
  );
}, 300_000);
beforeEach(() => harness.forgetTries());
afterAll(() => harness.close());

test('every route that takes a body is tried here', () => {
  expect(Object.keys(bodies).sort()).toEqual([...documented].sort());
});

test('a field that is left out is missed in a sentence, or is not needed', async () => {
  for (const [route, { path, body }] of Object.entries(bodies)) {
    for (const field of Object.keys(body)) {
      harness.forgetTries();
      const answer = await sendTo(owner, { route, path }, Object.fromEntries(Object.entries(body).filter(([name]) => name !== field)));
      expectSentence(answer.status, answer.body as ErrorBody, `${route} without ${field}`);
    }
  }
});

test('an id of nothing in the address is not found, however good the body is', async () => {
  const found: string[] = [];
  for (const [route, { path, body }] of Object.entries(bodies)) {
    if (!route.includes('{id}')) continue;
    const { status } = await sendTo(owner, { route, path: path.replace(/[0-9a-f-]{36}/, UNKNOWN) }, body);
    if (status !== 404) found.push(`${route}: ${status}`);
  }
  expect(found).toEqual([]);
});

test('a field that nobody knows is refused by its name', async () => {
  for (const [route, { path, body }] of Object.entries(bodies)) {
    harness.forgetTries();
    const answer = await sendTo(owner, { route, path }, { ...body, colour: 'petrol' });
    expect([route, answer.status, (answer.body as ErrorBody).field]).toEqual([route, 400, 'colour']);
  }
});

test.each([
  ['no JSON', '{"version":'],
  ['a list', '[]'],
  ['a word', '"version"'],
])('a body that is %s is refused', async (_what, text) => {
  const answer = await owner
    .patch(bodies['PATCH /tasks/{id}']?.path ?? '', {})
    .set('Content-Type', 'application/json')
    .send(text);
  expect(answer.status).toBe(400);
  expectSentence(answer.status, answer.body as ErrorBody, text);
});

test.each(['elsewhere', 'null', 'http://', '//x'])('an origin that is %s is no fault of ours', async (origin) => {
  const answer = await harness.nobody.post('/session', { email: 'lena@small.example', password: 'x' }).set('Origin', origin);
  expect(answer.status).toBeLessThan(500);
});
