import { ACCESS, can, of, RIGHTS, reachOf, type Access, type Action } from '@crew/contract';
import { startHarness, startSmall, type Caller, type Harness } from '../../test/harness.ts';

/** Every route and who may use it; a route that is not listed here fails the test. */
const STAFF: readonly Access[] = ['owner', 'lead', 'member'];
const LEADS: readonly Access[] = ['owner', 'lead'];
const OWNERS: readonly Access[] = ['owner'];
const CREW: readonly Access[] = [...STAFF, 'freelancer'];
const ALL: readonly Access[] = [...CREW, 'client'];
const OPEN = 'open';

const ROUTES: Readonly<Record<string, readonly Access[] | typeof OPEN>> = {
  'GET /session': ALL,
  'POST /session': OPEN,
  'DELETE /session': ALL,
  'DELETE /session/wrong-passwords': ALL,
  'GET /session/demo': OPEN,
  'POST /session/demo': OPEN,
  'GET /health': OPEN,
  'GET /agency': OPEN,
  'POST /agency': OPEN,
  'GET /history': CREW,
  'GET /setup': OWNERS,
  'GET /starters': STAFF,
  'POST /starters': LEADS,
  'GET /settings': STAFF,
  'PATCH /settings': OWNERS,
  'GET /handoffs/speed': STAFF,
  'GET /handoffs/speed/cases': STAFF,
  'GET /handoffs/speed/export': STAFF,
  'GET /phases/{id}': STAFF,
  'PATCH /phases/{id}': LEADS,
  'GET /webhooks': OWNERS,
  'POST /webhooks': OWNERS,
  'GET /webhooks/deliveries': OWNERS,
  'POST /webhooks/deliveries/{id}/retry': OWNERS,
  'PATCH /webhooks/{id}': OWNERS,
  'DELETE /webhooks/{id}': OWNERS,
  'GET /mail': LEADS,
  'POST /mail/{id}/retry': LEADS,
  'GET /mail/boxes': CREW,
  'GET /mail/boxes/{id}': CREW,
  'POST /mail/boxes/{id}/answer': CREW,
  'POST /mail/links/open': CREW,
  'GET /mail/server': OWNERS,
  'PUT /mail/server': OWNERS,
  'DELETE /mail/server': OWNERS,
  'POST /mail/server/try': OWNERS,
  'POST /mail/incoming': OPEN,
  'GET /mail/unsubscribe/{token}': OPEN,
  'POST /mail/unsubscribe/{token}': OPEN,
  'PATCH /notices/mailing': CREW,
  'GET /rules': STAFF,
  'GET /rules/choices': STAFF,
  'GET /rules/runs': STAFF,
  'POST /rules/try': STAFF,
  'POST /rules': LEADS,
  'PATCH /rules/{id}': LEADS,
  'DELETE /rules/{id}': LEADS,
  'POST /rules/{id}/exceptions': LEADS,
  'DELETE /rules/{id}/exceptions/{exceptionId}': LEADS,
  'POST /rules/runs/{id}/undo': LEADS,
  'POST /rules/runs/{id}/retry': LEADS,
  'GET /engagements/{id}/roles': STAFF,
  'POST /engagements/{id}/roles': LEADS,
  'POST /engagements/{id}/roles/preview': LEADS,
  'POST /presence': CREW,
  'GET /presence/engagements/{id}': CREW,
  'GET /presence/tasks/{id}': CREW,
  'GET /notices': CREW,
  'POST /notices/read': CREW,
  'POST /notices/snooze': CREW,
  'GET /notices/choices': CREW,
  'PATCH /notices/choices': CREW,
  'GET /crew': STAFF,
  'GET /crew/members': LEADS,
  'POST /invitations': LEADS,
  'GET /crew/{id}/access-link': LEADS,
  'POST /crew/{id}/access-link': LEADS,
  'DELETE /crew/{id}/access-link': LEADS,
  'POST /access-links': OPEN,
  'GET /access-links/{token}': OPEN,
  'POST /access-links/{token}': OPEN,
  'POST /account/password': ALL,
  'GET /holidays': LEADS,
  'GET /holidays/countries': LEADS,
  'POST /account/hints': ALL,
  'DELETE /account/hints': ALL,
  'GET /account/sessions': ALL,
  'DELETE /account/sessions': ALL,
  'DELETE /account/sessions/{id}': ALL,
  'GET /account/second-factor': ALL,
  'POST /account/second-factor': ALL,
  'POST /account/second-factor/confirm': ALL,
  'POST /account/second-factor/recovery-codes': ALL,
  'POST /account/second-factor/off': ALL,
  'GET /account/security-log': OWNERS,
  'PATCH /crew/{id}': LEADS,
  'GET /agency/logo': OPEN,
  'PUT /settings/logo': OWNERS,
  'GET /roles': LEADS,
  'POST /roles': LEADS,
  'PATCH /roles/{id}': LEADS,
  'DELETE /roles/{id}': LEADS,
  'GET /labels': STAFF,
  'PATCH /labels': LEADS,
  'GET /calendar': CREW,
  'PATCH /calendar': LEADS,
  'POST /calendar/closed-days': LEADS,
  'DELETE /calendar/closed-days/{id}': LEADS,
  'POST /calendar/import': LEADS,
  'POST /crew/{id}/time-off': CREW,
  'POST /crew/{id}/time-off/import': CREW,
  'DELETE /time-off/{id}': CREW,
  'GET /clients': STAFF,
  'POST /clients': LEADS,
  'GET /clients/{id}': STAFF,
  'PATCH /clients/{id}': LEADS,
  'POST /clients/{id}/contacts': LEADS,
  'PATCH /contacts/{id}': LEADS,
  'GET /templates': STAFF,
  'GET /templates/{id}': STAFF,
  'POST /templates': LEADS,
  'POST /templates/import': LEADS,
  'GET /templates/{id}/content': STAFF,
  'PUT /templates/{id}/content': LEADS,
  'GET /templates/{id}/versions': STAFF,
  'POST /templates/{id}/versions': LEADS,
  'GET /templates/{id}/difference': STAFF,
  'GET /templates/{id}/uses': STAFF,
  'POST /templates/{id}/archive': LEADS,
  'GET /templates/{id}/export': STAFF,
  'GET /engagements': STAFF,
  'POST /engagements': LEADS,
  'POST /engagements/in-steps': LEADS,
  'POST /engagements/preview': LEADS,
  'POST /engagements/{id}/accept': LEADS,
  'PATCH /engagements/{id}': LEADS,
  'POST /engagements/{id}/edit/preview': LEADS,
  'POST /engagements/{id}/drop': LEADS,
  'POST /engagements/{id}/reopen': LEADS,
  'POST /engagements/{id}/complete': LEADS,
  'POST /engagements/{id}/complete/preview': LEADS,
  'POST /engagements/{id}/rounds': STAFF,
  'POST /engagements/{id}/rounds/preview': STAFF,
  'GET /engagements/{id}/plan': CREW,
  'POST /engagements/{id}/tasks': STAFF,
  'POST /engagements/{id}/tasks/preview': STAFF,
  'POST /engagements/{id}/changes': STAFF,
  'POST /engagements/{id}/changes/preview': STAFF,
  'POST /engagements/{id}/baseline': LEADS,
  'POST /engagements/{id}/deliverables': STAFF,
  'DELETE /deliverables/{id}': STAFF,
  'POST /calendar/preview': LEADS,
  'GET /changes/{id}/followed': CREW,
  'POST /changes/{id}/undo': CREW,
  'GET /engagements/{id}/template-news': STAFF,
  'POST /engagements/{id}/template-news': LEADS,
  'POST /engagements/{id}/template-news/preview': LEADS,
  'POST /engagements/{id}/from-library': LEADS,
  'POST /engagements/{id}/from-library/preview': LEADS,
  'POST /engagements/{id}/template': LEADS,
  'GET /client/engagements': ['client'],
  'POST /tasks/query': CREW,
  'GET /tasks/{id}': CREW,
  'PATCH /tasks/{id}': CREW,
  'POST /tasks/{id}/preview': STAFF,
  'POST /tasks/{id}/steps': CREW,
  'PATCH /steps/{id}': CREW,
  'POST /tasks/{id}/time': CREW,
  'GET /time': CREW,
  'GET /time/crew': LEADS,
  'GET /time/export': CREW,
  'POST /time/closing': LEADS,
  'PATCH /time/{id}': CREW,
  'POST /time/{id}/remove': CREW,
  'GET /timer': CREW,
  'POST /timer': CREW,
  'POST /timer/pause': CREW,
  'POST /timer/stop': CREW,
  'POST /timer/restore': CREW,
  'DELETE /timer': CREW,
  'GET /custom-fields': CREW,
  'POST /custom-fields': LEADS,
  'PATCH /custom-fields/{id}': LEADS,
  'POST /files': CREW,
  'GET /files/{id}': CREW,
  'GET /handoffs': CREW,
  'GET /handoffs/{id}': CREW,
  'POST /handoffs/{id}/hand-off': CREW,
  'POST /handoffs/{id}/pick-up': CREW,
  'POST /handoffs/{id}/send-back': CREW,
  'POST /handoffs/{id}/give-on': CREW,
  'PATCH /gate-checks/{id}': CREW,
  'POST /rhythms/preview': STAFF,
  'POST /tasks/{id}/series': STAFF,
  'GET /task-series': STAFF,
  'GET /task-series/{id}': STAFF,
  'PATCH /task-series/{id}': STAFF,
  'POST /task-series/{id}/like': STAFF,
  'POST /task-series/{id}/stop': STAFF,
  'POST /task-series/{id}/resume': STAFF,
  'GET /series': STAFF,
  'POST /series': LEADS,
  'GET /series/{id}': STAFF,
  'PATCH /series/{id}': LEADS,
  'POST /series/{id}/rhythms/preview': LEADS,
  'POST /series/{id}/rhythms': LEADS,
  'POST /series/{id}/rhythms/cancel': LEADS,
  'POST /series/{id}/stop': LEADS,
  'POST /series/{id}/resume': LEADS,
  'GET /changes': ALL,
  'GET /workload': STAFF,
  'GET /engagements/{id}/forecast': STAFF,
  'POST /engagements/{id}/forecast': STAFF,
  'GET /templates/{id}/learned': STAFF,
  'POST /templates/{id}/learned': LEADS,
  'GET /week-plan': STAFF,
  'POST /week-plan/places': STAFF,
  'GET /workload/ease': STAFF,
  'POST /workload/try': LEADS,
  'POST /workload/changes/preview': STAFF,
  'POST /workload/changes': STAFF,
  'GET /tasks/{id}/who': STAFF,
  'GET /desk': CREW,
  'POST /desk/places': CREW,
  'POST /desk/places/restore': CREW,
  'POST /desk/places/remove': CREW,
  'POST /desk/seen': CREW,
};

const PEOPLE: readonly (readonly [Access, string])[] = [
  ['owner', 'Oona'],
  ['lead', 'Lena'],
  ['member', 'Mak'],
  ['freelancer', 'Fred'],
  ['client', 'Hal'],
];

let harness: Harness;
let callers: ReadonlyMap<Access, Caller>;
/** What the description of the API tells each access of. */
let described: ReadonlyMap<Access, readonly string[]>;

beforeAll(async () => {
  harness = await startHarness();
  const pairs: [Access, Caller][] = [];
  for (const [access, name] of PEOPLE) pairs.push([access, await harness.as(name)]);
  callers = new Map(pairs);
  await startSmall(callers.get('lead') as Caller, harness);
  described = new Map(await Promise.all(pairs.map(async ([access, caller]) => [access, await routesOf(caller)] as const)));
});
beforeEach(() => harness.forgetTries());
afterAll(() => harness.close());

async function routesOf(caller: Caller): Promise<string[]> {
  const { paths } = (await caller.get('/openapi.json').expect(200)).body as { paths: Record<string, Record<string, unknown>> };
  return Object.entries(paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => `${method.toUpperCase()} ${path.replace(/^\/api/, '')}`),
  );
}

/** Calls a route with an unknown id and no body: rights are checked before anything else. */
function callRoute(caller: Caller, route: string) {
  const [method, template] = route.split(' ') as [string, string];
  const path = template.replace('{id}', '00000000-0000-4000-8000-000000000000');
  if (path === '/changes') return openOnly(caller, path);
  if (method === 'GET') return caller.get(path);
  if (method === 'POST') return caller.post(path, {});
  if (method === 'PUT') return caller.put(path, {});
  return method === 'PATCH' ? caller.patch(path, {}) : caller.delete(path);
}

/** A stream never ends by itself: its status is what is asked for. */
function openOnly(caller: Caller, path: string) {
  return caller
    .get(path)
    .buffer(true)
    .parse((response, done) => {
      (response as unknown as { destroy: () => void }).destroy();
      done(null, {});
    });
}

test('every documented route is listed here with its rights, and none is missing from the document', () => {
  expect([...new Set([...described.values()].flat())].sort()).toEqual(Object.keys(ROUTES).sort());
});

test.each(PEOPLE.map(([access]) => access))('%s is told of the routes it may use, and of no other', (access) => {
  const allowed = Object.entries(ROUTES).filter(([, to]) => to === OPEN || to.includes(access));
  expect([...(described.get(access) ?? [])].sort()).toEqual(allowed.map(([route]) => route).sort());
});

test.each(Object.keys(ROUTES))('%s is refused to nobody-in-particular unless it is open', async (route) => {
  const { status, body } = await callRoute(harness.nobody, route);
  if (ROUTES[route] === OPEN)
    expect([401, 403]).not.toContain(['wrong-sign-in', 'wrong-secret'].includes((body as { code?: string }).code ?? '') ? 0 : status);
  else expect(status).toBe(401);
});

test.each(Object.keys(ROUTES).flatMap((route) => PEOPLE.map(([access]) => [route, access] as const)))('%s as %s', async (route, access) => {
  // Signing out would end the session the other cases use; it is tried below.
  if (route === 'DELETE /session') return;
  const allowed = ROUTES[route];
  const { status } = await callRoute(callers.get(access) as Caller, route);
  expect(status).toBeLessThan(500);
  if (allowed === OPEN || allowed?.includes(access)) expect(status).not.toBe(403);
  else expect(status).toBe(403);
});

describe('the table of rights', () => {
  const ACTIONS = Object.keys(RIGHTS) as Action[];

  test.each(ACTIONS.flatMap((action) => ACCESS.map((access) => [action, access] as const)))(
    '%s by %s reaches as far as it says',
    (action, access) => {
      const actor = { access, personId: 'me' };
      const reach = reachOf(actor, action);
      expect([
        can(actor, action),
        can(actor, action, of('me', 'you')),
        can(actor, action, of('you')),
        can(actor, action, of(null)),
      ]).toEqual({ all: [true, true, true, true], own: [true, true, false, false], none: [false, false, false, false] }[reach]);
      expect(can({ job: 'plan' }, action, of('you'))).toBe(true);
    },
  );

  test('each access of the crew may do at least what the next one may', () => {
    const order: readonly Access[] = ['owner', 'lead', 'member', 'freelancer'];
    const rank = { all: 2, own: 1, none: 0 };
    for (const action of ACTIONS.filter((known) => known !== 'client-page.read')) {
      const ranks = order.map((access) => rank[RIGHTS[action][access]]);
      expect([action, ranks]).toEqual([action, [...ranks].sort((left, right) => right - left)]);
    }
  });
});

/** What reaches only to one's own, tried on somebody else's and on one's own: what the member or freelancer is answered. */
const OWN: Readonly<Record<string, (world: OwnWorld) => readonly [theirs: Asked, own: Asked]>> = {
  'desk.read': ({ mak, dora }) => [{ path: `/desk?person=${dora}` }, { path: `/desk?person=${mak}` }],
  'desk.edit': ({ mak, dora, task }) => [
    { path: '/desk/places', body: { taskId: task, day: '2026-11-24', personId: dora } },
    { path: '/desk/places', body: { taskId: task, day: '2026-11-24', personId: mak } },
  ],
  'time.read': ({ mak, dora }) => [{ path: `/time?person=${dora}` }, { path: `/time?person=${mak}` }],
  'time.edit': ({ mak, dora, task }) => [
    { path: `/tasks/${task}/time`, body: { day: '2026-11-23', minutes: 5, personId: dora } },
    { path: `/tasks/${task}/time`, body: { day: '2026-11-23', minutes: 5, personId: mak } },
  ],
  'time-off.edit': ({ mak, dora }) => [
    { path: `/crew/${dora}/time-off`, body: { from: '2027-05-03', to: '2027-05-03' } },
    { path: `/crew/${mak}/time-off`, body: { from: '2027-05-03', to: '2027-05-03' } },
  ],
  'mailbox.read': () => [{ path: '/mail/boxes?address=dora@small.example' }, { path: '/mail/boxes?address=mak@small.example' }],
  'handoff.receive': ({ forDora, forMak }) => [
    { path: `/handoffs/${forDora}/send-back`, body: { version: 1, question: 'Which?' } },
    { path: `/handoffs/${forMak}/send-back`, body: { version: 1, question: 'Which?' } },
  ],
};

/** Tried as a freelancer, who does not see what is not their own. */
const SEEN = [
  'task.read',
  'task.work-on',
  'file.read',
  'history.read',
  'plan.undo',
  'time-off.read',
  'engagement.read',
  'engagement.read-plan',
  'handoff.read',
  'handoff.hand-off',
  'client-page.read',
];

interface Asked {
  readonly path: string;
  readonly body?: object;
}
interface OwnWorld {
  readonly mak: string;
  readonly dora: string;
  readonly task: string;
  readonly forDora: string;
  readonly forMak: string;
}

async function ownWorld(): Promise<OwnWorld> {
  const lead = callers.get('lead') as Caller;
  const [mak, dora] = [harness.ids.people['Mak'] as string, harness.ids.people['Dora'] as string];
  const started = async (receiverId: string): Promise<{ readonly handoff: string; readonly task: string }> => {
    const id = await startSmall(lead, harness, { name: `Own ${receiverId}` });
    const plan = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as {
      phases: { handoffId: string }[];
      tasks: { id: string; title: string }[];
    };
    const handoff = plan.phases[0]?.handoffId as string;
    await harness.database.rows(`UPDATE handoff SET state = 'handed-off', receiver_id = $2 WHERE id = $1`, [handoff, receiverId]);
    return { handoff, task: plan.tasks.find(({ title }) => title === 'Sketch')?.id as string };
  };
  const [forDora, forMak] = [await started(dora), await started(mak)];
  await lead.patch(`/tasks/${forMak.task}`, { version: 1, assigneeIds: [mak] }).expect(200);
  return { mak, dora, task: forMak.task, forDora: forDora.handoff, forMak: forMak.handoff };
}

test('what reaches only to one’s own is refused for others’ and done for one’s own', async () => {
  const partly = (Object.keys(RIGHTS) as Action[]).filter((action) => Object.values(RIGHTS[action]).includes('own'));
  expect([...partly].sort()).toEqual([...Object.keys(OWN), ...SEEN].sort());
  const world = await ownWorld();
  const mak = callers.get('member') as Caller;
  const ask = async ({ path, body }: Asked): Promise<number> => (await (body === undefined ? mak.get(path) : mak.post(path, body))).status;
  for (const [action, requests] of Object.entries(OWN)) {
    const [theirs, own] = requests(world);
    expect([action, await ask(theirs)]).toEqual([action, 403]);
    expect([action, (await ask(own)) < 300]).toEqual([action, true]);
  }
});

test('a change without the token of the session is refused', async () => {
  const { app } = harness;
  const { default: request } = await import('supertest');
  const agent = request.agent(app.getHttpServer());
  await agent.post('/api/session').send({ email: 'lena@small.example', password: 'harbour wall at noon' }).expect(204);
  const answer = await agent.post('/api/desk/seen').expect(403);
  expect(answer.body).toMatchObject({ code: 'stale-page' });
});

test('a sign-in sent from another site is refused', async () => {
  const answer = await harness.nobody
    .post('/session', { email: 'lena@small.example', password: 'harbour wall at noon' })
    .set('Origin', 'https://elsewhere.example');
  expect(answer.body).toMatchObject({ code: 'stale-page' });
});

test('a wrong password and an unknown address are told apart by nothing', async () => {
  const wrong = await harness.nobody.post('/session', { email: 'lena@small.example', password: 'x' }).expect(401);
  const unknown = await harness.nobody.post('/session', { email: 'nobody@small.example', password: 'x' }).expect(401);
  expect(unknown.body).toEqual(wrong.body);
});

test('signing out ends the session on the server', async () => {
  const caller = await harness.as('Mak');
  await caller.delete('/session').expect(204);
  await caller.get('/session').expect(401);
});

test('the demo’s one-click sign-in does not exist while the demo is off', async () => {
  const account = await harness.database.row<{ id: string }>('SELECT id FROM account LIMIT 1');
  await harness.nobody.post('/session/demo', { accountId: account?.id }).expect(404);
  expect((await harness.nobody.get('/session/demo').expect(200)).body).toEqual([]);
});

test('the description of the API wants a sign-in too', async () => {
  await harness.nobody.get('/openapi.json').expect(401);
  await harness.nobody.get('/docs').expect(401);
});

test('trying passwords is throttled', async () => {
  const answers = [];
  for (let tries = 0; tries < 14; tries++)
    answers.push((await harness.nobody.post('/session', { email: 'lena@small.example', password: 'x' })).status);
  expect(answers).toContain(429);
});
