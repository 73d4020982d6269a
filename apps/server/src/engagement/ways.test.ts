import type { ChangeUndone, Desk, EngagementPlan, EngagementTrack, HandoffSheet, PlanChanged, PlanEffect, TaskSheet } from '@crew/contract';
import { startSmall, testWorld, TODAY } from '../../test/harness.ts';
import { smallTemplate } from '../../test/small-world.ts';
import { CreateTemplate, type TemplateDraft } from '../template/create-template.ts';

const world = testWorld();
let templateId: string;

beforeAll(async () => {
  const [draw, make] = smallTemplate.phases as [TemplateDraft['phases'][number], TemplateDraft['phases'][number]];
  const draft: TemplateDraft = {
    ...{ ...smallTemplate, name: 'Panels with ways', phases: [{ ...draw, rounds: 2 }, make] },
    ways: [
      { from: 'Client looks', to: 'Ink', reason: 'changes wanted' },
      { from: 'Client looks', ending: 'Not a fit', reason: 'they look for something else' },
    ],
  };
  templateId = await world.harness.app.get(CreateTemplate).run(await world.harness.whoIs('Lena'), draft);
});
beforeEach(() => world.harness.clock.moveTo(TODAY));

const start = (more: object = {}): Promise<string> => startSmall(world.lead, world.harness, { templateId, ...more });
const planOf = async (id: string): Promise<EngagementPlan> =>
  (await world.lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const versionOf = async (id: string): Promise<number> => (await planOf(id)).engagement.version;
const taskIn = async (id: string, title: string): Promise<EngagementPlan['tasks'][number]> =>
  (await planOf(id)).tasks.find((task) => task.title === title) as EngagementPlan['tasks'][number];
const sheetOf = async (id: string, title: string): Promise<TaskSheet> =>
  (await world.lead.get(`/tasks/${(await taskIn(id, title)).id}`).expect(200)).body as TaskSheet;
const undo = async (changeId: string | null): Promise<ChangeUndone> =>
  (await world.lead.post(`/changes/${changeId}/undo`).expect(200)).body as ChangeUndone;
async function setStatus(id: string, title: string, status: string): Promise<void> {
  const task = await taskIn(id, title);
  await world.lead.patch(`/tasks/${task.id}`, { version: task.version, status }).expect(200);
}
/** A way out of the task the client does: the loop, or the ending. */
async function wayOf(id: string, isLoop: boolean): Promise<{ readonly taskId: string; readonly wayId: string }> {
  const { ways } = await sheetOf(id, 'Client looks');
  const way = ways.find(({ to }) => (to !== null) === isLoop);
  return { taskId: way?.taskId as string, wayId: way?.id as string };
}

describe('a loop of the map', () => {
  test('stands on the engagement’s task and on its handoff', async () => {
    const id = await start();
    const { ways } = await sheetOf(id, 'Client looks');
    expect(ways.map(({ to, ending, reason }) => [to?.title ?? null, ending, reason])).toEqual([
      ['Ink', null, 'changes wanted'],
      [null, 'Not a fit', 'they look for something else'],
    ]);
    const handoff = (await planOf(id)).phases[0]?.handoffId;
    expect(((await world.lead.get(`/handoffs/${handoff}`).expect(200)).body as HandoffSheet).ways).toEqual(ways);
  });

  test('opens the tasks of the round again with new days, counts it, and is undone as a whole', async () => {
    const id = await start();
    for (const title of ['Sketch', 'Ink', 'Client looks']) await setStatus(id, title, 'done');
    await world.harness.settle();
    world.harness.clock.moveTo('2026-12-14');
    const before = await planOf(id);
    const loop = await wayOf(id, true);
    const effect = (await world.lead.post(`/engagements/${id}/rounds/preview`, loop).expect(200)).body as PlanEffect;
    expect(effect.moves.map(({ title }) => title)).toEqual(expect.arrayContaining(['Ink', 'Client looks']));
    expect(await planOf(id)).toEqual(before);
    const { changeId } = (await world.lead.post(`/engagements/${id}/rounds`, loop).expect(200)).body as PlanChanged;
    const after = await planOf(id);
    expect(after.phases[0]).toMatchObject({ round: 2, rounds: 2, state: 'running' });
    const rows = Object.fromEntries(after.tasks.map((task) => [task.title, task]));
    expect(rows['Sketch']).toMatchObject({ status: 'done' });
    expect(rows['Ink']).toMatchObject({ status: 'queued', start: '2026-12-14', estimateMinutes: 2 * 960 });
    expect(rows['Client looks']).toMatchObject({ status: 'queued', start: '2026-12-17' });
    await undo(changeId);
    const back = await planOf(id);
    expect(back.phases[0]).toMatchObject({ round: 1, state: 'running' });
    const plain = ({ tasks }: EngagementPlan) =>
      tasks.map(({ title, status, estimateMinutes, realStart }) => [title, status, estimateMinutes, realStart]);
    expect(plain(back)).toEqual(plain(before));
  });

  test('from a phase that was handed off runs that phase again', async () => {
    const id = await start();
    for (const title of ['Sketch', 'Ink', 'Client looks']) await setStatus(id, title, 'done');
    const handoff = (await planOf(id)).phases[0]?.handoffId as string;
    const mak = world.harness.ids.people['Mak'];
    await world.lead.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '', reason: 'Agreed', receiverId: mak }).expect(200);
    const { changeId } = (await world.lead.post(`/engagements/${id}/rounds`, await wayOf(id, true)).expect(200)).body as PlanChanged;
    expect((await planOf(id)).phases.map(({ state, baton }) => [state, baton])).toEqual([
      ['running', 'getting-ready'],
      ['ahead', 'not-due'],
    ]);
    await undo(changeId);
    expect((await planOf(id)).phases.map(({ state, baton }) => [state, baton])).toEqual([
      ['over', 'handed-off'],
      ['ahead', 'not-due'],
    ]);
  });

  test('beyond the rounds that were agreed only a lead begins another', async () => {
    const id = await start();
    const loop = await wayOf(id, true);
    const maker = await world.harness.as('Mak');
    // Two were agreed: the second is anybody's of the crew.
    for (const title of ['Sketch', 'Ink', 'Client looks']) await setStatus(id, title, 'done');
    await maker.post(`/engagements/${id}/rounds`, loop).expect(200);
    for (const title of ['Ink', 'Client looks']) await setStatus(id, title, 'done');
    const refused = (await maker.post(`/engagements/${id}/rounds`, loop).expect(403)).body as { message: string };
    expect(refused.message).toBe(
      'This would be round 3 of Draw, and 2 rounds were agreed with the client. Ask the lead to decide about it.',
    );
    await maker.post(`/engagements/${id}/rounds/preview`, loop).expect(403);
    expect((await planOf(id)).phases[0]).toMatchObject({ round: 2 });
    await world.lead.post(`/engagements/${id}/rounds`, loop).expect(200);
    expect((await planOf(id)).phases[0]).toMatchObject({ round: 3, rounds: 2 });
  });

  test('beyond the rounds that were agreed the lead is asked, once, with the effort in view', async () => {
    const id = await start();
    const loop = { ...(await wayOf(id, true)), askLead: true };
    const maker = await world.harness.as('Mak');
    for (const title of ['Sketch', 'Ink', 'Client looks']) await setStatus(id, title, 'done');
    const early = (await maker.post(`/engagements/${id}/rounds`, loop).expect(409)).body as { message: string };
    expect(early.message).toBe('Round 2 of “Draw” is among those agreed with the client. Start it.');
    await maker.post(`/engagements/${id}/rounds`, await wayOf(id, true)).expect(200);
    await maker.post(`/engagements/${id}/rounds/preview`, loop).expect(200);
    const { changeId } = (await maker.post(`/engagements/${id}/rounds`, loop).expect(200)).body as PlanChanged;
    const asked = async () => (await planOf(id)).tasks.filter(({ title }) => title.startsWith('Decide: round 3 of Draw, 2 were agreed'));
    expect((await asked()).map(({ assignees, priority }) => [assignees.map(({ name }) => name), priority])).toEqual([
      [['Lena Park'], 'high'],
    ]);
    expect((await planOf(id)).phases[0]).toMatchObject({ round: 2 });
    expect((await maker.post(`/engagements/${id}/rounds`, loop).expect(409)).body).toMatchObject({ code: 'already-there' });
    await undo(changeId);
    expect(await asked()).toEqual([]);
  });

  test('is refused while nothing of it was begun, and one that is not there', async () => {
    const id = await start();
    const loop = await wayOf(id, true);
    expect((await world.lead.post(`/engagements/${id}/rounds`, loop).expect(409)).body).toMatchObject({ code: 'wrong-moment' });
    const ending = await wayOf(id, false);
    expect((await world.lead.post(`/engagements/${id}/rounds`, ending).expect(400)).body).toMatchObject({ field: 'wayId' });
  });

  test('is kept when the engagement is saved as a template, and copied with it', async () => {
    const id = await start();
    const saved = (await world.lead.post(`/engagements/${id}/template`, { name: 'Saved with ways', measure: 'planned' }).expect(201))
      .body as {
      id: string;
    };
    const again = await start({ templateId: saved.id });
    const copy = await start({ templateId: undefined, copyOf: id });
    for (const other of [again, copy])
      expect((await sheetOf(other, 'Client looks')).ways.map(({ to, ending }) => to?.title ?? ending)).toEqual(['Ink', 'Not a fit']);
  });

  test('comes with a phase taken from the library', async () => {
    const id = await startSmall(world.lead, world.harness);
    const content = (await world.lead.get(`/templates/${templateId}/content`).expect(200)).body as {
      content: { phases: { id: string; name: string }[] };
    };
    const draw = content.content.phases.find(({ name }) => name === 'Draw');
    const after = (await planOf(id)).phases[1]?.id;
    await world.lead.post(`/engagements/${id}/from-library`, { templateId, phaseIds: [draw?.id], phaseId: after }).expect(201);
    const taken = (await planOf(id)).tasks.filter(({ title }) => title === 'Client looks').at(-1);
    const { ways } = (await world.lead.get(`/tasks/${taken?.id}`).expect(200)).body as TaskSheet;
    expect(ways.map(({ to, ending }) => to?.title ?? ending)).toEqual(['Ink', 'Not a fit']);
  });
});

describe('an ending of the map', () => {
  test('closes the engagement with its name and reason, which stand where its standing was', async () => {
    const id = await start();
    const body = { version: await versionOf(id), reason: 'they look for something else', ending: 'Not a fit' };
    await world.lead.post(`/engagements/${id}/drop`, body).expect(200);
    const track = ((await world.lead.get('/engagements?finished=yes').expect(200)).body as EngagementTrack[]).find(
      (each) => each.id === id,
    );
    expect(track?.standing).toEqual([{ kind: 'dropped', on: TODAY, reason: 'they look for something else', ending: 'Not a fit' }]);
    await world.lead.post(`/engagements/${id}/drop`, { ...body, version: body.version + 1 }).expect(409);
  });

  test('that the map does not have is refused', async () => {
    const id = await start();
    const refused = await world.lead
      .post(`/engagements/${id}/drop`, { version: await versionOf(id), reason: 'x', ending: 'Elsewhere' })
      .expect(400);
    expect(refused.body).toMatchObject({ field: 'ending' });
  });
});

test('a closed engagement is at rest: no status, no plan, no handoff, no count, until it is reopened', async () => {
  const id = await start();
  const mak = await world.harness.as('Mak');
  const handoff = (await planOf(id)).phases[0]?.handoffId as string;
  const handOff = { version: 1, words: '', reason: 'Agreed', receiverId: world.harness.ids.people['Mak'] };
  await world.lead.post(`/handoffs/${handoff}/hand-off`, handOff).expect(200);
  const waiting = async (): Promise<number> =>
    ((await mak.get('/session').expect(200)).body as { counts: { handoffs: number } }).counts.handoffs;
  const before = await waiting();
  const task = await taskIn(id, 'Sketch');
  const loop = await wayOf(id, true);
  await world.lead.post(`/engagements/${id}/drop`, { version: await versionOf(id), reason: 'No money' }).expect(200);
  expect(await waiting()).toBe(before - 1);
  const words = '“Quay panels” is closed. Reopen it to go on with its tasks and handoffs.';
  const refusals = [
    await world.lead.patch(`/tasks/${task.id}`, { version: task.version, status: 'done' }),
    await world.lead.patch(`/tasks/${task.id}`, { version: task.version, title: 'Other' }),
    await world.lead.post(`/tasks/${task.id}/steps`, { title: 'More' }),
    await world.lead.post(`/engagements/${id}/tasks`, { phaseId: task.phaseId, title: 'New', days: 1 }),
    await mak.post(`/handoffs/${handoff}/pick-up`, { version: 2 }),
    await world.lead.post(`/engagements/${id}/rounds`, loop),
  ];
  expect((await sheetOf(id, 'Client looks')).ways).toEqual([]);
  expect(refusals.map(({ status, body }) => [status, (body as { message: string }).message])).toEqual(refusals.map(() => [409, words]));
  await world.lead.post(`/engagements/${id}/reopen`, { version: await versionOf(id) }).expect(200);
  expect(await waiting()).toBe(before);
  await world.lead.patch(`/tasks/${task.id}`, { version: task.version, status: 'done' }).expect(200);
});

describe('completing', () => {
  const reason = 'Agreed by telephone';
  const complete = (id: string, body: object) => world.lead.post(`/engagements/${id}/complete`, body);

  test('ends it in one step with its open tasks left, and is undone as a whole', async () => {
    const id = await start();
    const version = await versionOf(id);
    expect((await complete(id, { version, openTasks: 'leave' }).expect(409)).body).toMatchObject({
      code: 'gate-not-clear',
      field: 'reason',
    });
    const before = await planOf(id);
    const { changeId } = (await complete(id, { version, openTasks: 'leave', reason }).expect(200)).body as PlanChanged;
    const after = await planOf(id);
    expect(after.engagement).toMatchObject({ state: 'finished', standing: [{ kind: 'finished', on: TODAY }] });
    expect(after.phases.map(({ state }) => state)).toEqual(['over', 'ahead']);
    expect(after.tasks.map(({ status }) => status)).toEqual(before.tasks.map(({ status }) => status));
    await undo(changeId);
    const back = await planOf(id);
    expect(back.engagement).toMatchObject({ state: 'open', standing: before.engagement.standing });
    expect(back.phases).toEqual(before.phases);
  });

  test('can set open tasks done, which clears the gates that ask for them', async () => {
    const id = await start();
    const handoff = (await planOf(id)).phases[0]?.handoffId as string;
    const { gate } = (await world.lead.get(`/handoffs/${handoff}`).expect(200)).body as HandoffSheet;
    await world.lead.patch(`/gate-checks/${gate.find(({ kind }) => kind === 'word')?.id}`, { isClear: true }).expect(204);
    const { changeId } = (await complete(id, { version: await versionOf(id), openTasks: 'complete' }).expect(200)).body as PlanChanged;
    expect((await planOf(id)).tasks.every(({ status }) => status === 'done')).toBe(true);
    await undo(changeId);
    expect((await planOf(id)).tasks.every(({ status }) => status === 'queued')).toBe(true);
    expect((await planOf(id)).engagement.state).toBe('open');
  });

  test('can let open tasks go on in another engagement, with what is left of their effort', async () => {
    const [id, other] = [await start(), await start({ name: 'Next job' })];
    const ink = await taskIn(id, 'Ink');
    await world.lead.post(`/tasks/${ink.id}/time`, { minutes: 360, day: TODAY }).expect(201);
    await setStatus(id, 'Sketch', 'done');
    const body = { version: await versionOf(id), openTasks: 'move', moveTo: other, reason };
    // What is tried needs no reason yet.
    const tried = { ...body, reason: undefined };
    const preview = (await world.lead.post(`/engagements/${id}/complete/preview`, tried).expect(200)).body as PlanEffect;
    const there = (await planOf(other)).tasks;
    const { changeId, effect } = (await complete(id, body).expect(200)).body as PlanChanged;
    expect(effect).toEqual(preview);
    const moved = (await planOf(other)).tasks.filter((task) => !there.some(({ id: known }) => known === task.id));
    expect(moved.map(({ title, estimateMinutes, after }) => [title, estimateMinutes, after.length])).toEqual([
      ['Ink', 600, 0],
      ['Client looks', null, 1],
      ['Cut', 480, 0],
      ['Paint', 480, 1],
    ]);
    expect((await taskIn(id, 'Ink')).status).toBe('dropped');
    await undo(changeId);
    expect((await planOf(other)).tasks).toHaveLength(there.length);
    expect((await taskIn(id, 'Ink')).status).not.toBe('dropped');
    expect((await planOf(id)).engagement.state).toBe('open');
  });

  test.each([
    ['nowhere', {}, 400],
    ['into itself', { moveTo: 'itself' }, 400],
    ['into what is not there', { moveTo: '00000000-0000-4000-8000-000000000000' }, 404],
  ])('moving open tasks %s is refused, and nothing is completed', async (_name, more, status) => {
    const id = await start();
    const moveTo = 'moveTo' in more ? { moveTo: more.moveTo === 'itself' ? id : more.moveTo } : {};
    await complete(id, { version: await versionOf(id), openTasks: 'move', reason, ...moveTo }).expect(status);
    expect((await planOf(id)).engagement.state).toBe('open');
  });

  test('of what is not there is refused, also with tasks that would go on elsewhere', async () => {
    const other = await start();
    for (const unknown of ['00000000-0000-4000-8000-000000000000', 'ffffffff-ffff-4fff-bfff-ffffffffffff'])
      await complete(unknown, { version: 1, openTasks: 'move', moveTo: other, reason }).expect(404);
  });

  test('nobody’s desk holds what was left open, and reopening brings it back', async () => {
    const id = await start();
    const task = await taskIn(id, 'Sketch');
    await world.lead.patch(`/tasks/${task.id}`, { version: task.version, assigneeIds: [world.harness.ids.people['Dora']] }).expect(200);
    const dora = await world.harness.as('Dora');
    const has = async (): Promise<boolean> =>
      ((await dora.get('/desk').expect(200)).body as Desk).ready.some(({ engagement }) => engagement.id === id);
    expect(await has()).toBe(true);
    await complete(id, { version: await versionOf(id), openTasks: 'leave', reason }).expect(200);
    expect(await has()).toBe(false);
    await world.lead.post(`/engagements/${id}/reopen`, { version: await versionOf(id) }).expect(200);
    expect(await has()).toBe(true);
    expect((await planOf(id)).phases.map(({ state }) => state)).toEqual(['running', 'ahead']);
  });

  test('leaves no way out: no round starts in it, and no tasks go on in it', async () => {
    const [id, other] = [await start(), await start({ name: 'Next job' })];
    const loop = await wayOf(id, true);
    await setStatus(id, 'Sketch', 'done');
    await setStatus(id, 'Ink', 'done');
    await complete(id, { version: await versionOf(id), openTasks: 'leave', reason }).expect(200);
    expect((await sheetOf(id, 'Client looks')).ways).toEqual([]);
    await world.lead.post(`/engagements/${id}/rounds`, loop).expect(409);
    const moving = { version: await versionOf(other), openTasks: 'move', moveTo: id, reason };
    expect((await complete(other, moving).expect(409)).body).toMatchObject({ code: 'wrong-moment', field: 'moveTo' });
    expect((await planOf(other)).engagement.state).toBe('open');
  });

  test('before its last phase: once reopened, it can be handed off again', async () => {
    const id = await start();
    const handoff = (await planOf(id)).phases[0]?.handoffId as string;
    await complete(id, { version: await versionOf(id), openTasks: 'leave', reason }).expect(200);
    await world.lead.post(`/engagements/${id}/reopen`, { version: await versionOf(id) }).expect(200);
    const { version, state } = (await world.lead.get(`/handoffs/${handoff}`).expect(200)).body as HandoffSheet;
    expect(state).toBe('getting-ready');
    const receiverId = world.harness.ids.people['Mak'];
    await world.lead.post(`/handoffs/${handoff}/hand-off`, { version, words: '', reason, receiverId }).expect(200);
  });

  test('of a proposal, or of what is over, is refused', async () => {
    const id = await start({ likelihood: 40 });
    await complete(id, { version: await versionOf(id), openTasks: 'leave', reason }).expect(409);
    const other = await start();
    await complete(other, { version: await versionOf(other), openTasks: 'leave', reason }).expect(200);
    await complete(other, { version: await versionOf(other), openTasks: 'leave', reason }).expect(409);
  });
});
