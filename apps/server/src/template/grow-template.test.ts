import type { DryRun, EngagementPlan, TemplateContentView, TemplateSummary } from '@crew/contract';
import { startSmall, testWorld, TODAY } from '../../test/harness.ts';

const { harness, lead } = testWorld();

const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const contentOf = async (id: string): Promise<TemplateContentView> =>
  (await lead.get(`/templates/${id}/content`).expect(200)).body as TemplateContentView;

/** A copy of the small template: its phases are others, of the same names. */
async function copy(name: string): Promise<TemplateContentView> {
  const { body } = await lead.post('/templates', { name, copyOf: harness.ids.template }).expect(201);
  return contentOf((body as { id: string }).id);
}
const basis = (more: object) => ({ templateId: harness.ids.template, start: TODAY, ...more });

test('phases of another template follow the last one, with state lines of their own, in preview and in what is made', async () => {
  const source = await copy('Again');
  const phaseIds = source.content.phases.map((phase) => phase.id);
  const addPhases = [{ templateId: source.id, phaseIds }];
  const plain = (await lead.post('/engagements/preview', basis({})).expect(201)).body as DryRun;
  const run = (await lead.post('/engagements/preview', basis({ addPhases })).expect(201)).body as DryRun;
  expect(run.phases.map((phase) => phase.name)).toEqual([...plain.phases, ...plain.phases].map((phase) => phase.name));
  expect(new Set(run.phases.map((phase) => phase.stateLine)).size).toBe(run.phases.length);
  expect((run.phases[plain.phases.length]?.start as string) > plain.finish).toBe(true);

  const made = await planOf(await startSmall(lead, harness, { addPhases }));
  expect(made.tasks).toHaveLength(run.tasks.length);
  expect(made.tasks.map((task) => task.number)).toEqual(made.tasks.map((_, index) => index + 1));
  expect(made.phases.filter((phase) => phase.state === 'running')).toHaveLength(
    plain.phases.filter((phase) => phase.start === TODAY).length,
  );
});

test('added phases stand anywhere in the row, and what came behind that place follows them', async () => {
  const source = await copy('Between');
  const [first, second] = (await contentOf(harness.ids.template)).content.phases;
  const between = [source.content.phases[0]?.id as string];
  const run = async (behindPhaseId: string | null | undefined): Promise<string[]> => {
    const more = { addPhases: [{ templateId: source.id, phaseIds: between, ...(behindPhaseId === undefined ? {} : { behindPhaseId }) }] };
    const made = await planOf(await startSmall(lead, harness, more));
    expect(made.tasks.map((task) => task.number)).toEqual(made.tasks.map((_, index) => index + 1));
    const starts = made.phases.map((phase) => phase.start);
    expect(starts).toEqual([...starts].sort());
    expect(new Set(starts).size).toBe(starts.length);
    return made.phases.map((phase) => phase.stateLine);
  };
  expect(await run(first?.id)).toEqual([first?.stateLine, `${first?.stateLine ?? ''} 2`, second?.stateLine]);
  expect(await run(null)).toEqual([`${first?.stateLine ?? ''} 2`, first?.stateLine, second?.stateLine]);
  expect(await run(undefined)).toEqual([first?.stateLine, second?.stateLine, `${first?.stateLine ?? ''} 2`]);
});

test('a task of an engagement goes into a phase, relative again, with its subtasks and without dependencies that lead out', async () => {
  const past = await startSmall(lead, harness);
  const ink = (await planOf(past)).tasks.find((task) => task.title === 'Ink') as { id: string; phaseId: string };
  await lead.post(`/engagements/${past}/tasks`, { phaseId: ink.phaseId, parentId: ink.id, title: 'Mix the blue' }).expect(201);
  const phases = (await contentOf(harness.ids.template)).content.phases;
  const phaseId = phases.at(-1)?.id as string;
  const id = await startSmall(lead, harness, { start: '2027-02-01', addTasks: [{ taskId: ink.id, phaseId }] });
  const plan = await planOf(id);
  const [own, added] = plan.tasks.filter((task) => task.title === 'Ink');
  expect(plan.tasks.find((task) => task.title === 'Mix the blue')).toMatchObject({ parentId: added?.id, status: 'queued' });
  expect(added?.phaseId).toBe(plan.phases.at(-1)?.id);
  expect(added?.after).toEqual([]);
  expect((added?.start as string) >= '2027-02-01').toBe(true);
  expect(own?.after).toHaveLength(1);
});

test('what cannot be added is refused with its field, and nothing is made', async () => {
  const before = (await lead.get('/engagements').expect(200)).body as unknown[];
  const [phase] = (await contentOf(harness.ids.template)).content.phases;
  const strange = '00000000-0000-4000-8000-000000000000';
  const tasks = (await planOf(await startSmall(lead, harness))).tasks;
  for (const [more, field, status] of [
    [{ addPhases: [{ templateId: harness.ids.template, phaseIds: [phase?.id] }] }, 'addPhases', 400],
    [{ addPhases: [{ templateId: harness.ids.template, phaseIds: [strange] }] }, 'addPhases', 400],
    [{ addPhases: [{ templateId: harness.ids.template, phaseIds: [], behindPhaseId: strange }] }, 'addPhases', 400],
    [{ addTasks: [{ taskId: tasks[0]?.id, phaseId: strange }] }, 'addTasks', 400],
    [{ addTasks: [1, 2].map(() => ({ taskId: tasks[0]?.id, phaseId: phase?.id })) }, 'addTasks', 400],
    [{ addTasks: [{ taskId: strange, phaseId: phase?.id }] }, undefined, 404],
    [{ addPhases: [{ templateId: strange, phaseIds: [phase?.id] }] }, undefined, 404],
  ] as const) {
    const refused = await lead.post('/engagements', { clientId: harness.ids.client, name: 'Not made', ...basis(more) }).expect(status);
    expect((refused.body as { field?: string }).field).toBe(field);
  }
  expect((await lead.get('/engagements').expect(200)).body).toHaveLength(before.length + 1);
});

test('the library counts an engagement for the template it began from alone', async () => {
  const source = await copy('Once more');
  await startSmall(lead, harness, { addPhases: [{ templateId: source.id, phaseIds: [source.content.phases[0]?.id] }] });
  const library = (await lead.get('/templates').expect(200)).body as TemplateSummary[];
  expect(library.find((template) => template.id === source.id)?.usedTimes).toBe(0);
});
