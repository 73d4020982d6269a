import type { EngagementPlan, NoticeChoices, NoticeGroup, NoticeKind, Notices, PlanTask } from '@crew/contract';
import { startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';

/* Who is told of what: Lena leads, Mak makes, Dora draws. */

const { harness, lead } = testWorld();
let maker: Caller;
let id: string;
let maks: string;

beforeAll(async () => {
  maker = await harness.as('Mak');
  maks = harness.ids.people['Mak'] as string;
});
beforeEach(async () => {
  harness.clock.moveTo(TODAY);
  await harness.database.rows('DELETE FROM notice_choice');
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  id = await startSmall(lead, harness, { name: 'Quay', roles: [{ roleId: role?.id, personId: maks }] });
  await harness.settle();
  await harness.database.rows('DELETE FROM notice');
});

const noticesOf = async (caller: Caller): Promise<Notices> => {
  await harness.settle();
  return (await caller.get('/notices').expect(200)).body as Notices;
};
const planOf = async (): Promise<EngagementPlan> => (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const taskOf = async (title: string): Promise<PlanTask> => (await planOf()).tasks.find((task) => task.title === title) as PlanTask;
const edit = async (title: string, change: object, by: Caller = lead): Promise<void> => {
  const { id: task, version } = await taskOf(title);
  await by.patch(`/tasks/${task}`, { version, ...change }).expect(200);
};
const told = ({ groups }: Notices): [string, NoticeKind][] =>
  groups.flatMap((group) => group.lines.map(({ kind }): [string, NoticeKind] => [titleOf(group), kind]));
const titleOf = ({ about }: NoticeGroup): string => (about.kind === 'handoff' ? `${about.from} to ${about.to}` : about.title);

/** Hands the first phase off to Mak. */
async function handOff(): Promise<string> {
  const handoff = (await planOf()).phases[0]?.handoffId as string;
  await lead
    .post(`/handoffs/${handoff}/hand-off`, { version: 1, words: 'All in the folder', reason: 'In a hurry', receiverId: maks })
    .expect(200);
  return handoff;
}

test('somebody who is given a task is told by whom, and whoever gave it is not', async () => {
  await edit('Sketch', { assigneeIds: [maks] });
  const { unread, groups } = await noticesOf(maker);
  expect(unread).toBe(1);
  expect(groups).toMatchObject([
    {
      about: { kind: 'task', title: 'Sketch', status: 'queued' },
      engagement: { id, name: 'Quay' },
      lines: [{ kind: 'assigned', isRead: false, by: { name: 'Lena Park' }, words: null }],
    },
  ]);
  expect(told(await noticesOf(lead))).toEqual([]);
});

test('new work says which day of one’s week has room for it, until it is put on one', async () => {
  await harness.database.rows('DELETE FROM engagement WHERE id <> $1', [id]);
  await edit('Sketch', { assigneeIds: [maks] });
  const room = async () => {
    const { about } = (await noticesOf(maker)).groups[0] as NoticeGroup;
    return about.kind === 'task' ? about.room : null;
  };
  const { id: sketch, due } = await taskOf('Sketch');
  // Eight hours of work, and a free day of eight.
  expect(await room()).toEqual({
    isPlaced: false,
    day: { date: TODAY, freeMinutes: 480 },
    onDue: { date: due, loadMinutes: 240, capacityMinutes: 480 },
  });
  await lead.post(`/crew/${maks}/time-off`, { from: TODAY, to: TODAY, minutes: 60, note: '' }).expect(201);
  expect(await room()).toMatchObject({ day: { date: '2026-11-24' } });
  await maker.post('/desk/places', { taskId: sketch, day: '2026-11-24', personId: maks }).expect(200);
  expect(await room()).toMatchObject({ isPlaced: true, onDue: { date: '2026-11-24', loadMinutes: 480 } });
  await harness.database.rows('DELETE FROM time_off');
});

test('nobody is told of their own doing', async () => {
  await edit('Sketch', { assigneeIds: [maks] }, maker);
  await edit('Sketch', { assigneeIds: [] }, maker);
  expect(told(await noticesOf(maker))).toEqual([]);
});

test('somebody who loses a task is told', async () => {
  await edit('Sketch', { assigneeIds: [maks] }, maker);
  await edit('Sketch', { assigneeIds: [] });
  expect(told(await noticesOf(maker))).toEqual([['Sketch', 'unassigned']]);
});

test('what repeats is no news each time it comes', async () => {
  await edit('Sketch', { assigneeIds: [maks] }, maker);
  await lead.post(`/tasks/${(await taskOf('Sketch')).id}/series`, { rule: 'FREQ=DAILY', onClosed: 'after' }).expect(201);
  harness.clock.moveTo('2026-11-24');
  expect(told(await noticesOf(maker))).toEqual([]);
  expect((await planOf()).tasks.filter(({ title }) => title === 'Sketch').length).toBeGreaterThan(1);
});

test('when the last task in front of one is over, its holder hears that it can start', async () => {
  await edit('Ink', { assigneeIds: [maks] }, maker);
  await edit('Sketch', { status: 'done' });
  const { groups } = await noticesOf(maker);
  // That it moved because of that is not told beside it.
  expect(groups).toMatchObject([{ about: { title: 'Ink' }, lines: [{ kind: 'ready', name: 'Sketch', change: { to: 'done' } }] }]);
});

test('days that moved because of somebody are told, as one line however often', async () => {
  await edit('Ink', { assigneeIds: [maks] }, maker);
  const was = (await taskOf('Ink')).due;
  await edit('Sketch', { days: 9 });
  await edit('Sketch', { days: 12 });
  const now = (await taskOf('Ink')).due;
  const { groups, unread } = await noticesOf(maker);
  expect(groups[0]?.lines).toMatchObject([{ kind: 'moved', by: { name: 'Lena Park' }, change: { from: was, to: now } }]);
  expect([groups.length, unread]).toEqual([1, 1]);
});

test('days that moved because a day went by are nobody’s doing and are not told', async () => {
  await edit('Ink', { assigneeIds: [maks] }, maker);
  harness.clock.moveTo('2026-12-18');
  await harness.settle();
  expect(told(await noticesOf(maker))).toEqual([]);
});

test('both sides of a handoff hear what concerns them', async () => {
  const handoff = await handOff();
  const { groups } = await noticesOf(maker);
  const about = { kind: 'handoff', id: handoff, state: 'handed-off', isReceiver: true, version: 2 };
  expect(groups[0]).toMatchObject({ about, lines: [{ kind: 'handed-off', words: 'All in the folder', by: { name: 'Lena Park' } }] });
  await maker.post(`/handoffs/${handoff}/send-back`, { version: 2, question: 'Which folder?' }).expect(200);
  const back = await noticesOf(lead);
  expect(back.groups[0]).toMatchObject({
    about: { id: handoff, question: 'Which folder?' },
    lines: [{ kind: 'sent-back', words: 'Which folder?' }],
  });
});

test('the tasks a pick-up gives to somebody are told to others only', async () => {
  const handoff = await handOff();
  await maker.post(`/handoffs/${handoff}/pick-up`, { version: 2 }).expect(200);
  expect(told(await noticesOf(maker)).map(([, kind]) => kind)).toEqual(['handed-off']);
  expect(told(await noticesOf(lead))).toContainEqual([expect.any(String), 'picked-up']);
});

test('another promise is told to those who work for it, once', async () => {
  await edit('Sketch', { assigneeIds: [maks] }, maker);
  await edit('Ink', { assigneeIds: [maks] }, maker);
  const { version } = (await planOf()).engagement;
  await lead.patch(`/engagements/${id}`, { version, promise: '2027-04-01' }).expect(200);
  const { groups } = await noticesOf(maker);
  expect(groups).toMatchObject([
    { about: { kind: 'engagement', title: 'Quay' }, lines: [{ kind: 'promise', change: { to: '2027-04-01' } }] },
  ]);
});

test('a kind that is turned off is not told, one that is off by itself can be turned on', async () => {
  const choose = (kind: NoticeKind, isOn: boolean) => maker.patch('/notices/choices', { kind, channel: 'screen', isOn }).expect(200);
  const { kinds } = (await choose('assigned', false)).body as NoticeChoices;
  expect(kinds.find(({ kind }) => kind === 'assigned')).toEqual({ kind: 'assigned', screen: false, mail: false, digest: true });
  await choose('status', true);
  await edit('Sketch', { assigneeIds: [maks] });
  await edit('Sketch', { status: 'active' });
  const { groups } = await noticesOf(maker);
  expect(groups).toMatchObject([{ lines: [{ kind: 'status', change: { from: 'queued', to: 'active' } }] }]);
  expect(groups[0]?.lines).toHaveLength(1);
});

test('read and unread, put off until nine tomorrow and back', async () => {
  await edit('Sketch', { assigneeIds: [maks] });
  const ids = (await noticesOf(maker)).groups.flatMap(({ lines }) => lines.flatMap((line) => line.ids));
  await maker.post('/notices/read', { noticeIds: ids, isRead: true }).expect(204);
  expect(await noticesOf(maker)).toMatchObject({ unread: 0, groups: [{ lines: [{ isRead: true }] }] });
  await maker.post('/notices/read', { noticeIds: ids, isRead: false }).expect(204);
  await maker.post('/notices/snooze', { noticeIds: ids, isSnoozed: true }).expect(204);
  expect(await noticesOf(maker)).toEqual({ unread: 0, groups: [], snoozed: { ids, until: '2026-11-24T09:00:00.000Z' } });
  harness.clock.moveTo('2026-11-24', '09:01');
  expect(await noticesOf(maker)).toMatchObject({ unread: 1, snoozed: null });
  harness.clock.moveTo(TODAY);
  await maker.post('/notices/snooze', { noticeIds: ids, isSnoozed: false }).expect(204);
  expect(await noticesOf(maker)).toMatchObject({ unread: 1, snoozed: null });
});

test('others’ notices cannot be marked, and nothing is marked then', async () => {
  await edit('Sketch', { assigneeIds: [maks] });
  const [own] = (await noticesOf(maker)).groups.flatMap(({ lines }) => lines.flatMap((line) => line.ids));
  await edit('Sketch', { status: 'done' }, maker);
  const refused = await lead.post('/notices/read', { noticeIds: [own], isRead: true }).expect(400);
  expect(refused.body).toMatchObject({ code: 'unknown-id', field: 'noticeIds' });
  expect((await noticesOf(maker)).unread).toBe(1);
});

test('what was read long ago goes, what was not read stays', async () => {
  await edit('Sketch', { assigneeIds: [maks] });
  await edit('Ink', { assigneeIds: [maks] });
  const [read] = (await noticesOf(maker)).groups.flatMap(({ lines }) => lines.flatMap((line) => line.ids));
  await maker.post('/notices/read', { noticeIds: [read], isRead: true }).expect(204);
  harness.clock.moveTo('2027-02-01');
  await harness.database.rows(`SELECT graphile_worker.add_job('prune-notices')`);
  await harness.settle();
  const left = await harness.database.row<{ count: number }>('SELECT count(*)::int AS count FROM notice WHERE person_id = $1', [maks]);
  expect(left?.count).toBe(1);
});
