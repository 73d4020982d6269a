import type {
  DryRun,
  EngagementPlan,
  PlanChanged,
  PlanEffect,
  SavedBack,
  TaskSheet,
  TemplateContentView,
  TemplateNews,
  TemplateSummary,
  TemplateUses,
} from '@crew/contract';
import { startSmall, testWorld, TODAY } from '../../test/harness.ts';

const { harness, lead } = testWorld();
const STRANGE = '00000000-0000-4000-8000-000000000000';

const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const contentOf = async (id: string): Promise<TemplateContentView> =>
  (await lead.get(`/templates/${id}/content`).expect(200)).body as TemplateContentView;
const usesOf = async (id: string): Promise<TemplateUses> => (await lead.get(`/templates/${id}/uses`).expect(200)).body as TemplateUses;
const usedTimes = async (id: string): Promise<number | undefined> =>
  ((await lead.get('/templates').expect(200)).body as TemplateSummary[]).find((template) => template.id === id)?.usedTimes;
const phaseOf = (plan: EngagementPlan, name: string): string => plan.phases.find((phase) => phase.name === name)?.id as string;

let made = 0;
/** A task somebody did well, kept in the library: two steps and a subtask. */
async function keptTask(): Promise<{ readonly id: string; readonly name: string }> {
  const past = await startSmall(lead, harness);
  const cut = (await planOf(past)).tasks.find((task) => task.title === 'Cut') as { id: string; phaseId: string };
  for (const title of ['Plane', 'Sand']) await lead.post(`/tasks/${cut.id}/steps`, { title }).expect(201);
  await lead.post(`/engagements/${past}/tasks`, { phaseId: cut.phaseId, parentId: cut.id, title: 'Choose the boards' }).expect(201);
  const name = `Cutting ${++made}`;
  const { body } = await lead.post(`/engagements/${past}/template`, { name, taskId: cut.id, measure: 'planned' }).expect(201);
  return { id: (body as SavedBack).id, name };
}
async function copy(name: string): Promise<TemplateContentView> {
  const { body } = await lead.post('/templates', { name, copyOf: harness.ids.template }).expect(201);
  return contentOf((body as { id: string }).id);
}

describe('a kept task in an engagement that runs', () => {
  test('comes with all it presets and whoever has its role, is planned, and is undone whole', async () => {
    const kept = await keptTask();
    const id = await startSmall(lead, harness);
    const before = await planOf(id);
    const body = { templateId: kept.id, phaseId: phaseOf(before, 'Make') };
    const looked = (await lead.post(`/engagements/${id}/from-library/preview`, body).expect(200)).body as PlanEffect;
    expect((await planOf(id)).tasks).toHaveLength(before.tasks.length);

    const { changeId, effect } = (await lead.post(`/engagements/${id}/from-library`, body).expect(201)).body as PlanChanged;
    expect(effect.moves).toEqual(looked.moves);
    const plan = await planOf(id);
    const [own, cut] = plan.tasks.filter((task) => task.title === 'Cut');
    expect(cut).toMatchObject({ phaseId: body.phaseId, stepsAll: 2, isGroup: true, status: 'queued' });
    expect(cut?.number).toBeGreaterThan(Math.max(...before.tasks.map((task) => task.number)));
    expect(plan.tasks.find((task) => task.title === 'Choose the boards')).toMatchObject({ parentId: cut?.id });
    const sheet = (await lead.get(`/tasks/${cut?.id}`).expect(200)).body as TaskSheet;
    expect(sheet.steps.map((step) => step.title)).toEqual(['Plane', 'Sand']);
    expect(cut?.role).toBe(own?.role);

    await lead.post(`/changes/${changeId}/undo`).expect(200);
    expect((await planOf(id)).tasks.map((task) => task.title)).toEqual(before.tasks.map((task) => task.title));
  });

  test('is paid for by nobody in in-house work', async () => {
    const kept = await keptTask();
    const id = await startSmall(lead, harness, { name: 'In-house' });
    await harness.database.rows('UPDATE client SET is_own = true WHERE id = $1', [harness.ids.client]);
    await lead.post(`/engagements/${id}/from-library`, { templateId: kept.id, phaseId: phaseOf(await planOf(id), 'Make') }).expect(201);
    await harness.database.rows('UPDATE client SET is_own = false WHERE id = $1', [harness.ids.client]);
    expect((await planOf(id)).tasks.find((task) => task.title === 'Choose the boards')?.isChargeable).toBe(false);
  });

  test('can be taken twice, and the library says where it is', async () => {
    const kept = await keptTask();
    const id = await startSmall(lead, harness, { name: 'Two of them' });
    expect(await usedTimes(kept.id)).toBe(0);
    const body = { templateId: kept.id, phaseId: phaseOf(await planOf(id), 'Make') };
    for (const _ of [1, 2]) await lead.post(`/engagements/${id}/from-library`, body).expect(201);
    expect((await planOf(id)).tasks.filter((task) => task.title === 'Choose the boards')).toHaveLength(2);
    expect((await usesOf(kept.id)).engagements.map((use) => [use.name, use.version])).toEqual([['Two of them', null]]);
    expect(await usedTimes(kept.id)).toBe(1);
  });

  test('is not lost with a phase that goes from the template', async () => {
    const kept = await keptTask();
    const template = await copy('With an extra phase');
    const id = await startSmall(lead, harness, { templateId: template.id });
    const last = template.content.phases.at(-1);
    const here = (await planOf(id)).phases.at(-1);
    await lead.post(`/engagements/${id}/from-library`, { templateId: kept.id, phaseId: here?.id }).expect(201);
    const content = {
      ...template.content,
      phases: template.content.phases.filter((phase) => phase.id !== last?.id),
      tasks: template.content.tasks.filter((task) => task.phaseId !== last?.id),
      ways: [],
    };
    const saved = await lead.put(`/templates/${template.id}/content`, { revision: template.revision, content }).expect(200);
    const { revision } = saved.body as TemplateContentView;
    await lead.post(`/templates/${template.id}/versions`, { revision }).expect(201);
    const news = (await lead.get(`/engagements/${id}/template-news`).expect(200)).body as TemplateNews;
    expect(news.lines.find((line) => line.part === 'phase')?.hindrance).toMatch(/of this engagement would be lost with it/);
  });
});

describe('phases in an engagement that runs', () => {
  test('stand behind the chosen one; what followed it follows them; gate and handoff come along; one undo', async () => {
    const source = await copy('Once more');
    const id = await startSmall(lead, harness);
    const before = await planOf(id);
    const [first, second] = before.phases;
    const phaseIds = source.content.phases.map((phase) => phase.id);
    const body = { templateId: source.id, phaseIds, phaseId: first?.id };
    const { changeId, effect } = (await lead.post(`/engagements/${id}/from-library`, body).expect(201)).body as PlanChanged;
    expect(effect.moves.length).toBeGreaterThan(0);
    const plan = await planOf(id);
    const names = source.content.phases.map((phase) => phase.name);
    expect(plan.phases.map((phase) => phase.name)).toEqual([first?.name, ...names, ...before.phases.slice(1).map((phase) => phase.name)]);
    expect(new Set(plan.phases.map((phase) => phase.stateLine)).size).toBe(plan.phases.length);
    const [lastTaken, follower] = [plan.phases[names.length], plan.phases[names.length + 1]];
    expect(follower?.id).toBe(second?.id);
    expect((follower?.start ?? '') > (lastTaken?.finish ?? '')).toBe(true);
    expect(plan.phases.every((phase) => phase.handoffId !== null)).toBe(true);
    expect(plan.tasks).toHaveLength(before.tasks.length + source.content.tasks.length);

    await lead.post(`/changes/${changeId}/undo`).expect(200);
    const after = await planOf(id);
    expect(after.phases.map(({ id: phase, start, finish }) => [phase, start, finish])).toEqual(
      before.phases.map(({ id: phase, start, finish }) => [phase, start, finish]),
    );
    expect(after.tasks).toHaveLength(before.tasks.length);
  });

  test.each([
    ['a phase of another engagement', { phaseId: STRANGE }, 400, 'phaseId'],
    ['a phase the template does not have', { phaseIds: [STRANGE] }, 400, 'phaseIds'],
    ['no phase chosen of more than a task', { phaseIds: undefined }, 400, 'phaseIds'],
    ['a template that is not there', { templateId: STRANGE }, 404, undefined],
  ])('%s is refused, and nothing comes', async (_name, wrong, status, field) => {
    const id = await startSmall(lead, harness);
    const before = await planOf(id);
    const phases = (await contentOf(harness.ids.template)).content.phases;
    const body = { templateId: harness.ids.template, phaseIds: [phases[0]?.id], phaseId: before.phases[0]?.id, ...wrong };
    const answer = await lead.post(`/engagements/${id}/from-library`, body).expect(status);
    expect((answer.body as { field?: string }).field).toBe(field);
    expect((await planOf(id)).tasks).toHaveLength(before.tasks.length);
  });

  test('nothing comes behind a phase that is over, or into one', async () => {
    const kept = await keptTask();
    const id = await startSmall(lead, harness);
    const over = (await planOf(id)).phases[0]?.id;
    await harness.database.rows(
      `UPDATE phase SET state = 'over', started_on = coalesce(started_on, planned_start), finished_on = planned_finish WHERE id = $1`,
      [over],
    );
    const phases = (await contentOf(harness.ids.template)).content.phases;
    for (const body of [{ templateId: kept.id }, { templateId: harness.ids.template, phaseIds: [phases[0]?.id] }]) {
      const answer = await lead.post(`/engagements/${id}/from-library`, { ...body, phaseId: over }).expect(409);
      expect(answer.body).toMatchObject({ code: 'wrong-moment', field: 'phaseId' });
    }
  });
});

test('a kept task goes into an engagement that begins, in preview and in what is made; more than a task is refused', async () => {
  const kept = await keptTask();
  const [phase] = (await contentOf(harness.ids.template)).content.phases;
  const addKept = [{ templateId: kept.id, phaseId: phase?.id }];
  const basis = { templateId: harness.ids.template, start: TODAY };
  const run = (await lead.post('/engagements/preview', { ...basis, addKept }).expect(201)).body as DryRun;
  expect(run.tasks.filter((task) => task.phaseId === phase?.id).map((task) => task.title)).toContain('Choose the boards');
  const plan = await planOf(await startSmall(lead, harness, { addKept }));
  expect(plan.tasks).toHaveLength(run.tasks.length);
  expect((await usesOf(kept.id)).engagements).toHaveLength(1);
  const wrong = [{ templateId: harness.ids.template, phaseId: phase?.id }];
  const answer = await lead.post('/engagements/preview', { ...basis, addKept: wrong }).expect(400);
  expect((answer.body as { field?: string }).field).toBe('addKept');
});

test('a template says which others took it, and cannot claim to come from somebody else’s', async () => {
  const source = await copy('Taken from');
  const target = await copy('Took it');
  const [phase] = target.content.phases;
  const save = (sourceTemplateId: string) =>
    lead.put(`/templates/${target.id}/content`, {
      revision: target.revision,
      content: { ...target.content, phases: target.content.phases.map((one) => (one === phase ? { ...one, sourceTemplateId } : one)) },
    });
  expect((await save(STRANGE).expect(400)).body).toMatchObject({ code: 'unknown-id' });
  await save(source.id).expect(200);
  expect((await contentOf(target.id)).content.phases[0]).toMatchObject({ sourceTemplateId: source.id });
  expect((await usesOf(source.id)).templates).toEqual([{ id: target.id, name: 'Took it', kind: 'engagement' }]);
});
