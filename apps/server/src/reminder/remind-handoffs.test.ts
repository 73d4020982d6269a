import type { EngagementPlan, HistoryLine, Notices } from '@crew/contract';
import { historyOf, startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';
import { RemindJob } from './remind.job.ts';

/* Days are worked from 9:00 to 17:00; today is Monday 23 November, and Friday is closed. */

const { harness, lead } = testWorld();
let maker: Caller;
let handoff: string;

const setHours = async (remindHours: number, remindLeadHours: number): Promise<void> => {
  const owner = await harness.as('Oona');
  await owner.patch('/settings', { remindHours, remindLeadHours }).expect(200);
};

beforeAll(async () => {
  maker = await harness.as('Mak');
});
beforeEach(async () => {
  harness.clock.moveTo(TODAY, '10:00');
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  const id = await startSmall(lead, harness, { roles: [{ roleId: role?.id, personId: harness.ids.people['Mak'] }] });
  const plan = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  handoff = plan.phases[0]?.handoffId as string;
  const body = { version: 1, words: '', reason: 'In a hurry', receiverId: harness.ids.people['Mak'] };
  await lead.post(`/handoffs/${handoff}/hand-off`, body).expect(200);
});
afterEach(async () => {
  await harness.database.rows('DELETE FROM engagement');
  await harness.database.rows('DELETE FROM time_off');
  await setHours(8, 16);
});

/** Who was reminded of the handoff by then, the first first. */
async function remindedBy(day: string, time: string): Promise<string[]> {
  harness.clock.moveTo(day as typeof TODAY, time);
  await harness.app.get(RemindJob).run();
  return (await reminders()).map(({ note }) => note ?? '');
}
const reminders = async (): Promise<HistoryLine[]> =>
  (await historyOf(lead, handoff, 'handoff')).filter(({ kind }) => kind === 'reminded').reverse();
const kindsOf = async (caller: Caller): Promise<string[]> => {
  await harness.settle();
  const { groups } = (await caller.get('/notices').expect(200)).body as Notices;
  return groups.filter(({ about }) => about.id === handoff).flatMap(({ lines }) => lines.map(({ kind }) => kind));
};

test('whoever holds a handoff is reminded after eight working hours, once', async () => {
  expect(await remindedBy('2026-11-24', '09:59')).toEqual([]);
  expect(await remindedBy('2026-11-24', '10:00')).toEqual(['Mak Reyes']);
  expect(await remindedBy('2026-11-24', '16:00')).toEqual(['Mak Reyes']);
  expect(await kindsOf(maker)).toEqual(['reminder', 'handed-off']);
});

test('after sixteen the lead is told who has it', async () => {
  expect(await remindedBy('2026-11-25', '10:00')).toEqual(['Mak Reyes', 'Lena Park']);
  await harness.settle();
  const { groups } = (await lead.get('/notices').expect(200)).body as Notices;
  expect(groups.find(({ about }) => about.id === handoff)?.lines[0]).toMatchObject({
    kind: 'reminder',
    name: 'Mak Reyes',
    minutes: 960,
    by: null,
  });
});

test('hours in which the holder does not work do not count', async () => {
  await lead.post(`/crew/${harness.ids.people['Mak']}/time-off`, { from: '2026-11-24', to: '2026-11-25', note: '' }).expect(201);
  expect(await remindedBy('2026-11-26', '09:59')).toEqual([]);
  expect(await remindedBy('2026-11-26', '10:00')).toEqual(['Mak Reyes']);
  // Friday is closed, then comes the weekend.
  expect(await remindedBy('2026-11-30', '09:59')).toEqual(['Mak Reyes']);
  expect(await remindedBy('2026-11-30', '10:00')).toEqual(['Mak Reyes', 'Lena Park']);
});

test('sent back, whoever gave it holds it, from that moment on', async () => {
  harness.clock.moveTo('2026-11-24', '09:30');
  await maker.post(`/handoffs/${handoff}/send-back`, { version: 2, question: 'Which?' }).expect(200);
  expect(await remindedBy('2026-11-24', '17:00')).toEqual([]);
  expect(await remindedBy('2026-11-25', '09:30')).toEqual(['Lena Park']);
  // Its lead is who holds it: nobody is told twice.
  expect(await remindedBy('2026-11-26', '16:00')).toEqual(['Lena Park']);
});

test('picked up it reminds nobody; passed on it reminds who has it now', async () => {
  const dora = harness.ids.people['Dora'];
  await maker.post(`/handoffs/${handoff}/give-on`, { version: 2, receiverId: dora }).expect(200);
  expect(await remindedBy('2026-11-24', '10:00')).toEqual(['Dora Quill']);
  await (await harness.as('Dora')).post(`/handoffs/${handoff}/pick-up`, { version: 3 }).expect(200);
  expect(await remindedBy('2026-11-30', '16:00')).toEqual(['Dora Quill']);
});

test('an owner says after how long, or never', async () => {
  await setHours(2, 0);
  expect(await remindedBy(TODAY, '11:59')).toEqual([]);
  expect(await remindedBy(TODAY, '12:00')).toEqual(['Mak Reyes']);
  expect(await remindedBy('2026-11-30', '12:00')).toEqual(['Mak Reyes']);
  const owner = await harness.as('Oona');
  await owner.patch('/settings', { remindHours: 201 }).expect(400);
  expect((await owner.get('/settings').expect(200)).body).toMatchObject({ remindHours: 2, remindLeadHours: 0, historyMonths: 24 });
});

test('reminding twice at once reminds once', async () => {
  harness.clock.moveTo('2026-11-25', '10:00');
  await Promise.all([harness.app.get(RemindJob).run(), harness.app.get(RemindJob).run()]);
  expect((await reminders()).map(({ note }) => note)).toEqual(['Mak Reyes', 'Lena Park']);
});
