import type { TemplateContent, TemplateTask } from '@crew/core';
import type {
  EngagementPlan,
  PlanChanged,
  PlanEffect,
  PlanTask,
  SavedBack,
  TaskSheet,
  TemplateContentView,
  TemplateNews,
  TaskEdited,
} from '@crew/contract';
import { startSmall, testWorld, TODAY } from '../../test/harness.ts';

const { harness, lead } = testWorld();

let made = 0;
/** An engagement of version 1 of a template of its own. */
async function begun(): Promise<{ template: string; id: string }> {
  const { body } = await lead.post('/templates', { name: `Panels ${++made}`, copyOf: harness.ids.template }).expect(201);
  const template = (body as { id: string }).id;
  return { template, id: await startSmall(lead, harness, { templateId: template }) };
}
async function newVersion(template: string, change: (content: TemplateContent) => Partial<TemplateContent>): Promise<void> {
  const view = (await lead.get(`/templates/${template}/content`).expect(200)).body as TemplateContentView;
  const saved = await lead
    .put(`/templates/${template}/content`, { revision: view.revision, content: { ...view.content, ...change(view.content) } })
    .expect(200);
  await lead.post(`/templates/${template}/versions`, { revision: (saved.body as TemplateContentView).revision }).expect(201);
}
const changed = (content: TemplateContent, title: string, to: Partial<TemplateTask>) =>
  content.tasks.map((task) => (task.title === title ? { ...task, ...to } : task));
const news = async (id: string): Promise<TemplateNews> =>
  (await lead.get(`/engagements/${id}/template-news`).expect(200)).body as TemplateNews;
const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const find = async (id: string, title: string): Promise<PlanTask | undefined> =>
  (await planOf(id)).tasks.find((task) => task.title === title);

/** Cut takes longer and has a step, Varnish comes behind Paint, Client looks goes, Make says something else. */
const busier = (content: TemplateContent): Partial<TemplateContent> => {
  const paint = content.tasks.find((task) => task.title === 'Paint') as TemplateTask;
  const varnish = {
    ...paint,
    id: crypto.randomUUID(),
    title: 'Varnish',
    after: [{ taskId: paint.id, type: 'FS' as const, lag: 1 }],
    steps: ['Dust'],
  };
  return {
    phases: content.phases.map((phase) =>
      phase.name === 'Make' ? { ...phase, stateLine: 'In the workshop', checks: [...phase.checks, { kind: 'word', text: 'Dry' }] } : phase,
    ),
    tasks: [
      ...changed(content, 'Cut', { days: 4, estimateMinutes: 900, steps: ['Plane'] }).filter((task) => task.title !== 'Client looks'),
      varnish,
    ],
  };
};

describe('what is new in the template', () => {
  test('nothing, until there is a newer version', async () => {
    const { id } = await begun();
    expect(await news(id)).toEqual({ from: null, to: null, lines: [] });
  });

  test('is told in words, with what cannot be brought in and why', async () => {
    const { template, id } = await begun();
    const sketch = await find(id, 'Sketch');
    await lead.patch(`/tasks/${sketch?.id}`, { version: sketch?.version, status: 'done' }).expect(200);
    await newVersion(template, (content) => ({ tasks: changed(content, 'Sketch', { days: 5 }), ways: [] }));
    const { from, to, lines } = await news(id);
    expect([from, to]).toEqual([1, 2]);
    expect(lines.map((line) => [line.name, line.words, line.hindrance])).toEqual([
      ['Sketch', ['length: 2 → 5 working days'], 'it is over here'],
    ]);
    await lead.post(`/engagements/${id}/template-news`, { ids: [lines[0]?.id] }).expect(409);
  });

  test('chosen changes are taken, the others left; what follows moves', async () => {
    const { template, id } = await begun();
    await newVersion(template, busier);
    const { lines } = await news(id);
    const idOf = (name: string) => lines.find((line) => line.name === name)?.id as string;
    expect(lines.map((line) => line.hindrance)).toEqual(lines.map(() => null));
    const { body } = await lead.post(`/engagements/${id}/template-news`, { ids: [idOf('Cut'), idOf('Varnish'), idOf('Make')] }).expect(201);
    expect((body as PlanChanged).effect.moves.map((move) => move.title)).toContain('Paint');
    const plan = await planOf(id);
    const [cut, varnish, paint] = await Promise.all(['Cut', 'Varnish', 'Paint'].map((title) => find(id, title)));
    expect(cut).toMatchObject({ days: 4, estimateMinutes: 900, stepsAll: 1 });
    expect(varnish).toMatchObject({ after: [{ id: paint?.id, type: 'FS', lag: 1 }], estimateMinutes: paint?.estimateMinutes });
    expect((varnish?.start ?? '') > (paint?.due ?? '')).toBe(true);
    expect(await find(id, 'Client looks')).toMatchObject({ status: 'queued' });
    expect(plan.phases[1]?.stateLine).toBe('In the workshop');
    expect(plan.engagement.template).toMatchObject({ version: 2, newest: 2 });
    expect((await news(id)).lines).toEqual([]);
  });

  test('what goes from the template is dropped here, not lost; dependencies made here stay', async () => {
    const { template, id } = await begun();
    const [cut, sketch] = [await find(id, 'Cut'), await find(id, 'Sketch')];
    await lead.patch(`/tasks/${cut?.id}`, { version: cut?.version, after: [{ taskId: sketch?.id, type: 'FS' }] }).expect(200);
    await newVersion(template, (content) => {
      const paint = content.tasks.find((task) => task.title === 'Paint') as TemplateTask;
      const ink = content.tasks.find((task) => task.title === 'Ink') as TemplateTask;
      return { tasks: changed(content, 'Cut', { after: [{ taskId: ink.id, type: 'FS', lag: 0 }] }).filter((task) => task.id !== paint.id) };
    });
    const { lines } = await news(id);
    await lead.post(`/engagements/${id}/template-news`, { ids: lines.map((line) => line.id) }).expect(201);
    expect(await find(id, 'Paint')).toMatchObject({ status: 'dropped' });
    const dependencies = (await find(id, 'Cut'))?.after.map((dependency) => dependency.id).sort();
    expect(dependencies).toEqual([sketch?.id, (await find(id, 'Ink'))?.id].sort());
  });

  test('undo takes back all of it, new tasks too; one that time was logged on since stays and is named', async () => {
    const { template, id } = await begun();
    await newVersion(template, busier);
    const take = async () => {
      const { lines } = await news(id);
      const tasks = lines.filter((line) => line.part === 'task').map((line) => line.id);
      return ((await lead.post(`/engagements/${id}/template-news`, { ids: tasks }).expect(201)).body as PlanChanged).changeId;
    };
    const changeId = await take();
    const varnish = await find(id, 'Varnish');
    const sheet = (await lead.get(`/tasks/${varnish?.id}`).expect(200)).body as TaskSheet;
    expect(sheet.steps.map((step) => step.title)).toEqual(['Dust']);
    await lead.post(`/tasks/${varnish?.id}/time`, { day: TODAY, minutes: 30 }).expect(201);
    expect((await lead.post(`/changes/${changeId}/undo`).expect(200)).body).toMatchObject({
      kept: [{ subjectId: varnish?.id, title: 'Varnish', field: 'added', by: 'Lena Park' }],
    });
    expect(await find(id, 'Varnish')).toMatchObject({ loggedMinutes: 30 });
    expect(await find(id, 'Cut')).toMatchObject({ days: 1, estimateMinutes: 480 });
    expect(await find(id, 'Client looks')).toMatchObject({ status: 'queued' });
  });
});

describe('phases of a newer version', () => {
  /** Proof comes between Draw and Make, with a task of its own and a gate. */
  const withProof = (content: TemplateContent): Partial<TemplateContent> => {
    const [draw, make] = content.phases as [TemplateContent['phases'][number], TemplateContent['phases'][number]];
    const proof = {
      ...make,
      ...{ id: crypto.randomUUID(), name: 'Proof', stateLine: 'Being proofed', afterPhaseId: draw.id, afterLag: 1, rounds: 2 },
      checks: [{ kind: 'word', text: 'Proof signed' }],
    };
    const paint = content.tasks.find((task) => task.title === 'Paint') as TemplateTask;
    const read = { ...paint, id: crypto.randomUUID(), phaseId: proof.id, title: 'Read the proof', after: [] };
    return { phases: [draw, proof, { ...make, afterPhaseId: proof.id }], tasks: [...content.tasks, read] };
  };
  const take = async (id: string, names: (line: TemplateNews['lines'][number]) => boolean): Promise<PlanChanged> => {
    const ids = (await news(id)).lines.filter(names).map((line) => line.id);
    return (await lead.post(`/engagements/${id}/template-news`, { ids }).expect(201)).body as PlanChanged;
  };
  const joints = (id: string) =>
    harness.database.rows<{ from: string; to: string | null }>(
      `SELECT f.name AS "from", n.name AS "to" FROM handoff h JOIN phase f ON f.id = h.from_phase_id LEFT JOIN phase n ON n.id = h.to_phase_id
       WHERE h.engagement_id = $1 ORDER BY f.position`,
      [id],
    );
  const gates = async (id: string): Promise<string[]> =>
    (
      await harness.database.rows<{ gate: string }>(
        `SELECT p.name || ': ' || g.text AS gate FROM gate_check g JOIN phase p ON p.id = g.phase_id WHERE p.engagement_id = $1 ORDER BY p.position, g.position`,
        [id],
      )
    ).map((row) => row.gate);
  const state = async (id: string) => {
    const { phases, tasks, engagement } = await planOf(id);
    return {
      phases: phases.map((phase) => [phase.name, phase.stateLine, phase.state, phase.start]),
      gates: await gates(id),
      tasks: tasks.map((task) => [task.title, task.phaseId, task.start, task.due, task.assignees.map((person) => person.id)]),
      joints: await joints(id),
      version: engagement.template?.version,
    };
  };

  test('one that comes stands between the others, with tasks, gate and handoffs, and moves what follows', async () => {
    const { template, id } = await begun();
    const before = await state(id);
    await newVersion(template, withProof);
    const { effect } = await take(id, () => true);
    expect(effect.moves.map((move) => move.title)).toEqual(['Cut', 'Paint']);
    expect(effect.finish.from < effect.finish.to).toBe(true);
    const plan = await planOf(id);
    expect(plan.phases.map((phase) => [phase.name, phase.state])).toEqual([
      ['Draw', 'running'],
      ['Proof', 'ahead'],
      ['Make', 'ahead'],
    ]);
    expect(await gates(id)).toEqual([...before.gates.slice(0, 3), 'Proof: Proof signed', ...before.gates.slice(3)]);
    expect(await joints(id)).toEqual([
      { from: 'Draw', to: 'Proof' },
      { from: 'Proof', to: 'Make' },
      { from: 'Make', to: null },
    ]);
    const read = await find(id, 'Read the proof');
    expect(read?.phaseId).toBe(plan.phases[1]?.id);
    expect((await news(id)).lines).toEqual([]);
  });

  test('what it would do is told first, and nothing stays of the trial', async () => {
    const { template, id } = await begun();
    await newVersion(template, withProof);
    const before = await state(id);
    const ids = (await news(id)).lines.map((line) => line.id);
    const shown = (await lead.post(`/engagements/${id}/template-news/preview`, { ids }).expect(200)).body as PlanEffect;
    expect(await state(id)).toEqual(before);
    const { effect } = await take(id, () => true);
    expect(effect.moves.map(({ title, to }) => [title, to])).toEqual(shown.moves.map(({ title, to }) => [title, to]));
    expect(effect.finish).toEqual(shown.finish);
  });

  test('and goes again by undo, with everything as it was, so that it can be brought in anew', async () => {
    const { template, id } = await begun();
    const before = await state(id);
    await newVersion(template, withProof);
    const { changeId } = await take(id, () => true);
    await lead.post(`/changes/${changeId}/undo`).expect(200);
    expect(await state(id)).toEqual(before);
    expect((await news(id)).lines.length).toBeGreaterThan(0);
    await take(id, () => true);
  });

  test('undo is refused once a phase was handed on, and once a task was put into the new phase', async () => {
    const { template, id } = await begun();
    await newVersion(template, withProof);
    const { changeId } = await take(id, () => true);
    const { phases } = await planOf(id);
    const added = await lead.post(`/engagements/${id}/tasks`, { phaseId: phases[1]?.id, title: 'Second look' }).expect(201);
    expect((await lead.post(`/changes/${changeId}/undo`).expect(409)).body).toMatchObject({
      message: expect.stringContaining('“Second look” is in Proof now') as string,
    });
    const { task } = added.body as TaskEdited;
    await lead.post(`/engagements/${id}/changes`, { tasks: [{ id: task.id, version: task.version, isDeleted: true }] }).expect(201);
    const handoff = phases[0]?.handoffId as string;
    const line = (await lead.get(`/handoffs/${handoff}`).expect(200)).body as { version: number };
    await lead
      .post(`/handoffs/${handoff}/hand-off`, { version: line.version, words: '', reason: 'time', receiverId: harness.ids.people['Mak'] })
      .expect(200);
    expect((await lead.post(`/changes/${changeId}/undo`).expect(409)).body).toMatchObject({
      message: expect.stringContaining('“Draw” was changed or handed on since') as string,
    });
  });

  test('one that goes takes its tasks along, and comes back by undo', async () => {
    const { template, id } = await begun();
    const before = await state(id);
    await newVersion(template, (content) => ({
      phases: content.phases.slice(0, 1),
      tasks: content.tasks.filter((task) => task.phaseId === content.phases[0]?.id),
    }));
    const { changeId } = await take(id, (line) => line.part === 'phase');
    const plan = await planOf(id);
    expect([plan.phases.map((phase) => phase.name), plan.tasks.map((task) => task.title)]).toEqual([
      ['Draw'],
      ['Sketch', 'Ink', 'Client looks'],
    ]);
    expect(await joints(id)).toEqual([{ from: 'Draw', to: null }]);
    await lead.post(`/changes/${changeId}/undo`).expect(200);
    expect(await state(id)).toEqual(before);
  });

  test('a phase with work of this engagement in it does not go', async () => {
    const { template, id } = await begun();
    const { phases } = await planOf(id);
    await lead.post(`/engagements/${id}/tasks`, { phaseId: phases[1]?.id, title: 'Polish' }).expect(201);
    await newVersion(template, (content) => ({
      phases: content.phases.slice(0, 1),
      tasks: content.tasks.filter((task) => task.phaseId === content.phases[0]?.id),
    }));
    const line = (await news(id)).lines.find((one) => one.part === 'phase');
    expect(line).toMatchObject({ kind: 'removed', hindrance: 'a task of this engagement would be lost with it' });
    await lead.post(`/engagements/${id}/template-news`, { ids: [line?.id] }).expect(409);
  });

  test('a task of a phase that is not chosen cannot come without it', async () => {
    const { template, id } = await begun();
    await newVersion(template, withProof);
    const read = (await news(id)).lines.find((line) => line.name === 'Read the proof');
    const proof = (await news(id)).lines.find((line) => line.name === 'Proof');
    expect([read?.hindrance, read?.needs]).toEqual([null, proof?.id]);
    const answer = await lead.post(`/engagements/${id}/template-news`, { ids: [read?.id] }).expect(409);
    expect((answer.body as { message: string }).message).toBe('“Read the proof” cannot be applied: its phase does not come in.');
  });

  test('another order of the tasks is taken over; what was added here keeps its place behind its neighbour', async () => {
    const { template, id } = await begun();
    const { phases } = await planOf(id);
    await lead.post(`/engagements/${id}/tasks`, { phaseId: phases[1]?.id, title: 'Polish' }).expect(201);
    await newVersion(template, (content) => ({ tasks: [...content.tasks].reverse() }));
    await take(id, (line) => line.part === 'phase');
    expect((await planOf(id)).tasks.map((task) => task.title)).toEqual(['Client looks', 'Ink', 'Sketch', 'Paint', 'Polish', 'Cut']);
  });
});

describe('what else a task presets, brought in', () => {
  const both = async (
    change: (content: TemplateContent) => Partial<TemplateContent>,
    meanwhile: (id: string) => Promise<void> = async () => undefined,
  ) => {
    const { template, id } = await begun();
    await meanwhile(id);
    await newVersion(template, change);
    const { lines } = await news(id);
    await lead.post(`/engagements/${id}/template-news`, { ids: lines.map((line) => line.id) }).expect(201);
    return id;
  };

  test('kind, role, anchor, chargeable and deliverable', async () => {
    const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
    const id = await both((content) => ({
      tasks: changed(content, 'Sketch', {
        ...{ kind: 'meeting', roleId: role?.id ?? null, isChargeable: false, deliverable: 'Panel set' },
        anchor: { at: 'phase-start', offset: 2 },
      }),
    }));
    const plan = await planOf(id);
    const sketch = plan.tasks.find((task) => task.title === 'Sketch');
    expect(sketch).toMatchObject({ kind: 'meeting', role: 'Maker', start: '2026-11-25' });
    expect(plan.deliverables.find(({ id: one }) => one === sketch?.deliverableId)?.name).toBe('Panel set');
    expect(await harness.database.row('SELECT is_chargeable FROM task WHERE id = $1', [sketch?.id])).toEqual({ is_chargeable: false });
  });

  test('another role brings its person, unless somebody was chosen here', async () => {
    const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Lead'`);
    const change = (content: TemplateContent): Partial<TemplateContent> => ({
      phases: content.phases,
      tasks: ['Cut', 'Paint'].reduce<TemplateContent>(
        (now, title) => ({
          ...now,
          tasks: changed(now, title, { personId: harness.ids.people['Oona'] as string, roleId: role?.id ?? null }),
        }),
        content,
      ).tasks,
    });
    const id = await both(change, async (engagement) => {
      const paint = await find(engagement, 'Paint');
      await lead.patch(`/tasks/${paint?.id}`, { version: paint?.version, assigneeIds: [harness.ids.people['Lena']] }).expect(200);
    });
    const names = async (title: string) => (await find(id, title))?.assignees.map((person) => person.name);
    expect(await names('Cut')).toEqual(['Oona Field']);
    expect(await names('Paint')).toEqual(['Lena Park']);
  });

  test('another phase, and a part of another task', async () => {
    const id = await both((content) => {
      const [cut, paint] = ['Cut', 'Paint'].map((title) => content.tasks.find((task) => task.title === title) as TemplateTask);
      return {
        tasks: content.tasks.map((task) => {
          if (task.title === 'Client looks') return { ...task, phaseId: cut?.phaseId as string };
          return task.id === paint?.id ? { ...task, parentId: cut?.id as string, after: [] } : task;
        }),
      };
    });
    const plan = await planOf(id);
    const of = (title: string) => plan.tasks.find((task) => task.title === title);
    expect(of('Client looks')?.phaseId).toBe(plan.phases[1]?.id);
    expect(of('Paint')?.parentId).toBe(of('Cut')?.id);
    expect(of('Cut')?.isGroup).toBe(true);
  });
});

describe('saving back', () => {
  const content = async (id: string): Promise<TemplateContent> =>
    ((await lead.get(`/templates/${id}/content`).expect(200)).body as TemplateContentView).content;
  const save = async (id: string, more: object): Promise<SavedBack> =>
    (await lead.post(`/engagements/${id}/template`, { name: `Kept ${++made}`, measure: 'planned', ...more }).expect(201)).body as SavedBack;

  test('a whole engagement becomes a template that can be started again', async () => {
    const { id } = await begun();
    const ink = await find(id, 'Ink');
    await lead.patch(`/tasks/${ink?.id}`, { version: ink?.version, fixedDay: '2026-11-30', labels: ['oak'] }).expect(200);
    const kept = await save(id, {});
    expect(kept.notes).toEqual([]);
    const template = await content(kept.id);
    expect(template.phases.map((phase) => [phase.name, phase.stateLine, phase.checks.length])).toEqual([
      ['Draw', 'Being drawn', 3],
      ['Make', 'Being made', 1],
    ]);
    const find2 = (title: string) => template.tasks.find((task) => task.title === title);
    // Monday 30 November is four open days after Monday 23, Friday being closed.
    expect(find2('Ink')).toMatchObject({
      anchor: { at: 'phase-start', offset: 4 },
      labels: ['oak'],
      after: [{ taskId: find2('Sketch')?.id, type: 'FS', lag: 0 }],
    });
    expect(find2('Sketch')?.steps).toEqual(['Front', 'Back']);
    await startSmall(lead, harness, { templateId: kept.id });
  });

  test('as it went brings what it really took', async () => {
    const { id } = await begun();
    const sketch = await find(id, 'Sketch');
    await lead.post(`/tasks/${sketch?.id}/time`, { day: TODAY, minutes: 200 }).expect(201);
    await lead.patch(`/tasks/${sketch?.id}`, { version: sketch?.version, status: 'done' }).expect(200);
    const { id: kept } = await save(id, { measure: 'real' });
    expect((await content(kept)).tasks.find((task) => task.title === 'Sketch')).toMatchObject({ estimateMinutes: 195, days: 1 });
  });

  test('a phase, or a task with its parts, by itself', async () => {
    const { id } = await begun();
    const [{ phases }, cut] = [await planOf(id), await find(id, 'Cut')];
    await lead.post(`/engagements/${id}/tasks`, { phaseId: cut?.phaseId, parentId: cut?.id, title: 'Plane' }).expect(201);
    const phase = await content((await save(id, { phaseId: phases[1]?.id })).id);
    expect([phase.phases.map((one) => one.name), phase.tasks.map((task) => task.title)]).toEqual([['Make'], ['Cut', 'Paint', 'Plane']]);
    const task = await content((await save(id, { taskId: cut?.id })).id);
    expect(task.tasks.map(({ title, parentId }) => [title, parentId === null])).toEqual([
      ['Cut', true],
      ['Plane', false],
    ]);
  });

  test('a part of another engagement is refused', async () => {
    const [{ id }, other] = [await begun(), await begun()];
    const { phases } = await planOf(other.id);
    await lead.post(`/engagements/${id}/template`, { name: 'X', measure: 'planned', phaseId: phases[0]?.id }).expect(400);
  });
});
