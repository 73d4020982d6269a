import type { EngagementPlan, HandoffSheet, HandoffSpeed, HistoryPage, Notices } from '@crew/contract';
import { startHarness, startSmall, TODAY, type Caller, type Harness } from '../../test/harness.ts';

let harness: Harness;
let lead: Caller;
let maker: Caller;
let other: Caller;

beforeAll(async () => {
  harness = await startHarness();
  lead = await harness.as('Lena');
  maker = await harness.as('Mak');
  other = await harness.as('Dora');
});
beforeEach(() => harness.clock.moveTo(TODAY));
afterAll(() => harness.close());

const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const sheetOf = async (id: string, who = lead): Promise<HandoffSheet> =>
  (await who.get(`/handoffs/${id}`).expect(200)).body as HandoffSheet;

/** An engagement whose Make phase is the maker's, and its first handoff. */
async function start(): Promise<{ id: string; handoff: string; plan: EngagementPlan }> {
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  const id = await startSmall(lead, harness, { roles: [{ roleId: role?.id, personId: harness.ids.people['Mak'] }] });
  const plan = await planOf(id);
  return { id, plan, handoff: plan.phases[0]?.handoffId as string };
}

async function take(who: Caller, handoff: string, turn: string, input: object = {}): Promise<string> {
  const { version } = await sheetOf(handoff);
  const taken = (await who.post(`/handoffs/${handoff}/${turn}`, { version, ...input }).expect(200)).body as HandoffSheet;
  return taken.turns.at(-1)?.changeId as string;
}
const handOff = (handoff: string): Promise<string> => take(lead, handoff, 'hand-off', { words: 'Here it is.', reason: 'Soon' });

/** What a plan says of its phases and tasks, and a handoff of itself. */
async function standing(id: string, handoff: string): Promise<object> {
  const { phases, tasks } = await planOf(id);
  const { state, words, giver, receiver, question, turns } = await sheetOf(handoff);
  return {
    phases: phases.map((phase) => [phase.name, phase.state, phase.startedOn, phase.start, phase.finish]),
    tasks: tasks.map((task) => [task.title, task.start, task.due, task.assignees.map(({ name }) => name)]),
    handoff: { state, words, giver, receiver, question, turns: turns.map(({ kind }) => kind) },
  };
}

test('each turn is undone to where it was, and redone to where it led', async () => {
  const { id, handoff } = await start();
  const turns = [
    () => handOff(handoff),
    () => take(maker, handoff, 'send-back', { question: 'Which two?' }),
    () => handOff(handoff),
    () => take(lead, handoff, 'give-on', { receiverId: harness.ids.people['Lena'] }),
    () => take(lead, handoff, 'pick-up'),
  ];
  for (const turn of turns) {
    const before = await standing(id, handoff);
    const changeId = await turn();
    const after = await standing(id, handoff);
    expect(after).not.toEqual(before);
    const undone = (await lead.post(`/changes/${changeId}/undo`).expect(200)).body as { changeId: string };
    expect(await standing(id, handoff)).toEqual(before);
    await lead.post(`/changes/${changeId}/undo`).expect(409);
    await lead.post(`/changes/${undone.changeId}/undo`).expect(200);
    expect(await standing(id, handoff)).toEqual(after);
  }
});

test('the history says what was done first, and that it was undone', async () => {
  const { id, handoff } = await start();
  const changeId = await handOff(handoff);
  const page = async (): Promise<HistoryPage> => (await lead.get(`/history?engagement=${id}`).expect(200)).body as HistoryPage;
  expect((await page()).lines[0]).toMatchObject({ kind: 'handed-off', canUndo: true });
  const all = (await lead.get(`/history?change=${changeId}`).expect(200)).body as HistoryPage;
  expect(all.lines.map(({ kind }) => kind)).not.toContain('phases-changed');
  const back = (await lead.post(`/changes/${changeId}/undo`).expect(200)).body as { changeId: string };
  const [undoing, undone] = (await page()).lines;
  expect(undoing).toMatchObject({ kind: 'handed-off', subject: { kind: 'handoff', name: 'Draw' }, isUndoing: true });
  expect(undone).toMatchObject({ kind: 'handed-off', canUndo: false, changeId });
  await lead.post(`/changes/${back.changeId}/undo`).expect(200);
  expect((await page()).lines[0]).toMatchObject({ kind: 'handed-off', isUndoing: false });
});

test('whoever took a turn takes it back, a lead any, nobody else', async () => {
  const { handoff } = await start();
  await handOff(handoff);
  const changeId = await take(maker, handoff, 'pick-up');
  expect((await sheetOf(handoff, other)).turns.at(-1)?.changeId).toBeNull();
  expect((await other.post(`/changes/${changeId}/undo`)).status).toBe(403);
  expect((await sheetOf(handoff, maker)).turns.map((turn) => turn.changeId)).toEqual([null, changeId]);
  const undone = (await maker.post(`/changes/${changeId}/undo`).expect(200)).body as { changeId: string };
  expect((await sheetOf(handoff)).state).toBe('handed-off');
  expect((await other.post(`/changes/${undone.changeId}/undo`)).status).toBe(403);
  await maker.post(`/changes/${undone.changeId}/undo`).expect(200);
  expect((await sheetOf(handoff)).state).toBe('picked-up');
});

test('an engagement that was completed by its last pick-up goes on when that is undone', async () => {
  const { id, handoff, plan } = await start();
  await handOff(handoff);
  await take(lead, handoff, 'pick-up');
  const last = (await planOf(id)).phases.find((phase) => phase.id === plan.phases[1]?.id)?.handoffId as string;
  await take(lead, last, 'hand-off', { words: 'All there.', reason: 'Soon', receiverId: harness.ids.people['Lena'] });
  const before = await standing(id, last);
  const changeId = await take(lead, last, 'pick-up');
  expect((await planOf(id)).engagement.state).toBe('finished');
  const undone = (await lead.post(`/changes/${changeId}/undo`).expect(200)).body as { changeId: string };
  expect((await planOf(id)).engagement.state).toBe('open');
  expect(await standing(id, last)).toEqual(before);
  await lead.post(`/changes/${undone.changeId}/undo`).expect(200);
  expect((await planOf(id)).engagement.state).toBe('finished');
});

test('a hand-off that was picked up, and a phase that was worked on, stay', async () => {
  const { id, handoff } = await start();
  const given = await handOff(handoff);
  const picked = await take(maker, handoff, 'pick-up');
  const passed = await lead.post(`/changes/${given}/undo`).expect(409);
  expect((passed.body as { message: string }).message).toContain('was changed or handed on since');
  const cut = (await planOf(id)).tasks.find(({ title }) => title === 'Cut');
  await maker.patch(`/tasks/${cut?.id}`, { version: cut?.version, status: 'active' }).expect(200);
  const refused = await maker.post(`/changes/${picked}/undo`).expect(409);
  expect(refused.body).toMatchObject({
    code: 'changed-meanwhile',
    message: '“Make” has been worked on since. Undoing would leave that behind, so nothing was undone.',
  });
  expect((await sheetOf(handoff)).state).toBe('picked-up');
});

test('two undo the same turn at once: one of them does', async () => {
  const { id, handoff } = await start();
  const before = await standing(id, handoff);
  const changeId = await handOff(handoff);
  const answers = await Promise.all([lead.post(`/changes/${changeId}/undo`), lead.post(`/changes/${changeId}/undo`)]);
  expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
  expect(await standing(id, handoff)).toEqual(before);
});

test('what was undone is no notice any more, and is not counted in how handoffs go', async () => {
  const { handoff } = await start();
  const told = async (): Promise<number> => {
    await harness.settle();
    const { groups } = (await maker.get('/notices').expect(200)).body as Notices;
    return groups.filter(({ about }) => about.id === handoff).length;
  };
  const cases = async (): Promise<number> => ((await lead.get('/handoffs/speed').expect(200)).body as HandoffSpeed).all.cases;
  const before = await cases();
  const changeId = await handOff(handoff);
  expect([await told(), await cases()]).toEqual([1, before + 1]);
  await lead.post(`/changes/${changeId}/undo`).expect(200);
  expect([await told(), await cases()]).toEqual([0, before]);
});
