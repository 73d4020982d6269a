import {
  HISTORY_PARTS,
  type ChangeUndone,
  type EngagementPlan,
  type EventKind,
  type HistoryLine,
  type HistoryPage,
  type HistoryPart,
  type PlanTask,
  type TaskEdited,
} from '@crew/contract';
import { historyOf, startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';
import { PruneHistoryJob } from './prune-history.job.ts';

const { harness, lead } = testWorld();

const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const taskOf = async (id: string, title: string): Promise<PlanTask> =>
  (await planOf(id)).tasks.find((task) => task.title === title) as PlanTask;
const edit = async (who: Caller, task: PlanTask, change: object): Promise<TaskEdited> =>
  (await who.patch(`/tasks/${task.id}`, { version: task.version, ...change }).expect(200)).body as TaskEdited;
const undo = async (who: Caller, changeId: string | null): Promise<ChangeUndone> =>
  (await who.post(`/changes/${changeId}/undo`).expect(200)).body as ChangeUndone;
const page = async (query: string, who: Caller = lead): Promise<HistoryPage> =>
  (await who.get(`/history?${query}`).expect(200)).body as HistoryPage;
const kindsOf = (lines: readonly HistoryLine[]) => lines.map(({ kind }) => kind);

describe('a change', () => {
  test('is one batch: what was decided, and what the planner made of it', async () => {
    const id = await startSmall(lead, harness);
    const { changeId } = await edit(lead, await taskOf(id, 'Sketch'), { days: 4 });
    const { lines } = await page(`change=${changeId}`);
    expect(new Set(kindsOf(lines))).toEqual(new Set(['task-changed', 'task-rescheduled']));
    const moved = lines.find((line) => line.subject.name === 'Ink' && line.kind === 'task-rescheduled');
    const ink = await taskOf(id, 'Ink');
    expect(moved?.changes).toContainEqual({ field: 'dueDay', from: expect.any(String) as unknown, to: ink.due });
  });

  test('is one line of its engagement’s history, with how much else it did', async () => {
    const id = await startSmall(lead, harness);
    await edit(lead, await taskOf(id, 'Sketch'), { days: 4 });
    const { lines } = await page(`engagement=${id}`);
    expect(kindsOf(lines)).toEqual(['task-changed', 'engagement-started']);
    expect(lines[0]).toMatchObject({ subject: { name: 'Sketch' }, by: { name: 'Lena Park' }, canUndo: true });
    expect(lines[0]?.effects).toBeGreaterThan(0);
  });

  test('that changes nothing has nothing to undo', async () => {
    const id = await startSmall(lead, harness);
    const sketch = await taskOf(id, 'Sketch');
    expect((await edit(lead, sketch, { title: sketch.title, days: sketch.days })).changeId).toBeNull();
    expect(await historyOf(lead, sketch.id)).toEqual([]);
  });

  test('that is only looked at leaves nothing in the history', async () => {
    const id = await startSmall(lead, harness);
    const sketch = await taskOf(id, 'Sketch');
    await lead.post(`/engagements/${id}/changes/preview`, { tasks: [{ id: sketch.id, version: sketch.version, days: 4 }] }).expect(200);
    expect(await historyOf(lead, sketch.id)).toEqual([]);
  });

  test('of a status is answered for by the planner, with its cause', async () => {
    const id = await startSmall(lead, harness);
    harness.clock.moveTo('2026-11-25');
    const sketch = await taskOf(id, 'Sketch');
    await edit(lead, sketch, { status: 'active' });
    await harness.settle();
    harness.clock.moveTo(TODAY);
    const rows = await harness.database.rows<{ cause: string; kind: string; job: string }>(
      `SELECT c.kind AS cause, v.kind, v.job FROM event v JOIN event c ON c.id = v.cause_id WHERE v.engagement_id = $1`,
      [id],
    );
    expect(rows.length).toBeGreaterThan(0);
    expect(new Set(rows.map((row) => `${row.cause} ${row.kind} ${row.job}`))).toEqual(
      new Set(['task-status-changed task-rescheduled plan']),
    );
  });
});

describe('facts', () => {
  test('say of an event what rules may ask, as it was at that moment', async () => {
    const id = await startSmall(lead, harness);
    const sketch = await taskOf(id, 'Sketch');
    await edit(lead, sketch, { status: 'done' });
    await edit(lead, await taskOf(id, 'Sketch'), { title: 'Sketches' });
    const rows = await harness.database.rows<{ facts: Record<string, unknown> }>(
      `SELECT facts FROM event WHERE subject_id = $1 ORDER BY id`,
      [sketch.id],
    );
    expect(rows[0]?.facts).toMatchObject({
      ...{ engagement: id, engagementName: 'Quay panels', task: 'Sketch', status: 'done', from: 'queued', priority: 'normal' },
      ...{ template: harness.ids.template, hoursUsed: 0, percent: expect.any(Number) as unknown },
    });
    expect(rows.at(-1)?.facts).toMatchObject({ task: 'Sketches', status: 'done' });
  });
});

describe('undo', () => {
  test('and undo of the undo: away and back again', async () => {
    const id = await startSmall(lead, harness);
    const before = await planOf(id);
    const { changeId } = await edit(lead, await taskOf(id, 'Sketch'), { days: 4, title: 'Sketch it', priority: 'high' });
    const changed = await planOf(id);
    const undone = await undo(lead, changeId);
    const shown = (plan: EngagementPlan) => plan.tasks.map(({ version: _version, ...task }) => task);
    expect(shown(await planOf(id))).toEqual(shown(before));
    await undo(lead, undone.changeId);
    expect(shown(await planOf(id))).toEqual(shown(changed));
    // It counts again, so it can be undone again.
    await undo(lead, changeId);
    expect(shown(await planOf(id))).toEqual(shown(before));
  });

  test.each([
    ['a status', { status: 'done' }],
    ['who does it', { assigneeIds: 'Dora' }],
    ['a label', { labels: ['rush'] }],
    ['a dependency', { after: [] }],
    ['work outside', { outside: { maker: 'Glass works', turnaroundDays: 5, bufferDays: 1, state: 'to-brief' } }],
  ])('of %s puts it back', async (_what, change) => {
    const id = await startSmall(lead, harness);
    // Unassigned, so that whoever gets it is somebody else.
    await edit(lead, await taskOf(id, 'Ink'), { assigneeIds: [] });
    const before = await taskOf(id, 'Ink');
    const given = 'assigneeIds' in change ? { assigneeIds: [harness.ids.people['Dora']] } : change;
    const { changeId } = await edit(lead, before, given);
    expect(await undo(lead, changeId)).toMatchObject({ kept: [] });
    const { version: _was, slack: _slack, ...was } = before;
    const { version: _is, ...is } = await taskOf(id, 'Ink');
    expect(is).toMatchObject(was);
  });

  test('of steps: what was ticked is open again, what was added goes unless it was ticked since', async () => {
    const id = await startSmall(lead, harness);
    const ink = await taskOf(id, 'Ink');
    await lead.post(`/tasks/${ink.id}/steps`, { title: 'Outline' }).expect(201);
    const step = await harness.database.row<{ id: string }>('SELECT id FROM step WHERE task_id = $1', [ink.id]);
    await lead.patch(`/steps/${step?.id}`, { isDone: true }).expect(200);
    const [ticked, added] = await historyOf(lead, ink.id);
    await lead.post(`/changes/${added?.changeId}/undo`).expect(409);
    await undo(lead, ticked?.changeId ?? null);
    expect(await taskOf(id, 'Ink')).toMatchObject({ stepsDone: 0, stepsAll: 1 });
    await undo(lead, added?.changeId ?? null);
    expect(await taskOf(id, 'Ink')).toMatchObject({ stepsDone: 0, stepsAll: 0 });
  });

  test('of an added task takes it away, unless somebody worked on it', async () => {
    const id = await startSmall(lead, harness);
    const { phases } = await planOf(id);
    const make = async (title: string) =>
      ((await lead.post(`/engagements/${id}/tasks`, { phaseId: phases[0]?.id, title }).expect(201)).body as TaskEdited).task;
    const [one, two] = [await make('Glue'), await make('Sand')];
    await edit(lead, await taskOf(id, 'Sand'), { title: 'Sand it' });
    const changeOf = async (task: PlanTask) => (await historyOf(lead, task.id)).find(({ kind }) => kind === 'task-added')?.changeId ?? null;
    await undo(lead, await changeOf(one));
    expect(await taskOf(id, 'Glue')).toBeUndefined();
    await lead.post(`/changes/${await changeOf(two)}/undo`).expect(409);
    expect(await taskOf(id, 'Sand it')).toBeDefined();
  });

  test('of an engagement’s name, promise and lead is by field; what was changed since stays', async () => {
    const id = await startSmall(lead, harness);
    const { engagement } = await planOf(id);
    const changed = await lead
      .patch(`/engagements/${id}`, { version: engagement.version, name: 'Pier panels', promise: '2027-02-01' })
      .expect(200);
    const { changeId, version } = changed.body as { changeId: string; version: number };
    await lead.patch(`/engagements/${id}`, { version, name: 'Dock panels' }).expect(200);
    expect((await undo(lead, changeId)).kept).toMatchObject([{ field: 'name', by: 'Lena Park' }]);
    expect((await planOf(id)).engagement).toMatchObject({ name: 'Dock panels', promise: engagement.promise });
    // Only leads change it, so only leads undo it.
    const mak = await harness.as('Mak');
    const again = await lead.patch(`/engagements/${id}`, { version: version + 2, name: 'Quay panels' }).expect(200);
    await mak.post(`/changes/${(again.body as { changeId: string }).changeId}/undo`).expect(403);
  });

  test('of what cannot be undone says so', async () => {
    const id = await startSmall(lead, harness);
    const { lines } = await page(`engagement=${id}`);
    expect(lines[0]).toMatchObject({ kind: 'engagement-started', canUndo: false });
    const { body } = await lead.post(`/changes/${lines[0]?.changeId}/undo`).expect(409);
    expect((body as { message: string }).message).toMatch(/cannot be undone/);
  });

  test('by a freelancer: own status yes, anybody else’s change is not there', async () => {
    const id = await startSmall(lead, harness);
    const fred = await harness.as('Fred');
    const cut = await taskOf(id, 'Cut');
    const other = await edit(lead, cut, { status: 'active' });
    await fred.post(`/changes/${other.changeId}/undo`).expect(404);
    await edit(lead, await taskOf(id, 'Sketch'), { assigneeIds: [harness.ids.people['Fred']] });
    const own = await edit(fred, await taskOf(id, 'Sketch'), { status: 'active' });
    await undo(fred, own.changeId);
    expect((await taskOf(id, 'Sketch')).status).toBe('queued');
  });
});

describe('reading', () => {
  test('goes on page by page without a gap or a repeat', async () => {
    const id = await startSmall(lead, harness);
    const sketch = await taskOf(id, 'Sketch');
    for (let turn = 0; turn < 32; turn++) await edit(lead, await taskOf(id, 'Sketch'), { status: turn % 2 === 0 ? 'active' : 'queued' });
    const first = await page(`subject=task&id=${sketch.id}`);
    const second = await page(`subject=task&id=${sketch.id}&before=${first.before}`);
    const ids = [...first.lines, ...second.lines].filter(({ kind }) => kind === 'task-status-changed').map((line) => Number(line.id));
    expect(first.lines).toHaveLength(30);
    expect(new Set(ids).size).toBe(32);
    expect(ids).toEqual([...ids].sort((left, right) => right - left));
    expect(second.before).toBeNull();
  });

  test('a freelancer reads of own tasks only, a client of nothing', async () => {
    const id = await startSmall(lead, harness);
    const fred = await harness.as('Fred');
    const cut = await taskOf(id, 'Cut');
    await edit(lead, cut, { status: 'active' });
    expect(await historyOf(fred, cut.id)).toEqual([]);
    expect((await page('', fred)).lines.every(({ subject }) => subject.kind === 'task')).toBe(true);
    await (await harness.as('Hal')).get('/history').expect(403);
  });

  test('is narrowed to a kind, of which each event is a line, and to days of the agency', async () => {
    harness.clock.moveTo('2026-11-18', '23:30');
    const id = await startSmall(lead, harness, { start: '2026-11-18' });
    await edit(lead, await taskOf(id, 'Sketch'), { days: 6 });
    harness.clock.moveTo('2026-11-19', '00:30');
    await edit(lead, await taskOf(id, 'Sketch'), { status: 'active' });
    harness.clock.moveTo(TODAY);
    const of = async (query: string): Promise<string[]> => kindsOf((await page(`engagement=${id}&${query}`)).lines);
    const dates = await of('part=dates');
    expect(dates.length).toBeGreaterThan(1);
    expect(new Set(dates)).toEqual(new Set(['task-rescheduled']));
    expect(await of('part=statuses')).toEqual(['task-status-changed']);
    expect(await of('from=2026-11-19')).toEqual(['task-status-changed']);
    expect(await of('from=2026-11-18&to=2026-11-18')).toEqual(['task-changed', 'engagement-started']);
    expect(await of('to=2026-11-17')).toEqual([]);
    expect(await of('part=time&from=2026-11-18')).toEqual([]);
  });

  test('every kind of event is in one part of the history', () => {
    const parts: readonly EventKind[] = Object.values(HISTORY_PARTS).flat();
    expect(new Set(parts).size).toBe(parts.length);
    // A kind that is in no part does not compile here.
    const isWhole: [Exclude<EventKind, (typeof HISTORY_PARTS)[HistoryPart][number]>] extends [never] ? true : never = true;
    expect(isWhole).toBe(true);
  });

  test('what others logged is read by leads only', async () => {
    const id = await startSmall(lead, harness);
    const sketch = await taskOf(id, 'Sketch');
    const [mak, dora] = [await harness.as('Mak'), await harness.as('Dora')];
    await mak.post(`/tasks/${sketch.id}/time`, { day: TODAY, minutes: 30 }).expect(201);
    const logged = async (who: Caller): Promise<number> =>
      (await historyOf(who, sketch.id)).filter(({ kind }) => kind === 'time-logged').length;
    expect([await logged(lead), await logged(mak), await logged(dora)]).toEqual([1, 1, 0]);
    expect((await page(`engagement=${id}`, dora)).lines.map(({ kind }) => kind)).not.toContain('time-logged');
  });

  test('another agency’s history is not there', async () => {
    const id = await startSmall(lead, harness);
    const agency = await harness.database.row<{ id: string }>(
      `INSERT INTO agency (name, zone, week) VALUES ('Elsewhere', 'UTC', '{450,450,450,450,450,0,0}') RETURNING id`,
    );
    const sketch = await taskOf(id, 'Sketch');
    await edit(lead, sketch, { status: 'active' });
    await harness.database.rows('UPDATE event SET agency_id = $2 WHERE subject_id = $1', [sketch.id, agency?.id]);
    expect(await historyOf(lead, sketch.id)).toEqual([]);
    const theirs = await harness.database.row<{ id: string }>('SELECT batch_id AS id FROM event WHERE subject_id = $1', [sketch.id]);
    await lead.post(`/changes/${theirs?.id}/undo`).expect(404);
    await harness.database.rows('DELETE FROM event WHERE agency_id = $1', [agency?.id]);
    await harness.database.rows('DELETE FROM agency WHERE id = $1', [agency?.id]);
  });

  test.each([
    ['subject=task'],
    ['id=11111111-1111-4111-8111-111111111111'],
    ['subject=cat&id=11111111-1111-4111-8111-111111111111'],
    ['before=x'],
    ['part=cats'],
    ['from=soon'],
    ['to=2026-02-30'],
  ])('%s is refused in words', async (query) => {
    const { body } = await lead.get(`/history?${query}`).expect(400);
    expect(body).toMatchObject({ code: expect.stringMatching(/^invalid-(input|day)$/) as unknown, message: expect.any(String) as unknown });
  });
});

describe('keeping', () => {
  test('what is older than the agency keeps it goes, but for what still runs', async () => {
    const [open, closed] = [await startSmall(lead, harness), await startSmall(lead, harness, { name: 'Old panels' })];
    const { engagement } = await planOf(closed);
    await lead.post(`/engagements/${closed}/drop`, { version: engagement.version, reason: 'No fit' }).expect(200);
    await harness.database.rows(`UPDATE event SET at = at - interval '7 months' WHERE engagement_id = ANY($1)`, [[open, closed]]);
    const left = async (id: string): Promise<number> =>
      (await harness.database.row<{ rows: number }>('SELECT count(*)::int AS rows FROM event WHERE engagement_id = $1', [id]))?.rows ?? -1;
    const sweep = () => harness.app.get(PruneHistoryJob).run();
    await sweep();
    expect(await left(closed)).toBeGreaterThan(0);
    const owner = await harness.as('Oona');
    await owner.patch('/settings', { historyMonths: 2 }).expect(400);
    await owner.patch('/settings', { historyMonths: 6 }).expect(200);
    await sweep();
    expect(await left(closed)).toBe(0);
    expect(await left(open)).toBeGreaterThan(0);
    expect((await page('')).lines[0]).toMatchObject({ kind: 'settings-changed', changes: [{ field: 'historyMonths', from: 24, to: 6 }] });
  });
});
