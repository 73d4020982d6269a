import type { CrewMember, Desk, EngagementPlan, HandoffSheet, Me, Notices, PersonEdited } from '@crew/contract';
import { historyOf, startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';
import { RemindJob } from '../reminder/remind.job.ts';

/* Mak is away today and tomorrow; who stands in takes what arrives for them. */

const { harness, lead } = testWorld();
let dora: Caller;
let people: Readonly<Record<string, string>>;
let handoff: string;

beforeAll(async () => {
  people = harness.ids.people;
  dora = await harness.as('Dora');
});
beforeEach(async () => {
  harness.clock.moveTo(TODAY, '10:00');
  await standIn('Dora');
  await harness.database.rows('DELETE FROM time_off');
  await lead.post(`/crew/${people['Mak']}/time-off`, { from: TODAY, to: '2026-11-24', note: '' }).expect(201);
  const id = await startSmall(lead, harness);
  const plan = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  handoff = plan.phases[0]?.handoffId as string;
  const body = { version: 1, words: '', reason: 'In a hurry', receiverId: people['Mak'] };
  await lead.post(`/handoffs/${handoff}/hand-off`, body).expect(200);
  await harness.settle();
});
afterEach(() => harness.database.rows('DELETE FROM engagement'));

const makNow = async (): Promise<CrewMember> =>
  ((await lead.get('/crew/members').expect(200)).body as CrewMember[]).find(({ id }) => id === people['Mak']) as CrewMember;
const edit = async (change: object, status = 200) =>
  lead.patch(`/crew/${people['Mak']}`, { version: (await makNow()).version, ...change }).expect(status);
const standIn = (name: string | null) => edit({ standInId: name === null ? null : people[name] });
const sheetFor = async (who: Caller): Promise<HandoffSheet> => (await who.get(`/handoffs/${handoff}`).expect(200)).body as HandoffSheet;
const waitingFor = async (who: Caller): Promise<[desk: number, bar: number]> => {
  const [desk, me] = [(await who.get('/desk').expect(200)).body as Desk, (await who.get('/session').expect(200)).body as Me];
  return [desk.handoffs.length, me.counts.handoffs];
};

test('a handoff that arrives for somebody who is away is told to their stand-in, stands on their desk, and they may pick it up', async () => {
  const { groups } = (await dora.get('/notices').expect(200)).body as Notices;
  expect(groups.find(({ about }) => about.id === handoff)).toMatchObject({ about: { isReceiver: true }, lines: [{ kind: 'handed-off' }] });
  expect(await waitingFor(dora)).toEqual([1, 1]);
  expect(await sheetFor(dora)).toMatchObject({ receiver: { name: 'Mak Reyes' }, standIn: { name: 'Dora Quill' }, canPickUp: true });
  await dora.post(`/handoffs/${handoff}/pick-up`, { version: 2 }).expect(200);
  expect(await waitingFor(dora)).toEqual([0, 0]);
});

test('once somebody is back it is theirs alone again', async () => {
  harness.clock.moveTo('2026-11-25', '09:00');
  expect(await waitingFor(dora)).toEqual([0, 0]);
  expect(await sheetFor(dora)).toMatchObject({ standIn: null, canPickUp: false });
  await dora.post(`/handoffs/${handoff}/pick-up`, { version: 2 }).expect(403);
});

test('without a stand-in, or with one who left, the lead of the engagement takes it', async () => {
  await standIn(null);
  expect(await sheetFor(lead)).toMatchObject({ standIn: { name: 'Lena Park' } });
  expect(await waitingFor(lead)).toEqual([1, 1]);
  expect(await waitingFor(dora)).toEqual([0, 0]);
});

test('what comes back to somebody who is away is their stand-in’s to answer', async () => {
  harness.clock.moveTo('2026-11-25', '09:00');
  const mak = await harness.as('Mak');
  await lead.post(`/crew/${people['Lena']}/time-off`, { from: '2026-11-25', to: '2026-11-25', note: '' }).expect(201);
  const { version } = ((await lead.get('/crew/members').expect(200)).body as CrewMember[]).find(
    ({ id }) => id === people['Lena'],
  ) as CrewMember;
  await lead.patch(`/crew/${people['Lena']}`, { version, standInId: people['Dora'] }).expect(200);
  await mak.post(`/handoffs/${handoff}/send-back`, { version: 2, question: 'Which?' }).expect(200);
  await harness.settle();
  const { groups } = (await dora.get('/notices').expect(200)).body as Notices;
  expect(groups.find(({ about }) => about.id === handoff)?.lines[0]).toMatchObject({ kind: 'sent-back', words: 'Which?' });
  expect(await waitingFor(dora)).toEqual([1, 1]);
});

test('while somebody is away their stand-in is reminded, by their own hours', async () => {
  harness.clock.moveTo('2026-11-24', '10:00');
  await harness.app.get(RemindJob).run();
  const reminded = (await historyOf(lead, handoff, 'handoff')).filter(({ kind }) => kind === 'reminded');
  expect(reminded.map(({ note }) => note)).toEqual(['Dora Quill']);
});

test('only somebody else of the crew who signs in and is no freelancer can stand in', async () => {
  for (const [standInId, code] of [
    [people['Mak'], 'invalid-input'],
    [people['Fred'], 'invalid-input'],
    ['11111111-1111-4111-8111-111111111111', 'unknown-id'],
  ] as const) {
    const { body } = await edit({ standInId }, 400);
    expect(body).toMatchObject({ code, field: 'standInId' });
  }
  expect((await makNow()).standInId).toBe(people['Dora']);
});

test('naming a stand-in is in the history by name and is undone', async () => {
  const { changeId } = (await edit({ standInId: people['Lena'] })).body as PersonEdited;
  const [line] = await historyOf(lead, people['Mak'] as string, 'person');
  expect(line?.changes).toEqual([{ field: 'standInId', from: 'Dora Quill', to: 'Lena Park' }]);
  await lead.post(`/changes/${changeId}/undo`).expect(200);
  expect((await makNow()).standInId).toBe(people['Dora']);
});
