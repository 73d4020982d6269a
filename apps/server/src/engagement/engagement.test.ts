import type { EngagementPlan, PlanTask, TaskSheet } from '@crew/contract';
import { historyOf, startHarness, startSmall, type Caller, type Harness } from '../../test/harness.ts';

let harness: Harness;
let lead: Caller;

beforeAll(async () => {
  harness = await startHarness();
  lead = await harness.as('Lena');
});
afterAll(() => harness.close());

const planOf = async (id: string, caller: Caller = lead): Promise<EngagementPlan> =>
  (await caller.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const taskOf = (plan: EngagementPlan, title: string): PlanTask => plan.tasks.find((task) => task.title === title) as PlanTask;
const counts = () =>
  harness.database.row<{ engagements: number; tasks: number }>(
    'SELECT (SELECT count(*)::int FROM engagement) AS engagements, (SELECT count(*)::int FROM task) AS tasks',
  );

describe('starting an engagement', () => {
  test('schedules tasks on working days, skips the closed Friday, gives them to people of the role', async () => {
    const plan = await planOf(await startSmall(lead, harness));
    expect(plan.tasks.map((task) => [task.title, task.start, task.due])).toEqual([
      ['Sketch', '2026-11-23', '2026-11-24'],
      ['Ink', '2026-11-25', '2026-11-30'],
      ['Client looks', '2026-12-01', '2026-12-02'],
      ['Cut', '2026-12-03', '2026-12-03'],
      ['Paint', '2026-12-04', '2026-12-07'],
    ]);
    expect(plan.engagement.finish).toBe('2026-12-07');
    expect(taskOf(plan, 'Client looks').assignees).toEqual([]);
    expect(taskOf(plan, 'Cut').assignees).toHaveLength(1);
    expect(plan.phases.map((phase) => phase.state)).toEqual(['running', 'ahead']);
  });

  test('back from a promise starts as late as still keeps it', async () => {
    const id = await startSmall(lead, harness, { start: undefined, promise: '2026-12-18' });
    const plan = await planOf(id);
    expect(plan.engagement.finish).toBe('2026-12-18');
    expect(plan.engagement.promise).toBe('2026-12-18');
  });

  test('leaves out phases and tasks and dependencies over the gap', async () => {
    const preview = await lead.post('/engagements/preview', { templateId: harness.ids.template, start: '2026-11-23' }).expect(201);
    const body = preview.body as { tasks: { id: string; title: string }[]; phases: { id: string; name: string }[] };
    const ink = body.tasks.find((task) => task.title === 'Ink') as { id: string };
    const plan = await planOf(await startSmall(lead, harness, { withoutTasks: [ink.id] }));
    expect(plan.tasks.map((task) => task.title)).toEqual(['Sketch', 'Client looks', 'Cut', 'Paint']);
    const draw = body.phases.find((phase) => phase.name === 'Draw') as { id: string };
    const make = await planOf(await startSmall(lead, harness, { withoutPhases: [draw.id] }));
    expect(make.phases.map((phase) => [phase.name, phase.state])).toEqual([['Make', 'running']]);
  });

  test.each<[string, object, string, string]>([
    ['a day that does not exist', { start: '2026-02-30' }, 'invalid-input', 'start'],
    ['no name', { name: '  ' }, 'invalid-input', 'name'],
    ['an unknown template', { templateId: '00000000-0000-4000-8000-000000000000' }, 'not-found', ''],
    ['an unknown client', { clientId: '00000000-0000-4000-8000-000000000000' }, 'unknown-id', 'clientId'],
    ['a field nobody knows', { colour: 'red' }, 'invalid-input', 'colour'],
    ['an id that is none', { templateId: 'gallery' }, 'invalid-input', 'templateId'],
    [
      'a person who is not of the crew',
      { roles: [{ roleId: 'ROLE', personId: '00000000-0000-4000-8000-000000000000' }] },
      'unknown-id',
      'roles',
    ],
    ['neither a start nor a promise', { start: undefined }, 'invalid-input', 'start'],
  ])('%s is refused with a sentence and writes nothing', async (_name, wrong, code, field) => {
    const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Drawer'`);
    const before = await counts();
    const body = { templateId: harness.ids.template, clientId: harness.ids.client, name: 'Wrong', start: '2026-11-23', ...wrong };
    const answer = await lead.post('/engagements', JSON.parse(JSON.stringify(body).replace('ROLE', role?.id ?? '')) as object);
    expect(answer.status).toBeLessThan(500);
    expect(answer.body).toMatchObject({
      code,
      ...(field === '' ? {} : { field }),
      message: expect.stringMatching(/^[A-Z“].*[.?]$/) as string,
    });
    expect(await counts()).toEqual(before);
  });

  test('a contact of another client is refused', async () => {
    const contact = await harness.database.row<{ id: string }>(`SELECT id FROM contact WHERE name = 'Mia Stone'`);
    const answer = await lead.post('/engagements', {
      templateId: harness.ids.template,
      clientId: harness.ids.client,
      name: 'X',
      start: '2026-11-23',
      contactId: contact?.id,
    });
    expect(answer.body).toMatchObject({ code: 'unknown-id', field: 'contactId' });
  });
});

describe('editing a task in place', () => {
  test('a longer task moves what follows, the finish and the load; the preview says so and saves nothing', async () => {
    const id = await startSmall(lead, harness);
    const sketch = taskOf(await planOf(id), 'Sketch');
    const preview = await lead.post(`/tasks/${sketch.id}/preview`, { version: sketch.version, days: 4 }).expect(200);
    expect(preview.body).toMatchObject({ finish: { from: '2026-12-07', to: '2026-12-09' } });
    expect(taskOf(await planOf(id), 'Sketch').days).toBe(2);
    const edited = await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, days: 4 }).expect(200);
    expect((edited.body as { effect: { moves: unknown[] } }).effect.moves).toHaveLength(5);
    const plan = await planOf(id);
    expect(taskOf(plan, 'Ink')).toMatchObject({ start: '2026-11-30', due: '2026-12-02' });
    expect(plan.engagement.finish).toBe('2026-12-09');
  });

  test('doing work raises the percent by its effort', async () => {
    const id = await startSmall(lead, harness);
    const sketch = taskOf(await planOf(id), 'Sketch');
    await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, status: 'done' }).expect(200);
    // 8 h of 8 + 16 + 8 + 8 h, and the client's task counts the lower middle of those, 8 h.
    expect((await planOf(id)).engagement.percent).toBe(16);
    await harness.settle();
    expect(taskOf(await planOf(id), 'Ink').openPredecessors).toBe(0);
  });

  test('steps count towards the percent and time towards what is logged', async () => {
    const id = await startSmall(lead, harness);
    const sketch = taskOf(await planOf(id), 'Sketch');
    const sheet = (await lead.get(`/tasks/${sketch.id}`).expect(200)).body as TaskSheet;
    await lead.patch(`/steps/${sheet.steps[0]?.id}`, { isDone: true }).expect(200);
    await lead.post(`/tasks/${sketch.id}/time`, { day: '2026-11-23', minutes: 90 }).expect(201);
    const plan = await planOf(id);
    expect(plan.engagement).toMatchObject({ percent: 8, loggedMinutes: 90 });
    await lead.post(`/tasks/${sketch.id}/time`, { day: '2026-11-24', minutes: 90 }).expect(400);
  });

  test('a stale version changes nothing and shows what is there now', async () => {
    const id = await startSmall(lead, harness);
    const sketch = taskOf(await planOf(id), 'Sketch');
    const other = await harness.as('Dora');
    await other.patch(`/tasks/${sketch.id}`, { version: sketch.version, estimateMinutes: 600 }).expect(200);
    const refused = await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, estimateMinutes: 60 }).expect(409);
    expect(refused.body).toMatchObject({
      code: 'changed-meanwhile',
      details: { current: { estimateMinutes: 600, version: sketch.version + 1 } },
    });
    expect(taskOf(await planOf(id), 'Sketch').estimateMinutes).toBe(600);
  });

  test('of two edits at the same moment exactly one wins', async () => {
    const id = await startSmall(lead, harness);
    const sketch = taskOf(await planOf(id), 'Sketch');
    const answers = await Promise.all(
      [30, 60, 90].map((estimateMinutes) => lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, estimateMinutes })),
    );
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409, 409]);
  });

  test('a kept day is never moved and says by how much the plan misses it', async () => {
    const id = await startSmall(lead, harness);
    const ink = taskOf(await planOf(id), 'Ink');
    await lead.patch(`/tasks/${ink.id}`, { version: ink.version, fixedDay: '2026-11-24' }).expect(200);
    expect(taskOf(await planOf(id), 'Ink')).toMatchObject({ start: '2026-11-24', missedDays: 1 });
  });

  test('what is overdue stays overdue when something else changes', async () => {
    const id = await startSmall(lead, harness, { start: '2026-11-02' });
    const plan = await planOf(id);
    const sketch = taskOf(plan, 'Sketch');
    expect(sketch.due).toBe('2026-11-03');
    await lead.post(`/engagements/${id}/tasks`, { phaseId: sketch.phaseId, title: 'Something else' }).expect(201);
    const after = await planOf(id);
    expect(taskOf(after, 'Sketch').due).toBe('2026-11-03');
    expect(after.engagement.overdue).toBeGreaterThan(0);
    expect(after.engagement.finish > '2026-12-01').toBe(true);
  });

  test('reopening is counted and every change is kept with who, from and to', async () => {
    const id = await startSmall(lead, harness);
    const sketch = taskOf(await planOf(id), 'Sketch');
    await lead.patch(`/tasks/${sketch.id}`, { version: 1, status: 'done' }).expect(200);
    await lead.patch(`/tasks/${sketch.id}`, { version: 2, status: 'active' }).expect(200);
    const row = await harness.database.row<{ reopened: number }>('SELECT reopened FROM task WHERE id = $1', [sketch.id]);
    expect(row?.reopened).toBe(1);
    expect((await historyOf(lead, sketch.id))[0]).toMatchObject({
      kind: 'task-status-changed',
      by: { kind: 'person', name: 'Lena Park' },
      changes: expect.arrayContaining([{ field: 'status', from: 'done', to: 'active' }]) as unknown,
    });
  });
});

describe('who sees what', () => {
  test('a freelancer sees and changes own tasks only, and only their status', async () => {
    const id = await startSmall(lead, harness);
    const plan = await planOf(id);
    const [sketch, ink] = [taskOf(plan, 'Sketch'), taskOf(plan, 'Ink')];
    await lead.patch(`/tasks/${sketch.id}`, { version: 1, assigneeIds: [harness.ids.people['Fred']] }).expect(200);
    await lead.patch(`/tasks/${ink.id}`, { version: 1, assigneeIds: [harness.ids.people['Dora']] }).expect(200);
    const fred = await harness.as('Fred');
    await fred.get(`/tasks/${sketch.id}`).expect(200);
    await fred.get(`/tasks/${ink.id}`).expect(404);
    const { version } = taskOf(await planOf(id), 'Sketch');
    await fred.patch(`/tasks/${sketch.id}`, { version, estimateMinutes: 5 }).expect(403);
    await fred.patch(`/tasks/${sketch.id}`, { version, status: 'active' }).expect(200);
    await fred.patch(`/tasks/${ink.id}`, { version, status: 'active' }).expect(404);
  });

  test('a client gets its own engagements and only what is marked for it', async () => {
    await startSmall(lead, harness, { clientId: harness.ids.otherClient, name: 'Of another client' });
    const hal = await harness.as('Hal');
    const answer = await hal.get('/client/engagements').expect(200);
    const seen = answer.body as { name: string; tasks: { title: string }[] }[];
    expect(seen.length).toBeGreaterThan(0);
    expect(seen.map((engagement) => engagement.name)).not.toContain('Of another client');
    expect(new Set(seen.flatMap((engagement) => engagement.tasks.map((task) => task.title)))).toEqual(new Set(['Client looks']));
  });
});
