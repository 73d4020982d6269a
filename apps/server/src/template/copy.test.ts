import type { TemplateTask } from '@crew/core';
import type { DryRun, EngagementPlan, PlanTask, StartLine, TaskSheet, TemplateContentView, TemplateNews } from '@crew/contract';
import { startSmall, testWorld, TODAY } from '../../test/harness.ts';

const { harness, lead } = testWorld();

const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const find = (plan: EngagementPlan, title: string): PlanTask => plan.tasks.find((task) => task.title === title) as PlanTask;
const sheet = async (id: string): Promise<TaskSheet> => (await lead.get(`/tasks/${id}`).expect(200)).body as TaskSheet;
const edit = async (id: string, change: object): Promise<void> => {
  const { version } = await sheet(id);
  await lead.patch(`/tasks/${id}`, { version, ...change }).expect(200);
};
const basis = (copyOf: string, more: object = {}) => ({ copyOf, start: '2027-02-01', clientId: harness.ids.otherClient, ...more });
async function copied(id: string, more: object = {}): Promise<EngagementPlan> {
  const answer = await lead.post('/engagements', { ...basis(id, more), name: 'Mill panels' });
  if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
  const { body } = answer;
  return planOf((body as { id: string }).id);
}

describe('a copy of an engagement', () => {
  test('has what was planned, dependencies, steps, web links and labels, on days of its own', async () => {
    const id = await startSmall(lead, harness);
    const ink = find(await planOf(id), 'Ink');
    await edit(ink.id, { days: 4, labels: ['blue'], pageLinks: [{ title: 'How', url: 'https://example.org' }], priority: 'high' });
    await lead
      .post(`/engagements/${id}/tasks`, { phaseId: ink.phaseId, title: 'Letter the back', days: 1, estimateMinutes: 90 })
      .expect(201);
    const copy = await copied(id);
    expect(copy.engagement.client.name).toBe('Mill House');
    expect(copy.tasks.map((task) => [task.title, task.days, task.status])).toEqual(
      (await planOf(id)).tasks.map((task) => [task.title, task.days, 'queued']),
    );
    expect(find(copy, 'Ink')).toMatchObject({ labels: ['blue'], priority: 'high', after: [{ type: 'FS' }] });
    expect((await sheet(find(copy, 'Ink').id)).pageLinks).toEqual([{ title: 'How', url: 'https://example.org' }]);
    expect((await sheet(find(copy, 'Sketch').id)).steps.map((step) => [step.title, step.isDone])).toEqual([
      ['Front', false],
      ['Back', false],
    ]);
    expect(find(copy, 'Sketch').start).toBe('2027-02-01');
  });

  test('leaves out what was dropped, and what was done is to be done again', async () => {
    const id = await startSmall(lead, harness);
    const plan = await planOf(id);
    await edit(find(plan, 'Sketch').id, { status: 'done' });
    await edit(find(plan, 'Client looks').id, { status: 'dropped' });
    const copy = await copied(id);
    expect(copy.tasks.map((task) => task.title)).toEqual(['Sketch', 'Ink', 'Cut', 'Paint']);
    expect(copy.phases.map((phase) => phase.state)).toEqual(['running', 'ahead']);
  });

  test('goes to the same people, those who stood in for somebody too', async () => {
    const { people } = harness.ids;
    const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
    const id = await startSmall(lead, harness, { roles: [{ roleId: role?.id, personId: people['Dora'] }] });
    await edit(find(await planOf(id), 'Paint').id, { assigneeIds: [people['Mak'], people['Dora']] });
    const copy = await copied(id);
    const names = (title: string): string[] => find(copy, title).assignees.map((person) => person.name);
    expect(names('Cut')).toEqual(['Dora Quill']);
    expect(names('Paint')).toEqual(['Mak Reyes', 'Dora Quill']);
  });

  test('says what could not be carried over as it was', async () => {
    const id = await startSmall(lead, harness);
    const field = (await lead.post('/custom-fields', { name: 'Proof by', kind: 'date' }).expect(201)).body as { id: string };
    await edit(find(await planOf(id), 'Ink').id, { customFields: [{ fieldId: field.id, value: '2026-12-01' }] });
    const run = (await lead.post('/engagements/preview', basis(id)).expect(201)).body as DryRun;
    expect(run.copyOf).toEqual({ id, name: 'Quay panels', clientId: harness.ids.client });
    expect(run.notes).toEqual(['“Proof by” of “Ink” is open: what stood there belongs to this engagement.']);
  });

  test('is of the same template and version: what is new in it is found again', async () => {
    const made = await lead.post('/templates', { name: 'Told anew', copyOf: harness.ids.template }).expect(201);
    const template = (made.body as { id: string }).id;
    const copy = await copied(await startSmall(lead, harness, { templateId: template }));
    expect(copy.engagement.template).toMatchObject({ id: template, version: 1 });
    const view = (await lead.get(`/templates/${template}/content`).expect(200)).body as TemplateContentView;
    const tasks = view.content.tasks.map((task: TemplateTask) => (task.title === 'Paint' ? { ...task, days: 5 } : task));
    const saved = await lead
      .put(`/templates/${template}/content`, { revision: view.revision, content: { ...view.content, tasks } })
      .expect(200);
    await lead.post(`/templates/${template}/versions`, { revision: (saved.body as TemplateContentView).revision }).expect(201);
    const { lines } = (await lead.get(`/engagements/${copy.engagement.id}/template-news`).expect(200)).body as TemplateNews;
    expect(lines.map((line) => [line.name, line.hindrance])).toEqual([['Paint', null]]);
  });

  test.each([
    ['of nothing', { copyOf: crypto.randomUUID(), start: TODAY }, 404, undefined],
    ['beside a template', { copyOf: crypto.randomUUID(), templateId: crypto.randomUUID(), start: TODAY }, 400, 'copyOf'],
    ['with neither', { start: TODAY }, 400, 'templateId'],
  ])('%s is refused', async (_what, body, status, field) => {
    const answer = await lead.post('/engagements/preview', body);
    expect([answer.status, (answer.body as { field?: string }).field]).toEqual([status, field]);
  });
});

describe('leaving out a deliverable', () => {
  async function withDeliverables(): Promise<string> {
    const { body } = await lead.post('/templates', { name: `Things ${crypto.randomUUID()}`, copyOf: harness.ids.template }).expect(201);
    const { id } = body as { id: string };
    const view = (await lead.get(`/templates/${id}/content`).expect(200)).body as TemplateContentView;
    const tasks = view.content.tasks.map((task) => ({
      ...task,
      deliverable: ['Cut', 'Paint'].includes(task.title) ? 'Panels' : 'Drawings',
    }));
    const saved = await lead.put(`/templates/${id}/content`, { revision: view.revision, content: { ...view.content, tasks } }).expect(200);
    await lead.post(`/templates/${id}/versions`, { revision: (saved.body as TemplateContentView).revision }).expect(201);
    return id;
  }

  test('leaves out all that is done for it, and the deliverable itself', async () => {
    const templateId = await withDeliverables();
    const plan = await planOf(await startSmall(lead, harness, { templateId, withoutDeliverables: ['Drawings'] }));
    expect(plan.tasks.map((task) => task.title)).toEqual(['Cut', 'Paint']);
    expect(plan.deliverables.map((deliverable) => deliverable.name)).toEqual(['Panels']);
  });

  test('a task goes when all its parts go, whether by deliverable or one by one', async () => {
    const { body } = await lead.post('/templates', { name: 'With parts', copyOf: harness.ids.template }).expect(201);
    const { id } = body as { id: string };
    const view = (await lead.get(`/templates/${id}/content`).expect(200)).body as TemplateContentView;
    const cut = view.content.tasks.find((task) => task.title === 'Cut') as TemplateTask;
    const parts = ['Left', 'Right'].map((title) => ({
      ...cut,
      id: crypto.randomUUID(),
      parentId: cut.id,
      title,
      deliverable: 'Sides',
      after: [],
    }));
    const content = { ...view.content, tasks: [...view.content.tasks, ...parts] };
    const saved = await lead.put(`/templates/${id}/content`, { revision: view.revision, content }).expect(200);
    await lead.post(`/templates/${id}/versions`, { revision: (saved.body as TemplateContentView).revision }).expect(201);
    const titles = async (more: object): Promise<string[]> =>
      ((await lead.post('/engagements/preview', { templateId: id, start: TODAY, ...more }).expect(201)).body as DryRun).tasks.map(
        (task) => task.title,
      );
    const without = ['Sketch', 'Ink', 'Client looks', 'Paint'];
    expect(await titles({ withoutDeliverables: ['Sides'] })).toEqual(without);
    expect(await titles({ withoutTasks: parts.map((part) => part.id) })).toEqual(without);
    expect(await titles({ withoutTasks: [parts[0]?.id] })).toEqual(['Sketch', 'Ink', 'Client looks', 'Cut', 'Right', 'Paint']);
  });

  test('one that is not in it is refused by its name; leaving out all of them leaves nothing to make', async () => {
    const templateId = await withDeliverables();
    const look = (withoutDeliverables: string[]) => lead.post('/engagements/preview', { templateId, start: TODAY, withoutDeliverables });
    expect((await look(['Lamps'])).body).toMatchObject({ code: 'unknown-id', field: 'withoutDeliverables' });
    expect((await look(['Panels', 'Drawings'])).body).toMatchObject({ code: 'empty-template' });
  });
});

describe('making an engagement step by step', () => {
  const lines = (text: string): StartLine[] =>
    text
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as StartLine);
  const begin = (more: object = {}) =>
    lead.post('/engagements/in-steps', {
      ...{ templateId: harness.ids.template, clientId: harness.ids.client, name: 'In steps', start: TODAY },
      ...more,
    });

  test('tells what it is at, and last what was made', async () => {
    const answer = await begin().expect(201);
    const told = lines(answer.text);
    expect(told.map((line) => (line.kind === 'making' ? line.step : line.kind))).toEqual(['phases', 'tasks', 'people', 'days', 'made']);
    const last = told.at(-1) as Extract<StartLine, { kind: 'made' }>;
    expect((await planOf(last.id)).tasks).toHaveLength(5);
  });

  test('what is refused before anything is made is refused as everywhere', async () => {
    const answer = await begin({ clientId: crypto.randomUUID() });
    expect([answer.status, (answer.body as { field: string }).field]).toEqual([400, 'clientId']);
  });

  test('a template of more tasks than one statement takes is made whole, or not at all', async () => {
    const { body } = await lead.post('/templates', { name: 'A whole museum', copyOf: harness.ids.template }).expect(201);
    const { id } = body as { id: string };
    const view = (await lead.get(`/templates/${id}/content`).expect(200)).body as TemplateContentView;
    const [first] = view.content.tasks;
    const many = Array.from({ length: 1600 }, (_, index) => ({ ...first, id: crypto.randomUUID(), title: `Panel ${index}`, after: [] }));
    const saved = await lead
      .put(`/templates/${id}/content`, { revision: view.revision, content: { ...view.content, tasks: [...view.content.tasks, ...many] } })
      .expect(200);
    await lead.post(`/templates/${id}/versions`, { revision: (saved.body as TemplateContentView).revision }).expect(201);
    const told = lines((await begin({ templateId: id }).expect(201)).text);
    const done = told.flatMap((line) => (line.kind === 'making' && line.step === 'tasks' ? [line.done] : []));
    expect(done).toEqual([0, 250, 500, 750, 1000, 1250, 1500]);
    expect((await planOf((told.at(-1) as { id: string }).id)).tasks).toHaveLength(1605);
  }, 300_000);
});
