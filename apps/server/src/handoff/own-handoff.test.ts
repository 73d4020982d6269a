import type { Desk, EngagementPlan, HandoffBoard, HandoffSheet } from '@crew/contract';
import { startSmall, testWorld, type Caller } from '../../test/harness.ts';

const world = testWorld();
let fred: Caller;

beforeAll(async () => {
  fred = await world.harness.as('Fred');
});

const idOf = (name: string): string => world.harness.ids.people[name] as string;
const roleId = async (name: string): Promise<string> =>
  ((await world.harness.database.row<{ id: string }>('SELECT id FROM role WHERE name = $1', [name])) as { id: string }).id;
const sheetFor = async (caller: Caller, id: string): Promise<HandoffSheet> =>
  (await caller.get(`/handoffs/${id}`).expect(200)).body as HandoffSheet;
const planFor = async (caller: Caller, id: string): Promise<EngagementPlan> =>
  (await caller.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;

/** Nobody is chosen for any role: who would be suggested depends on ids where two have the same room. */
const nobody = async (): Promise<object[]> => [
  { roleId: await roleId('Maker'), personId: null },
  { roleId: await roleId('Drawer'), personId: null },
];

/** An engagement with its first handoff handed off to somebody. */
async function handedTo(
  receiver: string,
  more: object = {},
): Promise<{ readonly id: string; readonly handoff: string; readonly plan: EngagementPlan }> {
  const id = await startSmall(world.lead, world.harness, {
    name: `For ${receiver}`,
    roles: await nobody(),
    ...more,
  });
  const plan = await planFor(world.lead, id);
  const handoff = plan.phases[0]?.handoffId as string;
  const body = { version: 1, words: 'Two panels are curved.', reason: 'Agreed by telephone', receiverId: idOf(receiver) };
  await world.lead.post(`/handoffs/${handoff}/hand-off`, body).expect(200);
  return { id, handoff, plan };
}

describe('a freelancer', () => {
  test('reads the packet of a handoff that is theirs, and no other', async () => {
    const [mine, other] = [await handedTo('Fred'), await handedTo('Mak')];
    const sheet = await sheetFor(fred, mine.handoff);
    expect(sheet).toMatchObject({ words: 'Two panels are curved.', canPickUp: true, canHandOff: false, receiver: { name: 'Fred Loan' } });
    expect(sheet.openTasks.map(({ title }) => title)).toEqual(['Sketch', 'Ink', 'Client looks']);
    await fred.get(`/handoffs/${other.handoff}`).expect(404);
    await fred.post(`/handoffs/${other.handoff}/pick-up`, { version: 2 }).expect(404);
    const board = (await fred.get('/handoffs').expect(200)).body as HandoffBoard;
    expect(board.lines.map((line) => line.id)).toContain(mine.handoff);
    expect(board.lines.some((line) => line.id === other.handoff)).toBe(false);
  });

  test('sends it back, gives it on and picks it up', async () => {
    const { handoff } = await handedTo('Fred');
    await fred.post(`/handoffs/${handoff}/send-back`, { version: 2, question: 'Which two?' }).expect(200);
    await world.lead.post(`/handoffs/${handoff}/hand-off`, { version: 3, words: 'The first two.', reason: 'Agreed' }).expect(200);
    await fred.post(`/handoffs/${handoff}/pick-up`, { version: 4 }).expect(200);
    const next = await handedTo('Fred');
    await fred.post(`/handoffs/${next.handoff}/give-on`, { version: 2, receiverId: idOf('Dora') }).expect(200);
    expect(await sheetFor(fred, next.handoff)).toMatchObject({ receiver: { name: 'Dora Quill' }, canPickUp: false });
  });

  test('hands off the phase they hold, and answers what comes back', async () => {
    const id = await startSmall(world.lead, world.harness, { roles: [{ roleId: await roleId('Drawer'), personId: idOf('Fred') }] });
    const handoff = (await planFor(world.lead, id)).phases[0]?.handoffId as string;
    const { gate, canHandOff } = await sheetFor(fred, handoff);
    expect(canHandOff).toBe(true);
    await fred.patch(`/gate-checks/${gate.find(({ kind }) => kind === 'word')?.id}`, { isClear: true }).expect(204);
    await fred.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '', receiverId: idOf('Mak') }).expect(409);
    const others = await handedTo('Mak');
    const foreign = (await sheetFor(world.lead, others.handoff)).gate.find(({ kind }) => kind === 'word');
    await fred.patch(`/gate-checks/${foreign?.id}`, { isClear: true }).expect(404);
  });

  test('sees the plan of an engagement cut to their own tasks, and no other engagement', async () => {
    const { id, plan } = await handedTo('Mak');
    await fred.get(`/engagements/${id}/plan`).expect(404);
    const ink = plan.tasks.find(({ title }) => title === 'Ink');
    await world.lead.patch(`/tasks/${ink?.id}`, { version: ink?.version, assigneeIds: [idOf('Fred')] }).expect(200);
    const cut = await planFor(fred, id);
    expect(cut.tasks.map(({ title, after }) => [title, after])).toEqual([['Ink', []]]);
    expect(cut.phases.map(({ name, handoffId }) => [name, handoffId])).toEqual([['Draw', null]]);
    expect(cut.engagement).toMatchObject({ percent: 0, effortMinutes: 960, loggedMinutes: 0, forecast: null, contact: null });
    expect(JSON.stringify(cut)).not.toContain('Sketch');
  });

  test('finds work in phases that have not begun on the desk, under what comes later', async () => {
    const { id, plan } = await handedTo('Mak', { start: '2026-12-07' });
    const paint = plan.tasks.find(({ title }) => title === 'Paint');
    await world.lead.patch(`/tasks/${paint?.id}`, { version: paint?.version, assigneeIds: [idOf('Fred')] }).expect(200);
    const { later } = (await fred.get('/desk').expect(200)).body as Desk;
    expect(later.filter(({ engagement }) => engagement.id === id).map(({ title }) => title)).toEqual(['Paint']);
    expect([...later].sort((one, other) => one.start.localeCompare(other.start))).toEqual(later);
  });
});

describe('a role counts only if it is held', () => {
  test('somebody who does not hold it cannot be chosen for it', async () => {
    const roles = [{ roleId: await roleId('Maker'), personId: idOf('Fred') }];
    const refused = await world.lead
      .post('/engagements', {
        templateId: world.harness.ids.template,
        clientId: world.harness.ids.client,
        name: 'Wrong',
        start: '2026-11-23',
        roles,
      })
      .expect(400);
    expect(refused.body).toMatchObject({
      field: 'roles',
      message: 'Fred Loan does not hold the role Maker. Choose somebody who does, or add the role under Crew.',
    });
  });

  test('who gave it up is neither expected to receive the phase nor given its tasks', async () => {
    const maker = await roleId('Maker');
    const id = await startSmall(world.lead, world.harness, { roles: [{ roleId: maker, personId: idOf('Dora') }] });
    const plan = await planFor(world.lead, id);
    const handoff = plan.phases[0]?.handoffId as string;
    expect((await sheetFor(world.lead, handoff)).receiver?.name).toBe('Dora Quill');
    for (const task of plan.tasks.filter(({ role }) => role === 'Maker'))
      await world.lead.patch(`/tasks/${task.id}`, { version: task.version, assigneeIds: [] }).expect(200);
    await world.harness.database.rows('DELETE FROM person_role WHERE person_id = $1 AND role_id = $2', [idOf('Dora'), maker]);
    const sheet = await sheetFor(world.lead, handoff);
    expect(sheet.receiver).toBeNull();
    expect(sheet.receivers.filter(({ holdsRole }) => holdsRole).map(({ name }) => name)).toEqual(['Mak Reyes']);
    const refused = await world.lead.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '', reason: 'Agreed' }).expect(400);
    expect(refused.body).toMatchObject({ field: 'receiverId' });
    await world.lead
      .post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '', reason: 'Agreed', receiverId: idOf('Fred') })
      .expect(200);
    await fred.post(`/handoffs/${handoff}/pick-up`, { version: 2 }).expect(200);
    expect((await planFor(world.lead, id)).tasks.filter(({ role }) => role === 'Maker').map(({ assignees }) => assignees)).toEqual([
      [],
      [],
    ]);
  });
});

test('nobody without a sign-in of their own is given a handoff, and who is away says until when', async () => {
  const { handoff } = await handedTo('Mak');
  const [nora] = await world.harness.database.rows<{ id: string }>(
    `INSERT INTO person (agency_id, name, initials, week) SELECT id, 'Nora Vale', 'NV', week FROM agency LIMIT 1 RETURNING id`,
  );
  const refused = await world.lead.post(`/handoffs/${handoff}/give-on`, { version: 2, receiverId: nora?.id }).expect(400);
  expect(refused.body).toMatchObject({ message: '“Nora Vale” cannot sign in, so could not pick it up. Choose somebody else.' });
  await world.lead.post(`/crew/${idOf('Dora')}/time-off`, { from: '2026-11-20', to: '2026-11-25' }).expect(201);
  const { receivers } = await sheetFor(world.lead, handoff);
  expect(receivers.find(({ name }) => name === 'Dora Quill')?.awayUntil).toBe('2026-11-25');
  expect(receivers.find(({ name }) => name === 'Mak Reyes')?.awayUntil).toBeNull();
  expect(receivers.some(({ name }) => name === 'Nora Vale')).toBe(false);
});
