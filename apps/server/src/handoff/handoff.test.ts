import type { IsoDay } from '@crew/core';
import type {
  Desk,
  EngagementPlan,
  HandoffBoard,
  HandoffCase,
  HandoffSheet,
  HandoffSpeed,
  PhaseView,
  PlanChanged,
  PlanTask,
  TaskSheet,
} from '@crew/contract';
import { startHarness, startSmall, TODAY, type Caller, type Harness } from '../../test/harness.ts';

let harness: Harness;
let lead: Caller;
let maker: Caller;

beforeAll(async () => {
  harness = await startHarness();
  lead = await harness.as('Lena');
  maker = await harness.as('Mak');
});
beforeEach(() => harness.clock.moveTo(TODAY));
afterAll(() => harness.close());

const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const sheetOf = async (id: string): Promise<HandoffSheet> => (await lead.get(`/handoffs/${id}`).expect(200)).body as HandoffSheet;

/** An engagement whose Make phase is the maker's, and its first handoff. */
async function startForMaker(): Promise<{ id: string; handoff: string; plan: EngagementPlan }> {
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  const id = await startSmall(lead, harness, { roles: [{ roleId: role?.id, personId: harness.ids.people['Mak'] }] });
  const plan = await planOf(id);
  return { id, plan, handoff: plan.phases[0]?.handoffId as string };
}

async function finishPhase(plan: EngagementPlan, phase: number): Promise<void> {
  for (const task of plan.tasks.filter((candidate) => candidate.phaseId === plan.phases[phase]?.id)) {
    await lead.patch(`/tasks/${task.id}`, { version: task.version, status: 'done' }).expect(200);
  }
}

async function giveWord(handoff: string): Promise<void> {
  for (const check of (await sheetOf(handoff)).gate.filter(({ kind }) => kind === 'word'))
    await lead.patch(`/gate-checks/${check.id}`, { isClear: true }).expect(204);
}

test('a gate that is not clear names what is missing; a member cannot pass it, a lead only with a reason', async () => {
  const { handoff } = await startForMaker();
  const gate = (await sheetOf(handoff)).gate;
  expect(gate.map((check) => [check.kind, check.isClear])).toEqual([
    ['tasks-done', false],
    ['client-done', false],
    ['word', false],
  ]);
  const body = { version: 1, words: 'Here it is.' };
  await maker.post(`/handoffs/${handoff}/hand-off`, body).expect(409);
  const refused = await lead.post(`/handoffs/${handoff}/hand-off`, body).expect(409);
  expect(refused.body).toMatchObject({
    code: 'gate-not-clear',
    field: 'reason',
    message: expect.stringContaining('2 tasks open') as string,
  });
  await lead.post(`/handoffs/${handoff}/hand-off`, { ...body, reason: 'The client is in a hurry' }).expect(200);
  const kept = await harness.database.row<{ reason: string }>('SELECT reason FROM handoff WHERE id = $1', [handoff]);
  expect(kept?.reason).toBe('The client is in a hurry');
});

test('only somebody’s word is given by hand, the other checks clear themselves', async () => {
  const { plan, handoff } = await startForMaker();
  const before = (await sheetOf(handoff)).gate;
  await lead.patch(`/gate-checks/${before[0]?.id}`, { isClear: true }).expect(409);
  await finishPhase(plan, 0);
  await giveWord(handoff);
  const after = await sheetOf(handoff);
  expect(after.gate.every((check) => check.isClear)).toBe(true);
  expect(after.gate[2]?.clearedBy).toBe('Lena Park');
  const listed = (await planOf(plan.engagement.id)).phases[0]?.gate;
  expect(listed).toEqual({ clear: 3, all: 3 });
});

test('hand off, read, send back with a question, answer, pick up: the next phase starts on the day it is picked up', async () => {
  const { id, plan, handoff } = await startForMaker();
  await finishPhase(plan, 0);
  await giveWord(handoff);
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: 'Two panels are curved.' }).expect(200);
  expect((await planOf(id)).phases.map((phase) => phase.state)).toEqual(['over', 'ahead']);

  const desk = (await maker.get('/desk').expect(200)).body as Desk;
  expect(desk.handoffs.map((line) => line.id)).toContain(handoff);
  const packet = (await maker.get(`/handoffs/${handoff}`).expect(200)).body as HandoffSheet;
  expect(packet).toMatchObject({ words: 'Two panels are curved.', canPickUp: true, onPickUp: { start: TODAY, tasks: 2 } });
  expect(packet.doneTasks.map((task) => task.title)).toEqual(['Sketch', 'Ink', 'Client looks']);
  // What the client answered and what somebody confirmed are decisions, by whom and when.
  expect(packet.decisions).toMatchObject([
    { kind: 'answered', text: 'Client looks', by: 'Harbour Museum', day: TODAY },
    { kind: 'confirmed', text: 'Lead agrees', by: 'Lena Park', day: TODAY },
  ]);
  expect(packet.questions).toEqual([]);

  await maker.post(`/handoffs/${handoff}/send-back`, { version: 2, question: 'Which two?' }).expect(200);
  expect((await planOf(id)).phases.map((phase) => [phase.state, phase.baton])).toEqual([
    ['running', 'sent-back'],
    ['ahead', 'not-due'],
  ]);
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: 3, words: 'Panels 4 and 5.' }).expect(200);

  harness.clock.moveTo('2026-12-10');
  await maker.post(`/handoffs/${handoff}/pick-up`, { version: 4 }).expect(200);
  const after = await planOf(id);
  expect(after.phases[1]).toMatchObject({ state: 'running', startedOn: '2026-12-10' });
  const made = after.tasks.filter((task) => task.phaseId === after.phases[1]?.id);
  expect(made.map((task) => [task.title, task.start, task.due, task.assignees[0]?.name])).toEqual([
    ['Cut', '2026-12-10', '2026-12-10', 'Mak Reyes'],
    ['Paint', '2026-12-11', '2026-12-14', 'Mak Reyes'],
  ]);
  expect((await sheetOf(handoff)).turns.map((turn) => turn.kind)).toEqual(['handed-off', 'sent-back', 'handed-off', 'picked-up']);
});

test('how fast handoffs are picked up counts the receiver’s own working time', async () => {
  await harness.database.rows(`DELETE FROM event WHERE subject = 'handoff'`);
  const speed = async (): Promise<HandoffBoard['pickUpMinutes']> =>
    ((await lead.get('/handoffs').expect(200)).body as HandoffBoard).pickUpMinutes;
  expect(await speed()).toEqual({ thisMonth: null, lastMonth: null });
  const pass = async (from: [IsoDay, string], to: [IsoDay, string]): Promise<void> => {
    harness.clock.moveTo(...from);
    const { handoff } = await startForMaker();
    await lead.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '', reason: 'Soon' }).expect(200);
    harness.clock.moveTo(...to);
    await maker.post(`/handoffs/${handoff}/pick-up`, { version: 2 }).expect(200);
  };
  // Thursday 16:00 to Monday 10:00 over a closed Friday: one hour and one; a day of eight hours begins at nine.
  await pass(['2026-11-26', '16:00'], ['2026-11-30', '10:00']);
  expect(await speed()).toEqual({ thisMonth: 120, lastMonth: null });
  await pass(['2026-11-23', '09:00'], ['2026-11-23', '09:30']);
  harness.clock.moveTo('2026-12-01', '12:00');
  expect(await speed()).toEqual({ thisMonth: null, lastMonth: 75 });
});

/** What the history keeps of an engagement from a moment on: kind, whom it is about, and the fields that changed. */
async function eventsOf(id: string, after: string): Promise<{ kind: string; about: string; changes: { field: string; to: unknown }[] }[]> {
  return harness.database.rows(
    `SELECT v.kind, coalesce(t.title, p.name, e.name, 'handoff') AS about, v.changes FROM event v LEFT JOIN task t ON t.id = v.subject_id
     LEFT JOIN phase p ON p.id = v.subject_id LEFT JOIN engagement e ON e.id = v.subject_id WHERE v.engagement_id = $1 AND v.id > $2 ORDER BY v.id`,
    [id, after],
  );
}
const lastEvent = async (): Promise<string> =>
  ((await harness.database.row<{ id: string }>('SELECT coalesce(max(id), 0)::text AS id FROM event')) as { id: string }).id;

test('each turn is kept with what follows from it: phases that end, run again and start, people, days', async () => {
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  const id = await startSmall(lead, harness, { roles: [{ roleId: role?.id, personId: null }] });
  const plan = await planOf(id);
  const handoff = plan.phases[0]?.handoffId as string;
  await finishPhase(plan, 0);
  await giveWord(handoff);
  await harness.settle();
  const kinds = async (work: () => Promise<unknown>): Promise<string[]> => {
    const from = await lastEvent();
    await work();
    return (await eventsOf(id, from)).map(({ kind, about }) => `${kind} ${about}`);
  };
  const mak = harness.ids.people['Mak'];
  expect(await kinds(() => lead.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: 'Done', receiverId: mak }).expect(200))).toEqual(
    ['handed-off handoff', 'phase-ended Draw', 'phases-changed handoff'],
  );
  expect(await kinds(() => maker.post(`/handoffs/${handoff}/send-back`, { version: 2, question: 'Which?' }).expect(200))).toEqual([
    'sent-back handoff',
    'phase-reopened Draw',
    'phases-changed handoff',
  ]);
  expect((await planOf(id)).phases[0]).toMatchObject({ state: 'running', finishedOn: null });
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: 3, words: 'Both', receiverId: mak }).expect(200);
  harness.clock.moveTo('2026-12-10');
  const from = await lastEvent();
  await maker.post(`/handoffs/${handoff}/pick-up`, { version: 4 }).expect(200);
  const events = await eventsOf(id, from);
  expect(events.map(({ kind, about }) => `${kind} ${about}`)).toEqual([
    'picked-up handoff',
    'phase-started Make',
    'task-assigned Cut',
    'task-assigned Paint',
    'task-rescheduled Cut',
    'task-rescheduled Paint',
    'phases-changed handoff',
  ]);
  expect(events[2]?.changes).toEqual([{ field: 'assignees', from: [], to: [{ personId: mak, share: 1 }] }]);
  expect(events[4]?.changes.map(({ field, to }) => [field, to])).toEqual([
    ['startDay', '2026-12-10'],
    ['dueDay', '2026-12-10'],
  ]);
});

test('nobody but the receiver or a lead picks up, and a stale page is refused', async () => {
  const { plan, handoff } = await startForMaker();
  await finishPhase(plan, 0);
  await giveWord(handoff);
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '' }).expect(200);
  const drawer = await harness.as('Dora');
  await drawer.post(`/handoffs/${handoff}/pick-up`, { version: 2 }).expect(403);
  await maker.post(`/handoffs/${handoff}/pick-up`, { version: 1 }).expect(409);
  const twice = await Promise.all([maker, lead].map((caller) => caller.post(`/handoffs/${handoff}/pick-up`, { version: 2 })));
  expect(twice.map((answer) => answer.status).sort()).toEqual([200, 409]);
});

test('tasks nobody has go to the receiver when they are of the role', async () => {
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  const id = await startSmall(lead, harness, { roles: [{ roleId: role?.id, personId: null }] });
  const plan = await planOf(id);
  const handoff = plan.phases[0]?.handoffId as string;
  await lead
    .post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '', reason: 'Test', receiverId: harness.ids.people['Dora'] })
    .expect(200);
  const drawer = await harness.as('Dora');
  await drawer.post(`/handoffs/${handoff}/pick-up`, { version: 2 }).expect(200);
  const made = (await planOf(id)).tasks.filter((task) => task.title === 'Cut');
  expect(made[0]?.assignees[0]?.name).toBe('Dora Quill');
  const desk = (await drawer.get('/desk')).body as Desk;
  expect(desk.fresh.map((task) => task.title)).toEqual(expect.arrayContaining(['Cut', 'Paint']));
});

test('a handoff given on waits for somebody else', async () => {
  const { plan, handoff } = await startForMaker();
  await finishPhase(plan, 0);
  await giveWord(handoff);
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '' }).expect(200);
  await maker.post(`/handoffs/${handoff}/give-on`, { version: 2, receiverId: harness.ids.people['Dora'] }).expect(200);
  const board = (await lead.get('/handoffs').expect(200)).body as HandoffBoard;
  expect(board.lines.find((line) => line.id === handoff)?.receiver?.name).toBe('Dora Quill');
});

test('the last handoff closes the engagement', async () => {
  const { id, plan, handoff } = await startForMaker();
  await finishPhase(plan, 0);
  await giveWord(handoff);
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '' }).expect(200);
  await lead.post(`/handoffs/${handoff}/pick-up`, { version: 2 }).expect(200);
  const second = await planOf(id);
  await finishPhase(second, 1);
  const closing = second.phases[1]?.handoffId as string;
  await lead.post(`/handoffs/${closing}/hand-off`, { version: 1, words: 'Done.' }).expect(200);
  await lead.post(`/handoffs/${closing}/pick-up`, { version: 2 }).expect(200);
  expect((await planOf(id)).engagement).toMatchObject({ state: 'finished', percent: 100, standing: [{ kind: 'finished' }] });
});

test('an engagement that was dropped waits for nobody to pick it up, until it is taken up again', async () => {
  const { id, plan, handoff } = await startForMaker();
  await finishPhase(plan, 0);
  await giveWord(handoff);
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: (await sheetOf(handoff)).version, words: 'Yours.' }).expect(200);
  const waits = async (): Promise<boolean> =>
    ((await maker.get('/desk').expect(200)).body as Desk).handoffs.some((line) => line.id === handoff);
  expect(await waits()).toBe(true);
  const { version } = (await planOf(id)).engagement;
  await lead.post(`/engagements/${id}/drop`, { version, reason: 'No fit' }).expect(200);
  expect(await waits()).toBe(false);
  await lead.post(`/engagements/${id}/reopen`, { version: version + 1 }).expect(200);
  expect(await waits()).toBe(true);
});

test('how handoffs go says of each column and month what its handoffs took, and lists them', async () => {
  await harness.database.rows(`DELETE FROM event WHERE subject = 'handoff'`);
  harness.clock.moveTo('2026-11-23', '10:00');
  const { handoff } = await startForMaker();
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '', reason: 'Soon' }).expect(200);
  harness.clock.moveTo('2026-11-23', '11:00');
  await maker.post(`/handoffs/${handoff}/send-back`, { version: 2, question: 'Which door?' }).expect(200);
  harness.clock.moveTo('2026-11-24', '09:00');
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: 3, words: 'The left one', reason: 'Soon' }).expect(200);
  harness.clock.moveTo('2026-11-24', '09:30');
  const speed = async (query = ''): Promise<HandoffSpeed> =>
    (await lead.get(`/handoffs/speed?months=3${query}`).expect(200)).body as HandoffSpeed;
  // Not picked up yet: it is counted and came back, but has no wait.
  expect((await speed()).columns).toMatchObject([{ name: 'Drawer', cases: 1 }]);
  expect((await speed()).all.points.at(-1)).toMatchObject({ month: '2026-11', cases: 1, waits: 0, waitMinutes: null, back: 1 });
  await maker.post(`/handoffs/${handoff}/pick-up`, { version: 4 }).expect(200);
  // An hour until it was sent back, half an hour until it was picked up.
  expect((await speed(`&template=${harness.ids.template}`)).columns.map(({ name }) => name)).toEqual(['Draw', 'Make']);
  expect((await speed()).all.points.at(-1)).toMatchObject({ waits: 1, waitMinutes: 90 });
  expect(((await lead.get('/handoffs').expect(200)).body as HandoffBoard).pickUpMinutes.thisMonth).toBe(90);
  const people = await speed('&by=person');
  const [mak, lena] = ['Mak Reyes', 'Lena Park'].map((name) => people.columns.find((column) => column.name === name)?.points.at(-1));
  expect([mak?.waitMinutes, mak?.cases, lena?.waitMinutes, lena?.cases]).toEqual([90, 0, null, 1]);
  const key = (await speed()).columns[0]?.key;
  const cases = (await lead.get(`/handoffs/speed/cases?months=3&key=${key}&month=2026-11`).expect(200)).body as HandoffCase[];
  expect(cases).toMatchObject([{ id: handoff, from: 'Draw', to: 'Make', waitMinutes: 90, isWaiting: false, questions: ['Which door?'] }]);
  const csv = await lead.get('/handoffs/speed/export?months=3').expect(200);
  expect(csv.text.split('\r\n')[1]).toMatch(/,Draw,Make,Drawer,Lena Park,Mak Reyes,/);
  await lead.get('/handoffs/speed?by=phase').expect(400);
});

test('a gate asks for certain tasks, steps, fields and files, and says what is missing in words', async () => {
  harness.clock.moveTo(TODAY);
  const id = await startSmall(lead, harness, { name: 'Gate of all kinds' });
  const plan = await planOf(id);
  const phase = plan.phases[0];
  const handoff = phase?.handoffId as string;
  const before = (await lead.get(`/phases/${phase?.id}`).expect(200)).body as PhaseView;
  expect(before.titles).toEqual(['Sketch', 'Ink', 'Client looks']);
  const field = (await lead.post('/custom-fields', { name: 'Paper', kind: 'text' }).expect(201)).body as { id: string };
  const seen = { name: before.name, stateLine: before.stateLine, roleId: before.roleId };
  const checks = [
    { kind: 'titled-done', text: 'Sketch done', wants: ['Sketch'] },
    { kind: 'steps-done', text: 'Every step ticked' },
    { kind: 'field-filled', text: 'Paper chosen', wants: ['Paper'] },
    { kind: 'files-there', text: 'Plan is there', wants: ['pdf'] },
    { ...before.checks.find(({ kind }) => kind === 'word') },
  ];
  const changed = (await lead.patch(`/phases/${phase?.id}`, { seen, checks }).expect(200)).body as PlanChanged;
  expect((await sheetOf(handoff)).gate.map(({ missing }) => missing)).toEqual([
    '“Sketch” is open',
    'open steps of “Sketch”',
    '“Paper” not filled in',
    'no PDF file yet',
    'Lead agrees',
  ]);
  const sketch = plan.tasks.find(({ title }) => title === 'Sketch');
  const file = (await lead.post('/files').attach('file', Buffer.from('%PDF-'), 'Plan.PDF').expect(201)).body as { id: string };
  const sheet = (await lead.get(`/tasks/${sketch?.id}`).expect(200)).body as TaskSheet;
  for (const step of sheet.steps) await lead.patch(`/steps/${step.id}`, { isDone: true }).expect(200);
  const { version } = (await lead.get(`/tasks/${sketch?.id}`).expect(200)).body as TaskSheet;
  await lead
    .patch(`/tasks/${sketch?.id}`, { version, status: 'done', fileIds: [file.id], customFields: [{ fieldId: field.id, value: 'A2' }] })
    .expect(200);
  expect((await sheetOf(handoff)).gate.map(({ isClear }) => isClear)).toEqual([true, true, true, true, false]);
  // Undone as one change it is the gate it was.
  await lead.post(`/changes/${changed.changeId}/undo`).expect(200);
  expect((await sheetOf(handoff)).gate.map(({ kind }) => kind)).toEqual(['tasks-done', 'client-done', 'word']);
});

test('a phase of an engagement that runs is renamed, has another state line and owner, and no two share a state line', async () => {
  const id = await startSmall(lead, harness, { name: 'Renamed phase' });
  const [draw, make] = (await planOf(id)).phases;
  const view = async (): Promise<PhaseView> => (await lead.get(`/phases/${draw?.id}`).expect(200)).body as PhaseView;
  const { name, stateLine, roleId } = await view();
  const seen = { name, stateLine, roleId };
  await lead.patch(`/phases/${draw?.id}`, { seen, name: 'Sketching', stateLine: 'On paper', roleId: null }).expect(200);
  expect(await view()).toMatchObject({ name: 'Sketching', stateLine: 'On paper', roleId: null });
  // What somebody else changed meanwhile is not written over; what they left alone can be changed.
  expect((await lead.patch(`/phases/${draw?.id}`, { seen, name: 'Mine' }).expect(409)).body).toMatchObject({ code: 'changed-meanwhile' });
  const line = ((await lead.get(`/phases/${make?.id}`).expect(200)).body as PhaseView).stateLine;
  const now = { name: 'Sketching', stateLine: 'On paper', roleId: null };
  const refused = await lead.patch(`/phases/${draw?.id}`, { seen: now, stateLine: line.toUpperCase() }).expect(409);
  expect(refused.body).toMatchObject({ code: 'already-there', field: 'stateLine' });
  await maker.patch(`/phases/${draw?.id}`, { seen: now, name: 'Not mine' }).expect(403);
});

test('the packet is kept as it was handed off, without what was left out; a later reader sees what the receiver saw', async () => {
  harness.clock.moveTo(TODAY);
  const { id, handoff } = await startForMaker();
  const sketch = (await planOf(id)).tasks.find(({ title }) => title === 'Sketch') as PlanTask;
  const send = async (name: string): Promise<string> =>
    ((await lead.post('/files').attach('file', Buffer.from(name), name).expect(201)).body as { id: string }).id;
  const fileIds = [await send('map.pdf'), await send('draft.txt')];
  await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, status: 'done', fileIds }).expect(200);
  const before = await sheetOf(handoff);
  expect(before).toMatchObject({ packetAt: null, doneTasks: [{ title: 'Sketch' }], files: [{ name: 'map.pdf' }, { name: 'draft.txt' }] });
  const without = [fileIds[1] as string];
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: before.version, words: '', reason: 'Soon', without }).expect(200);
  // What is done and sent afterwards is not in what the receiver was given.
  const ink = (await planOf(id)).tasks.find(({ title }) => title === 'Ink') as PlanTask;
  await lead.patch(`/tasks/${ink.id}`, { version: ink.version, status: 'done' }).expect(200);
  const kept = await sheetOf(handoff);
  expect(kept.packetAt).not.toBeNull();
  expect(kept.files.map(({ name }) => name)).toEqual(['map.pdf']);
  expect(kept.openTasks.map(({ title }) => title)).toContain('Ink');
  await maker.post(`/handoffs/${handoff}/pick-up`, { version: kept.version }).expect(200);
  expect((await sheetOf(handoff)).doneTasks.map(({ title }) => title)).toEqual(['Sketch']);
});

test('a freelancer who is given a handoff may open the files of its packet, and no others', async () => {
  harness.clock.moveTo(TODAY);
  const { id, handoff } = await startForMaker();
  // Nobody of the crew has it, so its file is nobody's own.
  const looks = (await planOf(id)).tasks.find(({ title }) => title === 'Client looks') as PlanTask;
  const file = (await lead.post('/files').attach('file', Buffer.from('map'), 'map.pdf').expect(201)).body as { id: string };
  await lead.patch(`/tasks/${looks.id}`, { version: looks.version, fileIds: [file.id] }).expect(200);
  const fred = await harness.as('Fred');
  await fred.get(`/files/${file.id}`).expect(404);
  const { version } = await sheetOf(handoff);
  await lead
    .post(`/handoffs/${handoff}/hand-off`, { version, words: '', reason: 'Soon', receiverId: harness.ids.people['Fred'] })
    .expect(200);
  await fred.get(`/files/${file.id}`).expect(200);
});
