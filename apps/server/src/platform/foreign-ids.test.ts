import type { ErrorBody, TaskPage } from '@crew/contract';
import { everyBody, sendTo, UNKNOWN, type Body } from '../../test/every-body.ts';
import { makeForeignWorld, type ForeignWorld } from '../../test/foreign-world.ts';
import { testWorld } from '../../test/harness.ts';

/* Ids of another agency, in addresses, queries and bodies: as good as ids of nothing, wherever they stand. */

const { harness, lead } = testWorld();
let bodies: Readonly<Record<string, Body>>;
let foreign: ForeignWorld;

beforeAll(async () => {
  bodies = await everyBody(harness, lead);
  await lead.post(`/crew/${harness.ids.people['Mak']}/time-off`, { from: '2027-05-03', to: '2027-05-04' }).expect(201);
  const { id } = (await lead.get('/engagements').expect(200)).body[0] as { id: string };
  await lead.post(`/engagements/${id}/deliverables`, { name: 'Panels' }).expect(201);
  const contact = await harness.database.row<{ id: string }>('SELECT id FROM contact WHERE client_id = $1', [harness.ids.client]);
  foreign = await makeForeignWorld(harness);
  // As they are now: the real contact in place of an id of nothing, and the versions there are.
  const text = JSON.stringify(bodies).replaceAll(`"contactId":"${UNKNOWN}"`, `"contactId":"${contact?.id}"`);
  bodies = JSON.parse(text.replaceAll('"version":9', '"version":1')) as typeof bodies;
});

/** Every place of a value in a body, as a path, that holds an id of ours. */
function placesOf(value: unknown, path: readonly (string | number)[] = []): readonly (readonly (string | number)[])[] {
  if (typeof value === 'string') return foreign.insteadOf(value) === undefined ? [] : [path];
  if (value === null || typeof value !== 'object') return [];
  return Object.entries(value).flatMap(([key, part]) => placesOf(part, [...path, Array.isArray(value) ? Number(key) : key]));
}

function withForeign(body: unknown, path: readonly (string | number)[]): unknown {
  const copy = structuredClone(body) as Record<string | number, unknown>;
  const last = path.at(-1) as string | number;
  const holder = path.slice(0, -1).reduce<Record<string | number, unknown>>((at, key) => at[key] as typeof copy, copy);
  holder[last] = foreign.insteadOf(holder[last] as string);
  return copy;
}

/** What a template's own document names inside itself is an id of its own making, not of ours. */
const OWN_DOCUMENT = ['PUT /templates/{id}/content', 'POST /templates/import'];

const GIVE_ON = 'POST /handoffs/{id}/give-on';
/** A filter that names what is not there finds nothing; see below. */
const FILTER = 'POST /tasks/query';

test('an id of another agency in a body is refused as one that is not there', async () => {
  const wrong: string[] = [];
  let tried = 0;
  for (const [route, { path, body }] of Object.entries(bodies)) {
    // Who receives it is looked at once it was handed off; see below.
    if (route.startsWith('POST /session') || ['POST /agency', GIVE_ON, FILTER].includes(route)) continue;
    for (const place of placesOf(body)) {
      if (
        OWN_DOCUMENT.includes(route) &&
        place.at(-1) !== 'fieldId' &&
        place.at(-1) !== 'fileId' &&
        !String(place.at(-1)).match(/roleId|personId/)
      )
        continue;
      harness.forgetTries();
      const answer = await sendTo(lead, { route, path }, withForeign(body, place) as object);
      tried++;
      const { code } = answer.body as ErrorBody;
      if (!['unknown-id', 'not-found'].includes(code)) wrong.push(`${route} ${place.join('.')}: ${answer.status} ${code ?? 'taken'}`);
    }
  }
  expect(wrong).toEqual([]);
  expect(tried).toBeGreaterThan(60);
});

test('a thing of another agency has no address here', async () => {
  const wrong: string[] = [];
  let tried = 0;
  for (const [route, { path, body }] of Object.entries(bodies)) {
    const ours = /[0-9a-f]{8}-[0-9a-f-]{27}/.exec(path)?.[0];
    const theirs = ours === undefined ? undefined : foreign.insteadOf(ours);
    if (ours === undefined || theirs === undefined) continue;
    harness.forgetTries();
    const answer = await sendTo(lead, { route, path: path.replace(ours, theirs) }, body);
    tried++;
    if (answer.status !== 404) wrong.push(`${route}: ${answer.status} ${(answer.body as ErrorBody).code ?? 'taken'}`);
  }
  expect(wrong).toEqual([]);
  expect(tried).toBeGreaterThan(30);
});

test('reading what another agency has finds nothing', async () => {
  const id = (table: Parameters<ForeignWorld['ids']['get']>[0]): string => foreign.ids.get(table) ?? '';
  const paths = [
    ...[
      `/engagements/${id('engagement')}/plan`,
      `/engagements/${id('engagement')}/forecast`,
      `/engagements/${id('engagement')}/template-news`,
    ],
    ...[`/tasks/${id('task')}`, `/tasks/${id('task')}/who`, `/handoffs/${id('handoff')}`, `/files/${id('file')}`],
    ...[
      `/series/${id('engagement_series')}`,
      `/task-series/${id('task_series')}`,
      `/desk?person=${id('person')}`,
      `/time?person=${id('person')}`,
    ],
    ...[`/templates/${id('template')}`, `/templates/${id('template')}/content`, `/templates/${id('template')}/versions`],
    ...[`/templates/${id('template')}/uses`, `/templates/${id('template')}/export`, `/templates/${id('template')}/learned`],
    ...[`/templates/${id('template')}/difference?from=1&to=working`, `/workload/ease?person=${id('person')}`],
  ];
  const wrong: string[] = [];
  for (const path of paths) {
    const { status } = await lead.get(path);
    if (status !== 404) wrong.push(`${path}: ${status}`);
  }
  expect(wrong).toEqual([]);
  const empty = [`/history?subject=task&id=${id('task')}`, `/history?engagement=${id('engagement')}`, `/history?person=${id('person')}`];
  for (const path of empty) expect((await lead.get(path).expect(200)).body).toMatchObject({ lines: [] });
  expect((await lead.get(`/engagements?role=${id('role')}`).expect(200)).body).toEqual([]);
  const filters = {
    ids: 'task',
    engagementIds: 'engagement',
    clientIds: 'client',
    phaseIds: 'phase',
    assigneeIds: 'person',
    roleIds: 'role',
  } as const;
  for (const [field, table] of Object.entries(filters)) {
    const page = (await lead.post('/tasks/query', { filter: { [field]: [id(table)] }, groupBy: 'engagement' }).expect(200))
      .body as TaskPage;
    expect([field, page.rows, page.sums.count, page.groups]).toEqual([field, [], 0, []]);
  }
  const removing = [`/time-off/${id('time_off')}`, `/deliverables/${id('deliverable')}`];
  for (const path of removing) await lead.delete(path).expect(404);
});

test('a handoff is not passed on to somebody of another agency', async () => {
  const { path, body } = bodies[GIVE_ON] as Body;
  await harness.database.rows(`UPDATE handoff SET state = 'handed-off', receiver_id = $1`, [harness.ids.people['Mak']]);
  const { status, body: refused } = await sendTo(lead, { route: GIVE_ON, path }, withForeign(body, ['receiverId']) as object);
  expect([status, (refused as ErrorBody).code]).toEqual([400, 'unknown-id']);
});
