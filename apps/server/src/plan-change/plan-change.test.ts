import type { ChangeFollowed, EngagementPlan, PlanChanged, PlanEffect, PlanTask, TaskEdited, TaskSheet } from '@crew/contract';
import { RefreshJob } from '../jobs/refresh.job.ts';
import { historyOf, startSmall, testWorld, TODAY } from '../../test/harness.ts';

const { harness, lead } = testWorld();

const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const taskOf = async (id: string, title: string): Promise<PlanTask> =>
  (await planOf(id)).tasks.find((task) => task.title === title) as PlanTask;

/** Changes given by title, with the versions as they are. */
async function changesOf(id: string, changes: Readonly<Record<string, object>>): Promise<{ tasks: object[] }> {
  const { tasks } = await planOf(id);
  return {
    tasks: Object.entries(changes).map(([title, change]) => {
      const task = tasks.find((candidate) => candidate.title === title) as PlanTask;
      return { id: task.id, version: task.version, ...change };
    }),
  };
}
const take = async (id: string, changes: Readonly<Record<string, object>>): Promise<PlanChanged> =>
  (await lead.post(`/engagements/${id}/changes`, await changesOf(id, changes)).expect(201)).body as PlanChanged;
const look = async (id: string, changes: Readonly<Record<string, object>>): Promise<PlanEffect> =>
  (await lead.post(`/engagements/${id}/changes/preview`, await changesOf(id, changes)).expect(200)).body as PlanEffect;
const refused = async (id: string, changes: Readonly<Record<string, object>>) =>
  (await lead.post(`/engagements/${id}/changes`, await changesOf(id, changes))).body as { code: string; message: string; field?: string };
const days = async (id: string) => Object.fromEntries((await planOf(id)).tasks.map((task) => [task.title, [task.start, task.due]]));
const rows = (id: string) =>
  harness.database.rows(
    `SELECT to_jsonb(t) - 'version' AS task, ARRAY(SELECT person_id FROM task_assignee a WHERE a.task_id = t.id ORDER BY position) AS people,
       ARRAY(SELECT l.predecessor_id || l.type || l.lag FROM task_dependency l WHERE l.successor_id = t.id ORDER BY 1) AS dependencies,
       ARRAY(SELECT s.title FROM step s WHERE s.task_id = t.id ORDER BY s.position) AS steps
     FROM task t WHERE t.engagement_id = $1 ORDER BY t.number`,
    [id],
  );

describe('looking first', () => {
  test('a preview says what moves and changes nothing', async () => {
    const id = await startSmall(lead, harness, { promise: '2026-12-10' });
    const before = await rows(id);
    const effect = await look(id, { Sketch: { days: 4 } });
    expect(effect.moves.map((move) => move.title)).toEqual(['Sketch', 'Ink', 'Client looks', 'Cut', 'Paint']);
    expect(effect.promiseSlack).toEqual({ from: 3, to: 1 });
    expect(effect.finish.from < effect.finish.to).toBe(true);
    expect(await rows(id)).toEqual(before);
  });

  test('what is taken is what was shown', async () => {
    const id = await startSmall(lead, harness);
    const change = { Sketch: { days: 4 }, Paint: { shiftDays: 2 } };
    const shown = await look(id, change);
    expect((await take(id, change)).effect).toEqual(shown);
  });

  test('a day asked for that cannot be is said, with what holds it', async () => {
    const id = await startSmall(lead, harness);
    const effect = await look(id, { Ink: { notBefore: '2026-11-24' } });
    expect(effect.held).toEqual([{ id: expect.any(String), title: 'Ink', wanted: '2026-11-24', start: '2026-11-25', by: 'Sketch' }]);
  });

  test('a fixed meeting that would clash is named with its day, and people who would be over', async () => {
    const id = await startSmall(lead, harness);
    await take(id, { Ink: { fixedDay: '2026-11-25' } });
    const dora = harness.ids.people['Dora'];
    const effect = await look(id, { Sketch: { days: 4, estimateMinutes: 4800, assigneeIds: [dora] } });
    expect(effect.newConflicts).toEqual([{ id: expect.any(String), title: 'Ink', days: 2, fixedDay: '2026-11-25' }]);
    expect(effect.overloads.map((over) => over.person.id)).toContain(dora);
  });
});

describe('many at once', () => {
  test('all are changed, or, when one cannot be, none', async () => {
    const id = await startSmall(lead, harness);
    const before = await rows(id);
    const changes = await changesOf(id, { Sketch: { priority: 'high' }, Ink: { priority: 'high', deliverableId: harness.ids.client } });
    await lead.post(`/engagements/${id}/changes`, changes).expect(400);
    expect(await rows(id)).toEqual(before);
    await take(id, { Sketch: { priority: 'high', labels: ['room 2', 'room 2 '] }, Ink: { priority: 'high' } });
    expect(await taskOf(id, 'Sketch')).toMatchObject({ priority: 'high', labels: ['room 2'] });
    expect(await taskOf(id, 'Ink')).toMatchObject({ priority: 'high' });
  });

  test('one that is stale refuses all and says how it is now', async () => {
    const id = await startSmall(lead, harness);
    const changes = await changesOf(id, { Sketch: { days: 3 }, Ink: { days: 4 } });
    await take(id, { Ink: { title: 'Ink it' } });
    const { body } = await lead.post(`/engagements/${id}/changes`, changes).expect(409);
    expect(body).toMatchObject({ code: 'changed-meanwhile', details: { current: { title: 'Ink it' } } });
    expect(await taskOf(id, 'Sketch')).toMatchObject({ days: 2 });
  });

  test.each<[string, object, object]>([
    ['what has not begun may not start before its new day', {}, { notBefore: '2026-11-30', fixedDay: null }],
    ['a fixed day moves with it', { fixedDay: '2026-12-01' }, { fixedDay: '2026-12-03', notBefore: null }],
    ['what is under way ends later', { status: 'active' }, { days: 5, notBefore: null }],
    ['what is done stays', { status: 'done' }, { days: 3, notBefore: null }],
  ])('shifting by two working days: %s', async (_rule, first, expected) => {
    const id = await startSmall(lead, harness);
    await take(id, { Ink: first });
    await take(id, { Ink: { shiftDays: 2 } });
    // Ink begins on Wednesday 25 November; Friday is closed.
    expect(await taskOf(id, 'Ink')).toMatchObject(expected);
  });

  test('nothing is pulled before what it waits for', async () => {
    const id = await startSmall(lead, harness);
    const before = await days(id);
    await take(id, { Ink: { shiftDays: 3 } });
    await take(id, { Ink: { shiftDays: -30 } });
    expect((await days(id))['Ink']).toEqual(before['Ink']);
  });

  test('a task named twice is refused', async () => {
    const id = await startSmall(lead, harness);
    const { tasks } = await changesOf(id, { Ink: { days: 4 } });
    const { body } = await lead.post(`/engagements/${id}/changes`, { tasks: [...tasks, ...tasks] }).expect(400);
    expect(body).toMatchObject({ code: 'invalid-input', field: 'tasks' });
  });
});

describe('dependencies', () => {
  test('all four kinds with lag are kept and place the task', async () => {
    const id = await startSmall(lead, harness);
    const [sketch, cut] = [await taskOf(id, 'Sketch'), await taskOf(id, 'Cut')];
    await take(id, {
      Ink: { after: [{ taskId: sketch.id, type: 'SS', lag: 1 }] },
      Paint: { after: [{ taskId: cut.id, type: 'FF', lag: 3 }] },
    });
    expect((await days(id))['Ink']).toEqual(['2026-11-24', '2026-11-26']);
    expect((await taskOf(id, 'Ink')).after).toEqual([{ id: sketch.id, number: sketch.number, type: 'SS', lag: 1 }]);
    const sheet = (await lead.get(`/tasks/${sketch.id}`).expect(200)).body as TaskSheet;
    expect(sheet.holdsUp).toEqual([expect.objectContaining({ title: 'Ink', type: 'SS', lag: 1 })]);
    expect(sheet.waitsFor).toEqual([]);
  });

  test('a loop is refused naming its members in order, and nothing is written', async () => {
    const id = await startSmall(lead, harness);
    const ink = await taskOf(id, 'Ink');
    const answer = await refused(id, { Sketch: { after: [{ taskId: ink.id, type: 'FS' }] } });
    expect(answer.code).toBe('waits-in-a-loop');
    expect(answer.message).toMatch(/Ink → Sketch → Ink|Sketch → Ink → Sketch/);
    expect((await taskOf(id, 'Sketch')).after).toEqual([]);
  });

  test('a task cannot wait for itself, for one twice, or for another engagement’s', async () => {
    const [id, other] = [await startSmall(lead, harness), await startSmall(lead, harness, { name: 'Other panels' })];
    const [ink, cut, foreign] = [await taskOf(id, 'Ink'), await taskOf(id, 'Cut'), await taskOf(other, 'Cut')];
    const dependency = (taskId: string) => ({ taskId, type: 'FS' });
    expect(await refused(id, { Ink: { after: [dependency(ink.id)] } })).toMatchObject({ code: 'waits-in-a-loop', field: 'after' });
    expect(await refused(id, { Ink: { after: [dependency(cut.id), dependency(cut.id)] } })).toMatchObject({
      code: 'invalid-input',
      field: 'after',
    });
    expect(await refused(id, { Ink: { after: [dependency(foreign.id)] } })).toMatchObject({ code: 'unknown-id', field: 'after' });
  });

  test('the history says in words what it waited for before and after', async () => {
    const id = await startSmall(lead, harness);
    const ink = await taskOf(id, 'Ink');
    await take(id, { Ink: { after: [] } });
    const line = (await historyOf(lead, ink.id)).find(({ kind }) => kind === 'task-changed');
    expect(line?.changes).toEqual([{ field: 'after', from: ['FS Sketch'], to: [] }]);
  });
});

describe('depth', () => {
  const gathered = async (): Promise<string> => {
    const id = await startSmall(lead, harness);
    const sketch = await taskOf(id, 'Sketch');
    for (const title of ['Front view', 'Back view'])
      await lead
        .post(`/engagements/${id}/tasks`, { phaseId: sketch.phaseId, parentId: sketch.id, title, days: 3, estimateMinutes: 240 })
        .expect(201);
    return id;
  };

  test('a task with subtasks spans them, and what waits for it waits for them', async () => {
    const id = await gathered();
    expect(await taskOf(id, 'Sketch')).toMatchObject({ isGroup: true, start: '2026-11-23', due: '2026-11-25' });
    expect((await days(id))['Ink']?.[0]).toBe('2026-11-26');
  });

  test('effort and percent are those of the subtasks, and they decide its status', async () => {
    const id = await gathered();
    const before = (await planOf(id)).engagement;
    // 8 h of its own are put aside for 4 + 4 h of its parts; what has no estimate counts 8 h, the middle of the others.
    expect(before.effortMinutes).toBe(960 + 480 + 480 + 480);
    await take(id, { 'Front view': { status: 'done' } });
    expect(await taskOf(id, 'Sketch')).toMatchObject({ status: 'active' });
    await take(id, { 'Back view': { status: 'done' } });
    expect(await taskOf(id, 'Sketch')).toMatchObject({ status: 'done' });
    expect((await planOf(id)).engagement).toMatchObject({ percent: 16 });
    await take(id, { 'Back view': { status: 'active' } });
    expect(await taskOf(id, 'Sketch')).toMatchObject({ status: 'active' });
  });

  test('a status alone reaches the group with the plan behind it', async () => {
    const id = await gathered();
    const front = await taskOf(id, 'Front view');
    await lead.patch(`/tasks/${front.id}`, { version: front.version, status: 'active' }).expect(200);
    await harness.settle();
    expect(await taskOf(id, 'Sketch')).toMatchObject({ status: 'active', realStart: TODAY });
  });

  test.each<[string, object, string]>([
    ['status', { status: 'done' }, 'status'],
    ['length', { days: 9 }, 'length'],
    ['day', { fixedDay: '2026-12-01' }, 'day'],
    ['effort', { estimateMinutes: 60 }, 'effort'],
  ])('its %s is not set by hand', async (_what, change, word) => {
    const id = await gathered();
    const sketch = await taskOf(id, 'Sketch');
    const answer = await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, ...change }).expect(409);
    expect((answer.body as { message: string }).message).toBe(`The subtasks of “Sketch” decide its ${word}. Change it on them.`);
  });

  test('parts are moved under others, out again, and before one another', async () => {
    const id = await gathered();
    const [sketch, front, back] = [await taskOf(id, 'Sketch'), await taskOf(id, 'Front view'), await taskOf(id, 'Back view')];
    await take(id, { 'Back view': { parentId: front.id } });
    expect(await taskOf(id, 'Front view')).toMatchObject({ isGroup: true, parentId: sketch.id });
    await take(id, { 'Back view': { parentId: sketch.id, beforeId: front.id } });
    const titles = (await planOf(id)).tasks.filter((task) => task.parentId === sketch.id).map((task) => task.title);
    expect(titles).toEqual(['Back view', 'Front view']);
    expect(await taskOf(id, 'Front view')).toMatchObject({ isGroup: false });
    await take(id, { 'Back view': { parentId: null }, 'Front view': { parentId: null } });
    expect(await taskOf(id, 'Sketch')).toMatchObject({ isGroup: false, estimateMinutes: 480 });
    expect(back.parentId).toBe(sketch.id);
  });

  test('nothing becomes a part of itself', async () => {
    const id = await gathered();
    const [sketch, front] = [await taskOf(id, 'Sketch'), await taskOf(id, 'Front view')];
    expect((await refused(id, { Sketch: { parentId: front.id } })).message).toBe(
      '“Sketch” cannot become a part of its own part “Front view”. Choose another place.',
    );
    expect((await refused(id, { Sketch: { parentId: sketch.id } })).message).toContain('a part of itself');
    expect(
      (await refused(id, { 'Front view': { parentId: (await taskOf(id, 'Back view')).id }, 'Back view': { parentId: front.id } })).message,
    ).toContain('cannot become a part of');
  });

  test('a group takes its parts along into another phase; a part moved by itself leaves it', async () => {
    const id = await gathered();
    const { phases } = await planOf(id);
    const make = phases.find((phase) => phase.name === 'Make')?.id as string;
    await take(id, { Ink: { after: [] }, Sketch: { phaseId: make } });
    expect(await taskOf(id, 'Front view')).toMatchObject({ phaseId: make });
    await take(id, { 'Front view': { phaseId: phases[0]?.id } });
    expect(await taskOf(id, 'Front view')).toMatchObject({ phaseId: phases[0]?.id, parentId: null });
  });

  test('what is worked on is counted once: desk, load and gate know nothing of groups', async () => {
    const id = await gathered();
    const [mak, sketch, front] = [harness.ids.people['Mak'], await taskOf(id, 'Sketch'), await taskOf(id, 'Front view')];
    await take(id, { Sketch: { assigneeIds: [mak] }, 'Front view': { assigneeIds: [mak] } });
    const desk = JSON.stringify((await (await harness.as('Mak')).get('/desk').expect(200)).body);
    expect(desk).toContain(front.id);
    expect(desk).not.toContain(sketch.id);
    const load = JSON.stringify((await lead.get('/workload').expect(200)).body);
    expect(load).not.toContain(sketch.id);
  });
});

describe('done outside', () => {
  const maker = { maker: 'Pane & Sons', turnaroundDays: 5, bufferDays: 2, state: 'to-brief' };

  test('the brief goes out in time for what waits for it, and moves with it', async () => {
    const id = await startSmall(lead, harness);
    await take(id, { Cut: { outside: maker } });
    const cut = await taskOf(id, 'Cut');
    const paint = await taskOf(id, 'Paint');
    // Seven open days before Paint begins, Friday 27 November being closed.
    expect(paint.start).toBe('2026-12-04');
    expect(cut.outside).toEqual({ ...maker, neededOn: null, briefBy: '2026-11-24' });
    const { effect } = await take(id, { Paint: { shiftDays: 2 } });
    expect(effect.briefs).toEqual([{ id: cut.id, title: 'Cut', from: '2026-11-24', to: '2026-11-26', isLate: false }]);
  });

  test('a day it is needed on goes before what the plan says, and a brief that is too late is said', async () => {
    const id = await startSmall(lead, harness);
    const { effect } = await take(id, { Cut: { outside: { ...maker, neededOn: '2026-11-30' } } });
    expect(effect.briefs).toEqual([expect.objectContaining({ title: 'Cut', from: null, to: '2026-11-18', isLate: true })]);
  });

  test('its state is apart from the status of the task, and it can be taken away', async () => {
    const id = await startSmall(lead, harness);
    await take(id, { Cut: { outside: { ...maker, state: 'making' } } });
    expect(await taskOf(id, 'Cut')).toMatchObject({ status: 'queued', outside: { state: 'making' } });
    await take(id, { Cut: { outside: null } });
    expect((await taskOf(id, 'Cut')).outside).toBeNull();
  });
});

describe('taking out', () => {
  test('a task goes with its subtasks and its dependencies', async () => {
    const id = await startSmall(lead, harness);
    await take(id, { Ink: { isDeleted: true } });
    expect((await planOf(id)).tasks.map((task) => task.title)).toEqual(['Sketch', 'Client looks', 'Cut', 'Paint']);
    expect((await taskOf(id, 'Client looks')).after).toEqual([]);
  });

  test('not when time was logged on it', async () => {
    const id = await startSmall(lead, harness);
    const ink = await taskOf(id, 'Ink');
    await lead.post(`/tasks/${ink.id}/time`, { day: TODAY, minutes: 90 }).expect(201);
    const { code, message } = await refused(id, { Ink: { isDeleted: true } });
    expect({ code, message }).toEqual({
      code: 'still-used',
      message: 'Time is logged on “Ink” (1.5 h), which removing it would lose. Set it to Dropped instead.',
    });
  });
});

describe('undo', () => {
  test.each<[string, Readonly<Record<string, object>>]>([
    ['dates and what they moved', { Sketch: { days: 5 }, Paint: { shiftDays: 3 } }],
    ['people, labels, priority, status', { Sketch: { assigneeIds: [], labels: ['x'], priority: 'high' }, Cut: { status: 'done' } }],
    ['dependencies', { Ink: { after: [] } }],
    ['tasks taken out, with steps and dependencies', { Sketch: { isDeleted: true }, Ink: { isDeleted: true } }],
    ['work done outside', { Cut: { outside: { maker: 'Pane & Sons', turnaroundDays: 5, bufferDays: 2, state: 'briefed' } } }],
  ])('%s are as they were', async (_what, change) => {
    const id = await startSmall(lead, harness);
    const before = await rows(id);
    const { changeId } = await take(id, change);
    expect(await rows(id)).not.toEqual(before);
    await lead.post(`/changes/${changeId}/undo`).expect(200);
    expect(await rows(id)).toEqual(before);
  });

  describe('of a status', () => {
    const statusOf = async (id: string, title: string, status: string): Promise<string> => {
      const { id: taskId, version } = await taskOf(id, title);
      const { body } = await lead.patch(`/tasks/${taskId}`, { version, status }).expect(200);
      await harness.settle();
      return (body as TaskEdited).changeId as string;
    };
    afterEach(() => harness.clock.moveTo(TODAY));

    test('what it moved is told, and goes back with it', async () => {
      const id = await startSmall(lead, harness);
      const before = await days(id);
      const changeId = await statusOf(id, 'Sketch', 'done');
      const { body } = await lead.get(`/changes/${changeId}/followed`).expect(200);
      expect(body).toMatchObject({ isPlanned: true });
      expect((body as ChangeFollowed).moves.map(({ title }) => title)).toContain('Ink');
      await lead.post(`/changes/${changeId}/undo`).expect(200);
      await harness.settle();
      expect(await days(id)).toEqual(before);
    });

    test('overdue work that was closed by mistake is overdue again, with the day it was due', async () => {
      const id = await startSmall(lead, harness);
      harness.clock.moveTo('2026-12-01');
      await harness.app.get(RefreshJob).all();
      await harness.settle();
      const before = await days(id);
      const changeId = await statusOf(id, 'Sketch', 'done');
      await lead.post(`/changes/${changeId}/undo`).expect(200);
      await harness.settle();
      expect(await days(id)).toEqual(before);
      const again = await statusOf(id, 'Sketch', 'done');
      await statusOf(id, 'Ink', 'done');
      await lead.post(`/changes/${again}/undo`).expect(200);
      await harness.settle();
      expect((await taskOf(id, 'Sketch')).due).toBe(before['Sketch']?.[1]);
    });
  });

  test('places in the tree are as they were', async () => {
    const id = await startSmall(lead, harness);
    const before = await rows(id);
    const sketch = await taskOf(id, 'Sketch');
    const { changeId } = await take(id, { Ink: { parentId: sketch.id } });
    expect(await taskOf(id, 'Sketch')).toMatchObject({ isGroup: true });
    // Ink waited for Sketch; as a part of it, it cannot any more.
    expect(await taskOf(id, 'Ink')).toMatchObject({ parentId: sketch.id, after: [] });
    await lead.post(`/changes/${changeId}/undo`).expect(200);
    expect(await rows(id)).toEqual(before);
  });

  test('time logged since stays logged', async () => {
    const id = await startSmall(lead, harness);
    const { changeId } = await take(id, { Sketch: { days: 5 } });
    const sketch = await taskOf(id, 'Sketch');
    await lead.post(`/tasks/${sketch.id}/time`, { day: TODAY, minutes: 60 }).expect(201);
    await lead.post(`/changes/${changeId}/undo`).expect(200);
    expect(await taskOf(id, 'Sketch')).toMatchObject({ days: 2, loggedMinutes: 60 });
  });

  test('what somebody changed since stays and is named; all else goes back', async () => {
    const id = await startSmall(lead, harness);
    const { changeId } = await take(id, { Sketch: { days: 5 }, Ink: { days: 4, priority: 'high', title: 'Ink all' } });
    const ink = await taskOf(id, 'Ink all');
    const dora = await harness.as('Dora');
    await dora.patch(`/tasks/${ink.id}`, { version: ink.version, title: 'Ink it', labels: ['rush'] }).expect(200);
    const { body } = await lead.post(`/changes/${changeId}/undo`).expect(200);
    expect(body).toMatchObject({ kept: [{ subjectId: ink.id, title: 'Ink it', field: 'title', by: 'Dora Quill' }] });
    expect(await taskOf(id, 'Sketch')).toMatchObject({ days: 2 });
    expect(await taskOf(id, 'Ink it')).toMatchObject({ days: 3, priority: 'normal', labels: ['rush'] });
  });

  test('when somebody changed all of it since there is nothing to undo: it says who and what', async () => {
    const id = await startSmall(lead, harness);
    const { changeId } = await take(id, { Ink: { title: 'Ink all' } });
    const ink = await taskOf(id, 'Ink all');
    await (await harness.as('Dora')).patch(`/tasks/${ink.id}`, { version: ink.version, title: 'Ink it' }).expect(200);
    const { body } = await lead.post(`/changes/${changeId}/undo`).expect(409);
    expect((body as { message: string }).message).toContain('Dora Quill changed “Ink it”.');
    expect(await taskOf(id, 'Ink it')).toMatchObject({ version: ink.version + 1 });
  });

  test('when all of it was put back by hand since there is nothing to undo, and so nothing to redo', async () => {
    const id = await startSmall(lead, harness);
    const { changeId } = await take(id, { Ink: { priority: 'high' } });
    await take(id, { Ink: { priority: 'normal' } });
    const { body } = await lead.post(`/changes/${changeId}/undo`).expect(409);
    expect((body as { message: string }).message).toContain('nothing to undo');
  });

  test('the week’s planning, a baseline and people given at a pick-up are nobody’s to take back', async () => {
    const id = await startSmall(lead, harness);
    const { changeId } = await take(id, { Sketch: { days: 5 }, Paint: { priority: 'high' } });
    const [sketch, paint] = [await taskOf(id, 'Sketch'), await taskOf(id, 'Paint')];
    await lead.post('/week-plan/places', { tasks: [{ taskId: sketch.id, week: '2026-11-30' }] }).expect(200);
    await lead.post(`/engagements/${id}/baseline`).expect(204);
    await harness.database.rows('DELETE FROM task_assignee WHERE task_id = $1', [paint.id]);
    await harness.database.rows(
      'INSERT INTO task_assignee (task_id, person_id, position, assigned_at) SELECT $1, id, 0, now() FROM person WHERE name = $2',
      [paint.id, 'Dora Quill'],
    );
    const kept = { week: '2026-11-30', baseline: (await taskOf(id, 'Sketch')).baselineDue };
    await lead.post(`/changes/${changeId}/undo`).expect(200);
    const row = await harness.database.row<{ week: string }>('SELECT planned_week AS week FROM task WHERE id = $1', [sketch.id]);
    expect({ week: row?.week, baseline: (await taskOf(id, 'Sketch')).baselineDue }).toEqual(kept);
    expect((await taskOf(id, 'Paint')).assignees.map(({ name }) => name)).toEqual(['Dora Quill']);
    expect(await taskOf(id, 'Sketch')).toMatchObject({ days: 2 });
  });

  test('once is enough, and another agency’s or an unknown change is not found', async () => {
    const id = await startSmall(lead, harness);
    const { changeId } = await take(id, { Sketch: { days: 5 } });
    await lead.post(`/changes/${changeId}/undo`).expect(200);
    await lead.post(`/changes/${changeId}/undo`).expect(409);
    await lead.post('/changes/00000000-0000-4000-8000-000000000000/undo').expect(404);
  });
});

describe('the plan as promised', () => {
  test('is kept from the start; drift is measured against it until it is kept anew', async () => {
    const id = await startSmall(lead, harness, { promise: '2026-12-15' });
    const first = await planOf(id);
    expect(first.baseline).toEqual({ keptOn: TODAY, finish: first.engagement.finish, promise: '2026-12-15' });
    await take(id, { Sketch: { days: 5 } });
    const paint = await taskOf(id, 'Paint');
    expect(paint.baselineStart).toBe(first.tasks.find((task) => task.title === 'Paint')?.start);
    expect(paint.start > (paint.baselineStart as string)).toBe(true);
    await lead.post(`/engagements/${id}/baseline`).expect(204);
    expect((await taskOf(id, 'Paint')).baselineStart).toBe(paint.start);
    expect((await planOf(id)).baseline.finish).toBe((await planOf(id)).engagement.finish);
  });
});

describe('deliverables', () => {
  test('gather tasks across phases; a name is there once; taking one away leaves its tasks', async () => {
    const id = await startSmall(lead, harness);
    const { body } = await lead.post(`/engagements/${id}/deliverables`, { name: 'Panel set' }).expect(201);
    const deliverableId = (body as { id: string }).id;
    await lead.post(`/engagements/${id}/deliverables`, { name: ' Panel set ' }).expect(409);
    await take(id, { Ink: { deliverableId }, Cut: { deliverableId } });
    const plan = await planOf(id);
    expect(plan.deliverables).toEqual([{ id: deliverableId, name: 'Panel set' }]);
    expect(plan.tasks.filter((task) => task.deliverableId === deliverableId).map((task) => task.title)).toEqual(['Ink', 'Cut']);
    await lead.delete(`/deliverables/${deliverableId}`).expect(204);
    expect((await taskOf(id, 'Ink')).deliverableId).toBeNull();
  });
});
