import type { Desk, EngagementPlan, PlanTask, TaskSheet, TaskEdited, PlanEffect } from '@crew/contract';
import { historyOf, startHarness, startSmall, TODAY, type Caller, type Harness } from '../../test/harness.ts';

let harness: Harness;
let lead: Caller;
let id: string;
beforeAll(async () => {
  harness = await startHarness();
  lead = await harness.as('Lena');
});
beforeEach(async () => {
  harness.forgetTries();
  id = await startSmall(lead, harness);
});
afterAll(() => harness.close());

const planOf = async (): Promise<EngagementPlan> => (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const taskOf = async (title: string): Promise<PlanTask> => (await planOf()).tasks.find((task) => task.title === title) as PlanTask;

describe('a new task', () => {
  test('stands at the end of its phase, with the next number, placed by the planner', async () => {
    const draw = (await planOf()).phases[0];
    const { body } = await lead
      .post(`/engagements/${id}/tasks`, { phaseId: draw?.id, title: '  Colour test ', estimateMinutes: 90 })
      .expect(201);
    expect((body as TaskEdited).task).toMatchObject({
      title: 'Colour test',
      number: 6,
      phase: 'Draw',
      start: '2026-11-23',
      due: '2026-11-23',
      estimateMinutes: 90,
    });
    const inDraw = (await planOf()).tasks.filter((task) => task.phaseId === draw?.id);
    expect(inDraw.at(-1)?.title).toBe('Colour test');
  });

  test('in a phase ahead it begins when the phase does', async () => {
    const make = (await planOf()).phases[1];
    const { body } = await lead.post(`/engagements/${id}/tasks`, { phaseId: make?.id, title: 'Wrap', days: 2 }).expect(201);
    expect((body as TaskEdited).task).toMatchObject({ start: '2026-12-03', due: '2026-12-04' });
  });

  test('is looked at first, tells what it moves, and goes again by undo', async () => {
    const { phases, engagement } = await planOf();
    const body = { phaseId: phases[0]?.id, title: 'A long test', days: 12 };
    const looked = (await lead.post(`/engagements/${id}/tasks/preview`, body).expect(200)).body as PlanEffect;
    expect(looked.finish).toEqual({ from: engagement.finish, to: expect.any(String) as string });
    expect(looked.finish.to > engagement.finish).toBe(true);
    expect((await planOf()).tasks).toHaveLength(5);
    const added = (await lead.post(`/engagements/${id}/tasks`, body).expect(201)).body as TaskEdited;
    expect(added.effect).toEqual(looked);
    expect((await planOf()).engagement.finish).toBe(looked.finish.to);
    await lead.post(`/changes/${added.changeId}/undo`).expect(200);
    expect((await planOf()).engagement.finish).toBe(engagement.finish);
    expect((await planOf()).tasks).toHaveLength(5);
  });

  test('in a phase of another engagement it is refused at the field, and nothing is added', async () => {
    const other = await startSmall(lead, harness, { name: 'Other' });
    const theirs = ((await lead.get(`/engagements/${other}/plan`).expect(200)).body as EngagementPlan).phases[0];
    const { body } = await lead.post(`/engagements/${id}/tasks`, { phaseId: theirs?.id, title: 'Lost' }).expect(400);
    expect(body).toMatchObject({ code: 'unknown-id', field: 'phaseId' });
    expect((await planOf()).tasks).toHaveLength(5);
  });

  test.each([
    ['no title', { title: ' ' }, 'title'],
    ['half a day', { title: 'A', days: 0.5 }, 'days'],
    ['less than no effort', { title: 'A', estimateMinutes: -1 }, 'estimateMinutes'],
  ])('with %s it is refused at the field', async (_what, wrong, field) => {
    const phaseId = (await planOf()).phases[0]?.id;
    expect((await lead.post(`/engagements/${id}/tasks`, { phaseId, ...wrong }).expect(400)).body).toMatchObject({ field });
  });
});

describe('steps', () => {
  test('are counted, ticked and unticked, and told in the history', async () => {
    const ink = await taskOf('Ink');
    const added = (await lead.post(`/tasks/${ink.id}/steps`, { title: 'Outline' }).expect(201)).body as TaskSheet;
    await lead.post(`/tasks/${ink.id}/steps`, { title: 'Fill' }).expect(201);
    const step = added.steps[0]?.id;
    const ticked = (await lead.patch(`/steps/${step}`, { isDone: true }).expect(200)).body as TaskSheet;
    expect(ticked).toMatchObject({ stepsDone: 1, stepsAll: 2 });
    expect(ticked.steps.map(({ title, isDone }) => [title, isDone])).toEqual([
      ['Outline', true],
      ['Fill', false],
    ]);
    const back = (await lead.patch(`/steps/${step}`, { isDone: false }).expect(200)).body as TaskSheet;
    expect(back.stepsDone).toBe(0);
    const lines = (await historyOf(lead, ink.id)).map(({ kind, note, changes }) => [kind, note, changes[0]?.to]);
    expect(lines).toEqual([
      ['step-changed', 'Outline', false],
      ['step-changed', 'Outline', true],
      ['step-added', 'Fill', undefined],
      ['step-added', 'Outline', undefined],
    ]);
  });

  test('of a task somebody may not see are not there', async () => {
    const cut = await taskOf('Cut');
    const { steps } = (await lead.post(`/tasks/${cut.id}/steps`, { title: 'Measure' }).expect(201)).body as TaskSheet;
    const fred = await harness.as('Fred');
    await fred.patch(`/steps/${steps[0]?.id}`, { isDone: true }).expect(404);
    expect((await taskOf('Cut')).stepsDone).toBe(0);
  });
});

describe('time', () => {
  test('adds up on the task and the engagement, for whoever logged it', async () => {
    const { id: taskId } = await taskOf('Sketch');
    const dora = await harness.as('Dora');
    await dora.post(`/tasks/${taskId}/time`, { day: '2026-11-20', minutes: 45, note: 'first lines' }).expect(201);
    await lead.post(`/tasks/${taskId}/time`, { day: TODAY, minutes: 15 }).expect(201);
    expect((await taskOf('Sketch')).loggedMinutes).toBe(60);
    expect((await planOf()).engagement.loggedMinutes).toBe(60);
    const rows = await harness.database.rows<{ name: string; minutes: number }>(
      'SELECT p.name, x.minutes FROM time_entry x JOIN person p ON p.id = x.person_id WHERE x.task_id = $1 ORDER BY x.day',
      [taskId],
    );
    expect(rows).toEqual([
      { name: 'Dora Quill', minutes: 45 },
      { name: 'Lena Park', minutes: 15 },
    ]);
  });

  test.each([
    ['a day that has not come', { day: '2026-11-24', minutes: 30 }, 'day'],
    ['no time at all', { day: TODAY, minutes: 0 }, 'minutes'],
    ['more than a day has', { day: TODAY, minutes: 1441 }, 'minutes'],
    ['a day that does not exist', { day: '2026-02-30', minutes: 30 }, 'day'],
  ])('for %s is refused at the field', async (_what, wrong, field) => {
    const { id: taskId } = await taskOf('Sketch');
    expect((await lead.post(`/tasks/${taskId}/time`, wrong).expect(400)).body).toMatchObject({ field });
    expect((await taskOf('Sketch')).loggedMinutes).toBe(0);
  });
});

describe('editing', () => {
  test('several fields at once are one event with each of them', async () => {
    const { id: taskId, version } = await taskOf('Ink');
    const change = { version, title: 'Ink and wash', priority: 'high', estimateMinutes: 600, description: 'Two layers.' };
    const { body } = await lead.patch(`/tasks/${taskId}`, change).expect(200);
    const { task } = body as { task: TaskSheet };
    expect(task).toMatchObject({ title: 'Ink and wash', priority: 'high', estimateMinutes: 600, description: 'Two layers.' });
    const lines = await historyOf(lead, taskId);
    expect(lines).toHaveLength(1);
    expect(lines[0]?.changes.map(({ field }) => field).sort()).toEqual(['description', 'estimateMinutes', 'priority', 'title']);
  });

  test('a fixed day is kept, what follows moves, and a day it cannot keep is said', async () => {
    const { id: taskId, version } = await taskOf('Ink');
    const fixed = await lead.patch(`/tasks/${taskId}`, { version, fixedDay: '2026-12-07' }).expect(200);
    expect((fixed.body as { task: TaskSheet }).task).toMatchObject({ start: '2026-12-07', due: '2026-12-09' });
    expect((await taskOf('Cut')).start).toBe('2026-12-14');
    const early = await lead.patch(`/tasks/${taskId}`, { version: version + 1, fixedDay: '2026-11-23' }).expect(200);
    expect(early.body).toMatchObject({ effect: { newConflicts: [{ title: 'Ink', days: 2 }] } });
    expect((await taskOf('Ink')).missedDays).toBe(2);
  });

  test('somebody who is not of the crew is refused, and those before stay', async () => {
    const before = await taskOf('Cut');
    const wrong = { version: before.version, assigneeIds: ['00000000-0000-4000-8000-000000000000'] };
    const { body } = await lead.patch(`/tasks/${before.id}`, wrong).expect(400);
    expect(body).toMatchObject({ field: 'assigneeIds' });
    expect((await taskOf('Cut')).assignees).toEqual(before.assignees);
  });

  test('two people share the work, the first one first', async () => {
    const { id: taskId, version } = await taskOf('Cut');
    const { Dora, Mak } = harness.ids.people;
    await lead.patch(`/tasks/${taskId}`, { version, assigneeIds: [Dora, Mak, Dora] }).expect(200);
    expect((await taskOf('Cut')).assignees.map((person) => person.name)).toEqual(['Dora Quill', 'Mak Reyes']);
  });

  test('a freelancer changes the status alone', async () => {
    const { id: taskId, version } = await taskOf('Sketch');
    await lead.patch(`/tasks/${taskId}`, { version, assigneeIds: [harness.ids.people['Fred']] }).expect(200);
    const fred = await harness.as('Fred');
    const { body } = await fred.patch(`/tasks/${taskId}`, { version: version + 1, estimateMinutes: 5 }).expect(403);
    expect(body).toMatchObject({ code: 'not-allowed', field: 'estimateMinutes' });
  });

  test('previewing whom it overloads names them, their hours and the day, and gives nothing to anybody', async () => {
    const { id: taskId, version } = await taskOf('Sketch');
    const asked = { version, estimateMinutes: 6000, assigneeIds: [harness.ids.people['Dora']] };
    const { body } = await lead.post(`/tasks/${taskId}/preview`, asked).expect(200);
    expect(body).toMatchObject({ overloads: [{ person: { name: 'Dora Quill' }, firstDay: TODAY }] });
    expect((await taskOf('Sketch')).estimateMinutes).toBe(480);
  });
});

describe('what is new on a desk', () => {
  const deskOf = async (caller: Caller): Promise<Desk> => (await caller.get('/desk').expect(200)).body as Desk;

  test('is there until it was seen, with who gave it; giving it to oneself is no news', async () => {
    const { id: taskId, version } = await taskOf('Sketch');
    const mak = await harness.as('Mak');
    await mak.post('/desk/seen').expect(204);
    await lead.patch(`/tasks/${taskId}`, { version, assigneeIds: [harness.ids.people['Mak']] }).expect(200);
    const fresh = (await deskOf(mak)).fresh.filter((task) => task.id === taskId);
    expect(fresh).toMatchObject([{ title: 'Sketch', waitingFor: 'from Lena' }]);
    await mak.post('/desk/seen').expect(204);
    expect((await deskOf(mak)).fresh).toEqual([]);
    await mak.patch(`/tasks/${taskId}`, { version: version + 1, assigneeIds: [] }).expect(200);
    await mak.patch(`/tasks/${taskId}`, { version: version + 2, assigneeIds: [harness.ids.people['Mak']] }).expect(200);
    expect((await deskOf(mak)).fresh).toEqual([]);
  });
});
