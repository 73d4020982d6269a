import { ERRORS, type ErrorBody } from '@crew/contract';
import { startHarness, startSmall, type Caller, type Harness } from '../../test/harness.ts';

/** Each field of each body gets each of these, all else being right. */
const HOSTILE: readonly unknown[] = [
  null,
  '',
  ' ',
  '\u0000',
  'x'.repeat(30_000),
  -1,
  1.5,
  1e21,
  true,
  [],
  [null],
  {},
  '2026-02-30',
  '0000-00-00',
];
const UNKNOWN = '00000000-0000-4000-8000-000000000000';

let harness: Harness;
let lead: Caller;
/** What a route takes when all is well, with ids that exist. */
let bodies: Readonly<Record<string, { readonly path: string; readonly body: Readonly<Record<string, unknown>> }>>;
let documented: readonly string[];

beforeAll(async () => {
  harness = await startHarness();
  lead = await harness.as('Lena');
  const id = await startSmall(lead, harness);
  const plan = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as {
    tasks: { id: string; title: string }[];
    phases: { id: string; handoffId: string }[];
  };
  const task = plan.tasks.find(({ title }) => title === 'Sketch')?.id ?? '';
  const sheet = (await lead.get(`/tasks/${task}`).expect(200)).body as { steps: { id: string }[] };
  const [phase, handoff] = [plan.phases[0]?.id, plan.phases[0]?.handoffId];
  const check = await harness.database.row<{ id: string }>(`SELECT id FROM gate_check WHERE phase_id = $1 AND kind = 'word'`, [phase]);
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  const { template, client, people } = harness.ids;
  const planned = {
    templateId: template,
    start: '2026-12-01',
    promise: '2027-02-01',
    clientId: client,
    withoutPhases: [],
    withoutTasks: [],
    withoutDeliverables: [],
    roles: [{ roleId: role?.id, personId: null }],
  };
  const field = (await lead.post('/own-fields', { name: 'Size', kind: 'text' }).expect(201)).body as { id: string };
  const file = (await lead.post('/files').attach('file', Buffer.from('words'), 'words.txt').expect(201)).body as { id: string };
  const own = { ownFields: [{ fieldId: field.id, value: 'A2' }], links: [{ title: 'How', url: 'https://example.org' }] };
  const edit = {
    ...own,
    fileIds: [file.id],
    ...{ version: 1, title: 'Sketch', description: '', status: 'waiting', waitingOn: 'client', assigneeIds: [], fixedDay: '2026-12-01' },
    ...{
      days: 2,
      estimateMinutes: 60,
      priority: 'normal',
      isShownToClient: false,
      isChargeable: true,
      mayStartEarly: false,
      notBefore: null,
      after: [],
      deliverableId: null,
      labels: ['a'],
    },
    outside: { maker: 'M', turnaroundDays: 5, bufferDays: 2, neededOn: null, state: 'to-brief' },
  };
  await lead.post(`/tasks/${task}/time`, { day: '2026-11-23', minutes: 5 }).expect(201);
  const entry = (await harness.database.row<{ id: string }>('SELECT id FROM time_entry'))?.id ?? '';
  const ink = plan.tasks.find(({ title }) => title === 'Ink')?.id ?? '';
  const change = {
    ...{ ...edit, id: ink, version: 1, shiftDays: 1, phaseId: phase, parentId: null, beforeId: null, isDeleted: false },
    after: [{ taskId: task, type: 'FS', lag: 0 }],
  };
  const { content: kept } = (await lead.get(`/templates/${template}/content`).expect(200)).body as {
    content: { phases: { id: string }[]; tasks: object[] };
  };
  const [first, ...rest] = kept.tasks;
  const content = { ...kept, tasks: [{ ...first, ...own, files: [{ fileId: file.id, name: 'words.txt', bytes: 5 }] }, ...rest] };
  const exported = (await lead.get(`/templates/${template}/export`).expect(200)).body as object;
  const cut = plan.tasks.find(({ title }) => title === 'Cut')?.id ?? '';
  const weekly = { rule: 'FREQ=WEEKLY;BYDAY=MO', onClosed: 'after' };
  const begin = {
    ...{
      kind: 'line',
      name: 'Line',
      unitName: 'Unit {n}',
      clientId: client,
      contactId: UNKNOWN,
      templateId: template,
      firstDay: '2026-12-07',
    },
    ...{ ...weekly, each: 1, places: 'start', roles: planned.roles, retainerMinutes: null, carry: 'none', aheadDays: 7 },
  };
  const repeated = (await lead.post(`/tasks/${cut}/series`, weekly).expect(201)).body as { id: string };
  const { contactId: _, ...known } = begin;
  const line = (await lead.post('/series', known).expect(201)).body as { id: string };
  const taking = { templateId: template, phaseIds: [kept.phases[0]?.id], phaseId: phase };
  const about = { version: 1, name: 'E', promise: '2027-03-01', leadId: people['Lena'], contactId: UNKNOWN, likelihood: 100 };
  const fields = { access: 'member', roles: ['Maker'], week: [0, 0, 0, 0, 0, 0, 0] };
  bodies = {
    'POST /session': { path: '/session', body: { email: 'lena@small.example', password: 'x' } },
    'POST /session/demo': { path: '/session/demo', body: { accountId: UNKNOWN } },
    'POST /agency': {
      path: '/agency',
      body: { agencyName: 'A', name: 'N', email: 'a@small.example', password: 'harbour wall at noon', withExamples: false },
    },
    'POST /crew': { path: '/crew', body: { name: 'N', email: 'n@small.example', password: 'harbour wall at noon', ...fields } },
    'PATCH /crew/{id}': { path: `/crew/${people['Mak']}`, body: { version: 1, name: 'Mak Reyes', isActive: true, ...fields } },
    'POST /clients': { path: '/clients', body: { name: 'C', hue: 'blue' } },
    'POST /engagements': { path: '/engagements', body: { ...planned, name: 'E', contactId: UNKNOWN, likelihood: 100 } },
    'POST /engagements/in-steps': {
      path: '/engagements/in-steps',
      body: { ...planned, name: 'E', contactId: UNKNOWN, likelihood: 100 },
    },
    'POST /engagements/preview': { path: '/engagements/preview', body: planned },
    'PATCH /engagements/{id}': { path: `/engagements/${id}`, body: about },
    'POST /engagements/{id}/edit/preview': { path: `/engagements/${id}/edit/preview`, body: about },
    'POST /engagements/{id}/drop': { path: `/engagements/${id}/drop`, body: { version: 1, reason: 'No' } },
    'POST /engagements/{id}/take-up': { path: `/engagements/${id}/take-up`, body: { version: 1 } },
    'POST /engagements/{id}/tasks': {
      path: `/engagements/${id}/tasks`,
      body: { phaseId: phase, parentId: ink, title: 'T', days: 1, estimateMinutes: 60 },
    },
    'POST /engagements/{id}/changes': { path: `/engagements/${id}/changes`, body: { tasks: [change] } },
    'POST /engagements/{id}/changes/preview': { path: `/engagements/${id}/changes/preview`, body: { tasks: [change] } },
    'POST /engagements/{id}/deliverables': { path: `/engagements/${id}/deliverables`, body: { name: 'D' } },
    'PATCH /calendar': { path: '/calendar', body: { week: [480, 480, 480, 480, 480, 0, 0] } },
    'POST /calendar/closed-days': { path: '/calendar/closed-days', body: { days: [{ day: '2027-05-03', name: 'Spring' }] } },
    'POST /calendar/import': { path: '/calendar/import', body: { text: 'BEGIN:VCALENDAR', isTrial: true } },
    'POST /crew/{id}/time-off': {
      path: `/crew/${people['Mak']}/time-off`,
      body: { from: '2027-05-03', to: '2027-05-04', minutes: 60, note: '' },
    },
    'POST /crew/{id}/time-off/import': { path: `/crew/${people['Mak']}/time-off/import`, body: { text: 'BEGIN:VCALENDAR', isTrial: true } },
    'POST /templates': { path: '/templates', body: { name: 'T', kind: 'engagement', copyOf: template } },
    'POST /templates/import': { path: '/templates/import', body: { file: exported, isTrial: true } },
    'PUT /templates/{id}/content': { path: `/templates/${template}/content`, body: { revision: 1, content } },
    'POST /templates/{id}/versions': { path: `/templates/${template}/versions`, body: { revision: 1, note: 'n' } },
    'POST /templates/{id}/archive': { path: `/templates/${template}/archive`, body: { isArchived: false } },
    'POST /engagements/{id}/template-news': { path: `/engagements/${id}/template-news`, body: { ids: ['x'] } },
    'POST /engagements/{id}/from-library': { path: `/engagements/${id}/from-library`, body: taking },
    'POST /engagements/{id}/from-library/preview': { path: `/engagements/${id}/from-library/preview`, body: taking },
    'POST /engagements/{id}/template-news/preview': { path: `/engagements/${id}/template-news/preview`, body: { ids: ['x'] } },
    'POST /engagements/{id}/template': {
      path: `/engagements/${id}/template`,
      body: { name: 'From Quay', phaseId: phase, taskId: task, measure: 'real' },
    },
    'POST /workload/changes': {
      path: '/workload/changes',
      body: { parts: [{ engagementId: id, tasks: [{ id: task, version: 1, days: 2 }] }] },
    },
    'POST /workload/changes/preview': {
      path: '/workload/changes/preview',
      body: { parts: [{ engagementId: id, tasks: [{ id: task, version: 1, days: 2 }] }] },
    },
    'POST /templates/{id}/learned': { path: `/templates/${template}/learned`, body: { revision: 1, proposals: ['effort x'], note: 'n' } },
    'POST /workload/try': {
      path: '/workload/try',
      body: { templateId: template, start: '2026-12-07', roles: planned.roles, likelihood: 50, from: '2026-11-23', to: '2026-12-13' },
    },
    'POST /rules/preview': { path: '/rules/preview', body: { ...weekly, from: '2026-12-07' } },
    'POST /tasks/{id}/series': { path: `/tasks/${ink}/series`, body: { ...weekly, whenMissed: 'keep', isPhaseOnly: true } },
    'PATCH /task-series/{id}': {
      path: `/task-series/${repeated.id}`,
      body: { version: 1, ...weekly, from: '2026-12-14', whenMissed: 'keep', skipped: ['2026-12-07'], extra: ['2026-12-08'] },
    },
    'POST /task-series/{id}/like': { path: `/task-series/${repeated.id}/like`, body: { version: 1, taskId: cut } },
    'POST /task-series/{id}/stop': { path: `/task-series/${repeated.id}/stop`, body: { version: 9, from: '2027-01-01' } },
    'POST /task-series/{id}/resume': { path: `/task-series/${repeated.id}/resume`, body: { version: 9 } },
    'POST /series': { path: '/series', body: begin },
    'PATCH /series/{id}': {
      path: `/series/${line.id}`,
      body: {
        ...{ version: 9, name: 'Line', unitName: 'Unit {n}', roles: planned.roles, onClosed: 'after', retainerMinutes: null, carry: 'all' },
        ...{ aheadDays: 7, skipped: ['2026-12-07'], extra: ['2026-12-08'] },
      },
    },
    'POST /series/{id}/rhythms/preview': {
      path: `/series/${line.id}/rhythms/preview`,
      body: { from: '2026-12-14', rule: weekly.rule, each: 2, shownFrom: '2026-11-23', shownTo: '2026-12-13' },
    },
    'POST /series/{id}/rhythms': {
      path: `/series/${line.id}/rhythms`,
      body: { version: 9, from: '2026-12-14', rule: weekly.rule, each: 2 },
    },
    'POST /series/{id}/rhythms/take-back': { path: `/series/${line.id}/rhythms/take-back`, body: { version: 9, from: '2026-12-14' } },
    'POST /series/{id}/stop': { path: `/series/${line.id}/stop`, body: { version: 9, from: '2027-01-01' } },
    'POST /series/{id}/resume': { path: `/series/${line.id}/resume`, body: { version: 9 } },
    'POST /queue/places': { path: '/queue/places', body: { tasks: [{ taskId: ink, week: null, carried: 0 }] } },
    'POST /desk/places': {
      path: '/desk/places',
      body: { taskId: ink, day: '2026-11-24', fromDay: '2026-11-23', minutes: 60, beforeTaskId: null, personId: people['Dora'] },
    },
    'POST /desk/places/remove': { path: '/desk/places/remove', body: { taskId: ink, day: '2026-11-24', personId: people['Dora'] } },
    'POST /timer': { path: '/timer', body: { taskId: task } },
    'POST /timer/stop': { path: '/timer/stop', body: { minutes: 5, note: '' } },
    'POST /own-fields': { path: '/own-fields', body: { name: 'Sheet', kind: 'choice', choices: ['A1', 'A2'] } },
    'PATCH /own-fields/{id}': { path: `/own-fields/${field.id}`, body: { name: 'Size', choices: [], isRetired: false } },
    'PATCH /tasks/{id}': { path: `/tasks/${task}`, body: edit },
    'POST /tasks/{id}/preview': { path: `/tasks/${task}/preview`, body: edit },
    'POST /tasks/{id}/steps': { path: `/tasks/${task}/steps`, body: { title: 'S' } },
    'PATCH /steps/{id}': { path: `/steps/${sheet.steps[0]?.id}`, body: { isDone: false } },
    'POST /tasks/{id}/time': {
      path: `/tasks/${task}/time`,
      body: {
        day: '2026-11-23',
        minutes: 5,
        note: '',
        startMinute: 540,
        isChargeable: true,
        reason: 'r',
        personId: people['Mak'],
      },
    },
    'PATCH /time/{id}': {
      path: `/time/${entry}`,
      body: {
        version: 1,
        taskId: task,
        day: '2026-11-23',
        minutes: 5,
        note: '',
        startMinute: 540,
        isChargeable: true,
        reason: 'r',
      },
    },
    'POST /time/{id}/remove': { path: `/time/${entry}/remove`, body: { version: 1, reason: 'r' } },
    'POST /time/closing': { path: '/time/closing', body: { through: null } },
    'POST /handoffs/{id}/hand-off': {
      path: `/handoffs/${handoff}/hand-off`,
      body: { version: 9, receiverId: people['Mak'], words: '', reason: 'r' },
    },
    'POST /handoffs/{id}/pick-up': { path: `/handoffs/${handoff}/pick-up`, body: { version: 9 } },
    'POST /handoffs/{id}/send-back': { path: `/handoffs/${handoff}/send-back`, body: { version: 9, question: 'q' } },
    'POST /handoffs/{id}/give-on': { path: `/handoffs/${handoff}/give-on`, body: { version: 9, receiverId: people['Mak'] } },
    'PATCH /gate-checks/{id}': { path: `/gate-checks/${check?.id}`, body: { isClear: false } },
  };
  const document = (await lead.get('/openapi.json').expect(200)).body as {
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

function send(route: string, path: string, body: object) {
  if (route.startsWith('PUT')) return lead.put(path, body);
  return route.startsWith('PATCH') ? lead.patch(path, body) : lead.post(path, body);
}

/** A refusal is one of the known ones, in a sentence, and never a fault of ours. */
function expectSentence(status: number, body: ErrorBody, what: string): void {
  if (status < 400) return;
  expect({ what, status, known: body.code in ERRORS, isSentence: /^[A-Z“"].*[.?]$/s.test(body.message) }).toEqual({
    ...{ what, known: true, isSentence: true },
    status: ERRORS[body.code].status,
  });
  expect({ what, code: body.code }).not.toEqual({ what, code: 'internal-fault' });
}

type Placed = readonly [field: string, withValue: (value: unknown) => object];

/** Every field of a body, those of the objects within it too, with a way to put something else there. */
function placesIn(body: Readonly<Record<string, unknown>>): Placed[] {
  return Object.entries(body).flatMap(([field, inside]): Placed[] => {
    const here: Placed = [field, (value) => ({ ...body, [field]: value })];
    const isList = Array.isArray(inside);
    const object: unknown = isList ? inside[0] : inside;
    if (typeof object !== 'object' || object === null) return [here];
    const deeper = placesIn(object as Record<string, unknown>).map(([name, withValue]): Placed => {
      return [`${field}.${name}`, (value) => ({ ...body, [field]: isList ? [withValue(value)] : withValue(value) })];
    });
    return [here, ...deeper];
  });
}

test('every route that takes a body is tried here', () => {
  expect(Object.keys(bodies).sort()).toEqual([...documented].sort());
});

test('whatever stands in a field, the answer is a sentence and never a fault of ours', async () => {
  for (const [route, { path, body }] of Object.entries(bodies)) {
    for (const [field, withValue] of placesIn(body)) {
      for (const value of HOSTILE) {
        harness.forgetTries();
        const answer = await send(route, path, withValue(value));
        expectSentence(answer.status, answer.body as ErrorBody, `${route} with ${field} = ${JSON.stringify(value).slice(0, 40)}`);
      }
    }
  }
}, 600_000);

test('a field that is left out is missed in a sentence, or is not needed', async () => {
  for (const [route, { path, body }] of Object.entries(bodies)) {
    for (const field of Object.keys(body)) {
      harness.forgetTries();
      const answer = await send(route, path, Object.fromEntries(Object.entries(body).filter(([name]) => name !== field)));
      expectSentence(answer.status, answer.body as ErrorBody, `${route} without ${field}`);
    }
  }
});

test('a field that nobody knows is refused by its name', async () => {
  for (const [route, { path, body }] of Object.entries(bodies)) {
    harness.forgetTries();
    const answer = await send(route, path, { ...body, colour: 'petrol' });
    expect([route, answer.status, (answer.body as ErrorBody).field]).toEqual([route, 400, 'colour']);
  }
});

test.each([
  ['no JSON', '{"version":'],
  ['a list', '[]'],
  ['a word', '"version"'],
])('a body that is %s is refused', async (_what, text) => {
  const answer = await lead
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
