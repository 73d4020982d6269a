import { randomUUID } from 'node:crypto';
import { checkTemplate, type ExchangedTemplate, type TemplateContent, type TemplateTask } from '@crew/core';
import type {
  DifferenceLine,
  DryRun,
  EngagementPlan,
  TemplateContentView,
  TemplateImported,
  TemplateSummary,
  TemplateUses,
  TemplateVersionLine,
} from '@crew/contract';
import { startSmall, testWorld } from '../../test/harness.ts';
import { exampleTemplates } from './examples/index.ts';

const { harness, lead } = testWorld();

let made = 0;
/** A copy of the small template to work on. */
async function copy(): Promise<string> {
  const { body } = await lead.post('/templates', { name: `Copy ${++made}`, copyOf: harness.ids.template }).expect(201);
  return (body as { id: string }).id;
}
const open = async (id: string): Promise<TemplateContentView> =>
  (await lead.get(`/templates/${id}/content`).expect(200)).body as TemplateContentView;
const edit = async (id: string, change: (content: TemplateContent) => object) => {
  const { revision, content } = await open(id);
  return lead.put(`/templates/${id}/content`, { revision, content: { ...content, ...change(content) } });
};
const keep = async (id: string, note = '') => lead.post(`/templates/${id}/versions`, { revision: (await open(id)).revision, note });
const renamed = (content: TemplateContent, title: string, to: Partial<TemplateTask>) => ({
  tasks: content.tasks.map((task) => (task.title === title ? { ...task, ...to } : task)),
});

describe('the working copy', () => {
  test('what was saved is read back the same, whatever it presets', async () => {
    const id = await copy();
    const more = {
      ...{
        description: 'Twice the size.',
        kind: 'review',
        priority: 'high',
        labels: ['glass'],
        deliverable: 'Panel set',
        steps: ['A', 'B'],
      },
      ...{
        estimateMinutes: 90,
        days: 4,
        anchor: { at: 'before-promise' as const, offset: 12 },
        isShownToClient: true,
        isChargeable: false,
      },
      pageLinks: [{ title: 'How we name files', url: 'https://example.org/names' }],
      outside: { maker: 'Pane & Sons', turnaroundDays: 5, bufferDays: 2 },
      personId: harness.ids.people['Mak'] as string,
    };
    const answer = await edit(id, (content) => renamed(content, 'Cut', more));
    expect(answer.status).toBe(200);
    const { content, isChanged, version } = await open(id);
    expect(content.tasks.find((task) => task.title === 'Cut')).toMatchObject(more);
    expect({ isChanged, version }).toEqual({ isChanged: true, version: 1 });
    expect(checkTemplate(content)).toEqual([]);
  });

  test('saving what is there changes nothing but the revision', async () => {
    const id = await copy();
    const before = await open(id);
    await edit(id, () => ({}));
    expect(await open(id)).toEqual({ ...before, revision: before.revision + 1 });
  });

  test('two phases that say the same are refused at the field, and nothing is saved', async () => {
    const id = await copy();
    const { body } = await edit(id, ({ phases }) => ({ phases: phases.map((phase) => ({ ...phase, stateLine: 'Being made' })) }));
    expect(body).toMatchObject({ code: 'faulty-template', field: expect.stringMatching(/^phases\[.*\]\.stateLine$/) as string });
    expect((body as { message: string }).message).toBe(
      '“Draw” and “Make” both say “Being made”. Say what is different, for instance which payment.',
    );
    expect((await open(id)).content.phases.map((phase) => phase.stateLine)).toEqual(['Being drawn', 'Being made']);
  });

  test('a loop is refused naming its members, and no phase at all too', async () => {
    const id = await copy();
    const looped = await edit(id, ({ tasks }) => {
      const ink = tasks.find((task) => task.title === 'Ink') as TemplateTask;
      return {
        tasks: tasks.map((task) => (task.title === 'Sketch' ? { ...task, after: [{ taskId: ink.id, type: 'FS', lag: 0 }] } : task)),
      };
    });
    expect(looped.body).toMatchObject({
      code: 'waits-in-a-loop',
      message: expect.stringMatching(/Ink → Sketch → Ink|Sketch → Ink → Sketch/) as string,
    });
    const empty = await edit(id, () => ({ phases: [], tasks: [] }));
    expect(empty.body).toMatchObject({ code: 'empty-template' });
  });

  test('a stale save is told what is there now', async () => {
    const id = await copy();
    const { revision, content } = await open(id);
    await edit(id, (now) => renamed(now, 'Cut', { title: 'Cut them' }));
    const { status, body } = await lead.put(`/templates/${id}/content`, { revision, content });
    expect(status).toBe(409);
    expect(JSON.stringify((body as { details: object }).details)).toContain('Cut them');
  });

  test('parts of another template, roles and people of nobody are refused', async () => {
    const [id, other] = [await copy(), await copy()];
    const foreign = await open(other);
    expect((await edit(id, () => ({ phases: foreign.content.phases, tasks: [], ways: [] }))).body).toMatchObject({ code: 'unknown-id' });
    expect((await edit(id, (content) => renamed(content, 'Cut', { roleId: harness.ids.client }))).body).toMatchObject({
      code: 'unknown-id',
    });
    expect((await edit(id, (content) => renamed(content, 'Cut', { helperPersonIds: [harness.ids.client] }))).body).toMatchObject({
      code: 'unknown-id',
    });
    expect((await edit(id, (content) => renamed(content, 'Cut', { personId: harness.ids.client }))).body).toMatchObject({
      code: 'unknown-id',
    });
  });
});

describe('versions', () => {
  test('running engagements keep the version they began from; the next one starts from the newest', async () => {
    const id = await copy();
    const first = await startSmall(lead, harness, { templateId: id, name: 'First' });
    await edit(id, (content) => renamed(content, 'Cut', { title: 'Cut the oak', days: 5 }));
    const second = await startSmall(lead, harness, { templateId: id, name: 'Not yet kept' });
    expect((await keep(id, 'Oak takes longer')).status).toBe(201);
    const third = await startSmall(lead, harness, { templateId: id, name: 'Third' });
    const titles = async (engagement: string) => {
      const plan = (await lead.get(`/engagements/${engagement}/plan`)).body as EngagementPlan;
      return [plan.engagement.template?.version, plan.tasks.some((task) => task.title === 'Cut the oak')];
    };
    expect(await titles(first)).toEqual([1, false]);
    expect(await titles(second)).toEqual([1, false]);
    expect(await titles(third)).toEqual([2, true]);
    const lines = (await lead.get(`/templates/${id}/versions`).expect(200)).body as TemplateVersionLine[];
    expect(lines.map(({ version, note, madeBy, usedTimes }) => [version, note, madeBy, usedTimes])).toEqual([
      [2, 'Oak takes longer', 'Lena Park', 1],
      [1, '', 'Lena Park', 2],
    ]);
    const uses = (await lead.get(`/templates/${id}/uses`).expect(200)).body as TemplateUses;
    expect(uses.templates).toEqual([]);
    expect(uses.engagements.map((use) => [use.name, use.version]).sort()).toEqual([
      ['First', 1],
      ['Not yet kept', 1],
      ['Third', 2],
    ]);
  });

  test('a version that would be the same is not kept', async () => {
    const id = await copy();
    expect((await keep(id)).body).toMatchObject({ code: 'wrong-moment' });
    await edit(id, (content) => renamed(content, 'Cut', { title: 'Cut them' }));
    await edit(id, (content) => renamed(content, 'Cut them', { title: 'Cut' }));
    expect((await open(id)).isChanged).toBe(false);
  });

  test('the difference is told by phase and task, in words', async () => {
    const id = await copy();
    await edit(id, (content) => {
      const ink = content.tasks.find((task) => task.title === 'Ink') as TemplateTask;
      const { tasks } = renamed(content, 'Cut', { title: 'Cut the oak', days: 5, estimateMinutes: 600, steps: ['Plane'] });
      return {
        tasks: [...tasks.filter((task) => task.title !== 'Client looks'), { ...ink, id: crypto.randomUUID(), title: 'Varnish', after: [] }],
      };
    });
    const lines = (await lead.get(`/templates/${id}/difference?from=1&to=working`).expect(200)).body as DifferenceLine[];
    expect(lines.map(({ kind, name, phase, words }) => [kind, name, phase, words])).toEqual([
      [
        'changed',
        'Cut the oak',
        'Make',
        ['called: “Cut” → “Cut the oak”', 'effort: 8 h → 10 h', 'length: 1 → 5 working days', 'steps: + Plane'],
      ],
      ['added', 'Varnish', 'Draw', []],
      ['removed', 'Client looks', 'Draw', []],
    ]);
    await lead.get(`/templates/${id}/difference?from=9&to=working`).expect(404);
    await lead.get(`/templates/${id}/difference?from=x&to=working`).expect(400);
  });

  test('the dry run of the working copy is one of its own', async () => {
    const id = await copy();
    await edit(id, (content) => renamed(content, 'Cut', { days: 20 }));
    const finish = async (query: string) => ((await lead.get(`/templates/${id}${query}`).expect(200)).body as DryRun).finish;
    expect((await finish('?draft=yes')) > (await finish(''))).toBe(true);
  });
});

describe('starting from a template with depth', () => {
  test('parts, deliverables, labels, helpers, somebody in particular and outside makers come along', async () => {
    const id = await copy();
    const [mak, dora, fred] = ['Mak', 'Dora', 'Fred'].map((name) => harness.ids.people[name] as string) as [string, string, string];
    const drawer = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Drawer'`);
    await edit(id, (content) => {
      const cut = content.tasks.find((task) => task.title === 'Cut') as TemplateTask;
      const part = {
        ...cut,
        id: crypto.randomUUID(),
        title: 'Plane',
        parentId: cut.id,
        personId: mak,
        helperRoleIds: [drawer?.id as string],
        helperPersonIds: [fred],
      };
      const outside = { maker: 'Pane & Sons', turnaroundDays: 5, bufferDays: 2 };
      const owned = { ...content, ...renamed(content, 'Cut', { personId: dora }) };
      return { tasks: [...renamed(owned, 'Paint', { deliverable: 'Panel set', labels: ['oak'], outside }).tasks, part] };
    });
    await keep(id);
    const run = (await lead.get(`/templates/${id}`).expect(200)).body as DryRun;
    // What has subtasks counts by them, once.
    expect(run.effortMinutes).toBe(480 + 960 + 480 + 480);
    expect(run.effortByRole[0]).toEqual({ role: 'Drawer', minutes: 1440 });
    const engagement = await startSmall(lead, harness, { templateId: id, roles: [{ roleId: drawer?.id, personId: dora }] });
    const plan = (await lead.get(`/engagements/${engagement}/plan`)).body as EngagementPlan;
    const find = (title: string) => plan.tasks.find((task) => task.title === title);
    expect(find('Plane')).toMatchObject({ parentId: find('Cut')?.id, assignees: [{ id: mak }, { id: fred }, { id: dora }] });
    // Who is named for the whole of a task with subtasks stays; whoever has its role only does not do it.
    expect(find('Cut')).toMatchObject({ isGroup: true, assignees: [{ id: dora }] });
    expect(find('Paint')).toMatchObject({
      labels: ['oak'],
      deliverableId: plan.deliverables[0]?.id,
      outside: { maker: 'Pane & Sons', state: 'to-brief' },
    });
    expect(plan.deliverables.map(({ name }) => name)).toEqual(['Panel set']);
  });
});

describe('the library', () => {
  test('a name is there once a kind, and a template can leave the library and come back', async () => {
    const id = await copy();
    const name = (await open(id)).content.name;
    expect((await lead.post('/templates', { name, copyOf: harness.ids.template })).body).toMatchObject({
      code: 'already-there',
      field: 'name',
    });
    const isArchived = async () => ((await lead.get('/templates')).body as TemplateSummary[]).find((line) => line.id === id)?.isArchived;
    await lead.post(`/templates/${id}/archive`, { isArchived: true }).expect(204);
    expect(await isArchived()).toBe(true);
    await lead.post(`/templates/${id}/archive`, { isArchived: false }).expect(204);
    expect(await isArchived()).toBe(false);
  });

  test('nothing starts from an archived one, and a new one without a kept version says what to press', async () => {
    const id = await copy();
    const start = (templateId: string) =>
      lead.post('/engagements', { templateId, clientId: harness.ids.client, name: 'Started', start: '2026-11-24' });
    await lead.post(`/templates/${id}/archive`, { isArchived: true }).expect(204);
    expect((await start(id).expect(409)).body).toMatchObject({
      field: 'templateId',
      message: expect.stringMatching(/is archived\. Restore it/) as string,
    });
    await lead.post('/workload/try', { templateId: id, start: '2026-11-24' }).expect(409);
    await lead.post(`/templates/${id}/archive`, { isArchived: false }).expect(204);
    await start(id).expect(201);

    const fresh = ((await lead.post('/templates', { name: 'Fresh', kind: 'engagement' }).expect(201)).body as { id: string }).id;
    const [task] = (await open(id)).content.tasks;
    await edit(fresh, ({ phases }) => ({ tasks: [{ ...task, id: randomUUID(), phaseId: phases[0]?.id, parentId: null, after: [] }] }));
    expect((await start(fresh)).body).toMatchObject({
      code: 'empty-template',
      message: expect.stringMatching(/press “Save as version 2…”/) as string,
    });
    await keep(fresh);
    await start(fresh).expect(201);
  });

  test('a new one begins with a phase, and a copy shares no part with what it was copied from', async () => {
    const { body } = await lead.post('/templates', { name: 'From nothing', kind: 'engagement' }).expect(201);
    expect((await open((body as { id: string }).id)).content.phases).toHaveLength(1);
    const [own, source] = [await open(await copy()), await open(harness.ids.template)];
    const ids = ({ content }: TemplateContentView) => [...content.phases, ...content.tasks, ...content.ways].map((part) => part.id);
    expect(ids(own).filter((id) => ids(source).includes(id))).toEqual([]);
    expect(own.content.tasks.map((task) => task.title)).toEqual(source.content.tasks.map((task) => task.title));
  });
});

describe('the open format', () => {
  const exported = async (id: string): Promise<ExchangedTemplate> =>
    (await lead.get(`/templates/${id}/export`).expect(200)).body as ExchangedTemplate;

  test('a template goes out and comes in equal', async () => {
    const file = await exported(harness.ids.template);
    const trial = (await lead.post('/templates/import', { file, isTrial: true }).expect(200)).body as TemplateImported;
    expect(trial).toMatchObject({ id: null, phases: 2, tasks: 5, missingRoles: [] });
    const kept = (await lead.post('/templates/import', { file }).expect(200)).body as TemplateImported;
    expect(await exported(kept.id as string)).toEqual({ ...file, name: kept.name });
    expect(kept.name).toBe('Panels 2');
  });

  test('a bad file tells all its faults with their places and keeps nothing', async () => {
    const count = async () => ((await lead.get('/templates')).body as TemplateSummary[]).length;
    const [before, file] = [await count(), JSON.parse(JSON.stringify(await exported(harness.ids.template))) as Record<string, unknown>];
    const phases = file['phases'] as { stateLine?: string; tasks: Record<string, unknown>[] }[];
    Object.assign(phases[0]?.tasks[0] as object, { days: 'two' });
    delete phases[1]?.stateLine;
    const { status, body } = await lead.post('/templates/import', { file });
    expect({ status, code: (body as { code: string }).code }).toEqual({ status: 400, code: 'faulty-file' });
    expect((body as { details: { faults: { at: string }[] } }).details.faults.map((fault) => fault.at)).toEqual([
      '/phases/0/tasks/0/days',
      '/phases/1/stateLine',
    ]);
    expect(await count()).toBe(before);
  });
});

test.each(exampleTemplates.map((draft) => [draft.name, draft] as const))(
  'the example “%s” has titles that are there once',
  (_name, draft) => {
    const titles = (tasks: (typeof draft.phases)[number]['tasks']): string[] =>
      tasks.flatMap((task) => [task.title, ...titles(task.subtasks ?? [])]);
    const all = draft.phases.flatMap((phase) => titles(phase.tasks));
    expect(all.filter((title, index) => all.indexOf(title) !== index)).toEqual([]);
  },
);
