import { Ajv2020 } from 'ajv/dist/2020.js';
import { describeApi } from './openapi.ts';
import { startHarness, startSmall, type Caller, type Harness } from '../../test/harness.ts';

interface Operation {
  readonly responses: Readonly<Record<string, { readonly content?: Readonly<Record<string, { readonly schema: object }>> }>>;
  readonly requestBody?: { readonly content: Readonly<Record<string, { readonly schema: { readonly $ref: string } }>> };
}
interface Document {
  readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>;
  readonly components: { readonly schemas: Readonly<Record<string, { readonly properties?: object }>> };
}

let harness: Harness;
let lead: Caller;
let document: Document;
let ajv: Ajv2020;
beforeAll(async () => {
  harness = await startHarness();
  lead = await harness.as('Lena');
  // As it is before each caller's part is taken out of it.
  document = JSON.parse(JSON.stringify(describeApi(harness.app))) as Document;
  ajv = new Ajv2020({ strict: false });
  ajv.addSchema(document, 'api');
});
beforeEach(() => harness.forgetTries());
afterAll(() => harness.close());

const operations = (): [string, Operation][] =>
  Object.entries(document.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]): [string, Operation] => [
      `${method.toUpperCase()} ${path.replace('/api', '')}`,
      operation,
    ]),
  );

/** Answers that are no JSON document of ours. */
const WITHOUT = new Set([
  ...['GET /changes', 'GET /files/{id}', 'GET /agency/logo', 'GET /time/export', 'GET /handoffs/speed/export', 'GET /health'],
  // They answer a page.
  ...['GET /mail/unsubscribe/{token}', 'POST /mail/unsubscribe/{token}'],
]);

test('every route that answers something says what', () => {
  const silent = operations().filter(([route, { responses }]) => {
    const yes = Object.entries(responses).find(([status]) => status.startsWith('2'));
    return !WITHOUT.has(route) && yes?.[0] !== '204' && yes?.[1].content?.['application/json'] === undefined;
  });
  expect(silent.map(([route]) => route)).toEqual([]);
});

test('every reference of the document leads somewhere', () => {
  const names = [...JSON.stringify(document).matchAll(/#\/components\/schemas\/([\w.-]+)/g)].map((match) => match[1] as string);
  expect(names.length).toBeGreaterThan(50);
  expect([...new Set(names)].filter((name) => !(name in document.components.schemas))).toEqual([]);
});

test('what is described to a client refers to nothing that is not in it', async () => {
  const part = (await (await harness.as('Hal')).get('/openapi.json').expect(200)).body as Document;
  const names = [...JSON.stringify(part).matchAll(/#\/components\/schemas\/([\w.-]+)/g)].map((match) => match[1] as string);
  expect(names.filter((name) => !(name in part.components.schemas))).toEqual([]);
  expect(Object.keys(part.components.schemas).length).toBeLessThan(Object.keys(document.components.schemas).length / 4);
});

test('every body a route takes has its fields described', () => {
  const empty = operations().flatMap(([route, { requestBody }]) => {
    const name = requestBody?.content['application/json']?.schema.$ref.split('/').at(-1);
    return name !== undefined && Object.keys(document.components.schemas[name]?.properties ?? {}).length === 0 ? [route] : [];
  });
  expect(empty).toEqual([]);
});

test('what may be null is told from what may be left out', () => {
  const schemas = document.components.schemas as Readonly<Record<string, { properties: Record<string, object>; required?: string[] }>>;
  const takesNull = (body: string, field: string): boolean => JSON.stringify(schemas[body]?.properties[field]).includes('"null"');
  const told = (body: string, field: string) => [takesNull(body, field), schemas[body]?.required?.includes(field) ?? false];
  expect(told('RoleChoice', 'personId')).toEqual([true, true]);
  expect(told('EditTask', 'fixedDay')).toEqual([true, false]);
  expect(told('EditTask', 'estimateMinutes')).toEqual([true, false]);
  expect(told('EditTask', 'days')).toEqual([false, false]);
  expect(told('EditTask', 'version')).toEqual([false, true]);
  expect(told('StartEngagement', 'clientId')).toEqual([false, true]);
  expect(told('PlanEngagement', 'clientId')).toEqual([false, false]);
});

/** What the document says of an answer against the answer itself, field for field: one too many fails too. */
async function holdToDocument(caller: Caller, route: string, path: string): Promise<void> {
  const [method, template] = route.split(' ') as [string, string];
  const content = document.paths[`/api${template}`]?.[method.toLowerCase()]?.responses['200']?.content?.['application/json'];
  const { body } = await caller.get(path).expect(200);
  const schema = JSON.parse(JSON.stringify(content?.schema).replaceAll('#/components', 'api#/components')) as object;
  const check = ajv.compile(schema);
  check(body);
  expect(check.errors ?? []).toEqual([]);
}

describe('answers are as the document says', () => {
  let id: string;
  let task: string;
  let handoff: string;
  beforeAll(async () => {
    id = await startSmall(lead, harness);
    const plan = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as {
      tasks: { id: string; version: number }[];
      phases: { handoffId: string }[];
    };
    task = plan.tasks[0]?.id ?? '';
    handoff = plan.phases[0]?.handoffId ?? '';
    await lead.patch(`/tasks/${task}`, { version: plan.tasks[0]?.version, status: 'waiting', waitingOn: 'supplier' }).expect(200);
    await lead.post(`/tasks/${task}/time`, { day: '2026-11-23', minutes: 30 }).expect(201);
    await harness.settle();
  });

  test.each<[string, string, () => string]>([
    ['who am I', 'GET /session', () => '/session'],
    ['the crew', 'GET /crew', () => '/crew'],
    ['its members', 'GET /crew/members', () => '/crew/members'],
    ['clients', 'GET /clients', () => '/clients'],
    ['the list of engagements', 'GET /engagements', () => '/engagements'],
    ['a plan', 'GET /engagements/{id}/plan', () => `/engagements/${id}/plan`],
    ['a task', 'GET /tasks/{id}', () => `/tasks/${task}`],
    ['the library', 'GET /templates', () => '/templates'],
    ['a template on the calendar', 'GET /templates/{id}', () => `/templates/${harness.ids.template}?start=2026-12-14`],
    ['handoffs', 'GET /handoffs', () => '/handoffs'],
    ['a handoff', 'GET /handoffs/{id}', () => `/handoffs/${handoff}`],
    ['the load', 'GET /workload', () => '/workload'],
    ['a desk', 'GET /desk', () => `/desk?person=${harness.ids.people['Dora']}`],
  ])('%s', async (_what, route, path) => {
    await holdToDocument(lead, route, path());
  });

  test('what a client gets', async () => {
    await holdToDocument(await harness.as('Hal'), 'GET /client/engagements', '/client/engagements');
  });
});
