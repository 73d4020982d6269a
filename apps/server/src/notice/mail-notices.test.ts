import type { EngagementPlan, HandoffSheet, Mailbox, MailboxMail, NoticeKind, Notices, PlanTask } from '@crew/contract';
import { startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';
import { MailNotices } from './mail-notices.ts';

/* When notices are mailed: Mak works from nine for eight hours, Monday to Friday; the 27th is closed. */

const { harness, lead } = testWorld();
let maker: Caller;
let id: string;
let maks: string;

beforeAll(async () => {
  maker = await harness.as('Mak');
  maks = harness.ids.people['Mak'] as string;
});
beforeEach(async () => {
  harness.clock.moveTo(TODAY, '10:00');
  id = await startSmall(lead, harness, { name: 'Quay' });
  await harness.settle();
  for (const table of ['mail', 'caught_mail', 'notice', 'notice_choice', 'notice_mailing'])
    await harness.database.rows(`DELETE FROM ${table}`);
  await harness.database.rows('INSERT INTO notice_mailing (person_id, digest_on) SELECT id, $1 FROM person', [TODAY]);
});

const choose = (kind: NoticeKind, channel: string, isOn: boolean) => maker.patch('/notices/choices', { kind, channel, isOn }).expect(200);
async function assign(title: string): Promise<void> {
  const plan = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  const { id: task, version } = plan.tasks.find((one) => one.title === title) as PlanTask;
  await lead.patch(`/tasks/${task}`, { version, assigneeIds: [maks] }).expect(200);
  await harness.settle();
}
/** What has been mailed to Mak by then, the newest first. */
async function mailsAt(day: string, time: string): Promise<readonly MailboxMail[]> {
  harness.clock.moveTo(day as typeof TODAY, time);
  await harness.app.get(MailNotices).run();
  await harness.settle();
  const { mails } = (await maker.get('/mail/boxes').expect(200)).body as Mailbox;
  return Promise.all(mails.map(async (line) => (await maker.get(`/mail/boxes/${line.id}`).expect(200)).body as MailboxMail));
}
const unread = async (): Promise<string[]> =>
  ((await maker.get('/notices').expect(200)).body as Notices).groups.flatMap(({ lines }) => lines.flatMap(({ ids }) => ids));

test('notices of some minutes go into one mail, and one that was read meanwhile is left out', async () => {
  await choose('assigned', 'mail', true);
  await assign('Sketch');
  const read = await unread();
  await assign('Ink');
  await assign('Client looks');
  await maker.post('/notices/read', { noticeIds: read, isRead: true }).expect(204);
  expect(await mailsAt(TODAY, '10:04')).toEqual([]);
  const mails = await mailsAt(TODAY, '10:06');
  expect(mails.map(({ subject }) => subject)).toEqual(['2 things new for you']);
  expect(mails[0]?.text).toContain('Ink, Quay: Lena assigned it to you');
  expect(mails[0]?.text).not.toContain('Sketch');
  expect(await mailsAt(TODAY, '10:30')).toHaveLength(1);
});

test('outside one’s working hours a mail waits until they begin', async () => {
  await choose('assigned', 'mail', true);
  harness.clock.moveTo('2026-11-26', '18:00');
  await assign('Sketch');
  // The agency is closed on Friday, then it is the weekend.
  expect(await mailsAt('2026-11-27', '12:00')).toEqual([]);
  expect(await mailsAt('2026-11-30', '08:59')).toEqual([]);
  const subjects = (await mailsAt('2026-11-30', '09:06')).map(({ subject }) => subject);
  expect(subjects.filter((subject) => subject.startsWith('Sketch'))).toEqual(['Sketch: Lena assigned it to you']);
});

test('somebody who wants mail at any time gets it at night too', async () => {
  await choose('assigned', 'mail', true);
  await maker.patch('/notices/mailing', { isQuiet: false }).expect(200);
  harness.clock.moveTo(TODAY, '22:00');
  await assign('Sketch');
  expect(await mailsAt(TODAY, '22:06')).toHaveLength(1);
});

test('a kind that is off by mail is not mailed, and one that is off on the screen can be mailed anyway', async () => {
  await assign('Sketch');
  expect(await mailsAt(TODAY, '10:30')).toEqual([]);
  await choose('assigned', 'screen', false);
  await choose('assigned', 'mail', true);
  const before = await unread();
  await assign('Ink');
  expect(await unread()).toEqual(before);
  expect((await mailsAt(TODAY, '11:00')).map(({ subject }) => subject)).toEqual(['Ink: Lena assigned it to you']);
});

test('the digest comes once, on the morning of the next working day, and ends by its own link', async () => {
  await assign('Sketch');
  await assign('Ink');
  expect(await mailsAt('2026-11-24', '08:30')).toEqual([]);
  const [digest, ...others] = await mailsAt('2026-11-24', '09:01');
  expect(others).toEqual([]);
  expect(digest?.subject).toBe('Your day: 2 things new for you');
  expect(digest?.text).toContain('Good morning, Mak.');
  const link = /<http:\/\/crew\.test\/api(\/mail\/unsubscribe\/[0-9a-f]{52})>/.exec(
    digest?.headers.find(({ name }) => name === 'List-Unsubscribe')?.value ?? '',
  )?.[1] as string;
  expect(await mailsAt('2026-11-24', '12:00')).toHaveLength(1);
  // Looking at the link changes nothing: programs open links too.
  await harness.nobody.get(link).expect(200);
  await assign('Client looks');
  expect(await mailsAt('2026-11-25', '09:01')).toHaveLength(2);
  await harness.nobody.post(link).type('form').send('List-Unsubscribe=One-Click').expect(200);
  expect((await maker.get('/notices/choices').expect(200)).body).toMatchObject({ hasDigest: false });
  await harness.nobody.post(`${link.slice(0, -1)}${link.endsWith('0') ? '1' : '0'}`).expect(404);
});

test('of a pick-up that was undone before its mail went nothing is mailed, and nothing comes back tomorrow', async () => {
  const { phases, tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  for (const { id: task, version } of tasks.filter(({ phaseId }) => phaseId === phases[0]?.id))
    await lead.patch(`/tasks/${task}`, { version, status: 'done' }).expect(200);
  const handoff = phases[0]?.handoffId as string;
  const { gate } = (await lead.get(`/handoffs/${handoff}`).expect(200)).body as HandoffSheet;
  for (const check of gate.filter(({ kind }) => kind === 'word'))
    await lead.patch(`/gate-checks/${check.id}`, { isClear: true }).expect(204);
  await maker.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '', receiverId: harness.ids.people['Lena'] }).expect(200);
  await harness.settle();
  await harness.database.rows('DELETE FROM notice');
  await choose('picked-up', 'mail', true);
  const { turns } = (await lead.post(`/handoffs/${handoff}/pick-up`, { version: 2 }).expect(200)).body as HandoffSheet;
  await harness.settle();
  const { groups } = (await maker.get('/notices').expect(200)).body as Notices;
  const told = groups.filter(({ about }) => about.id === handoff).flatMap(({ lines }) => lines.flatMap(({ ids }) => ids));
  expect(told).toHaveLength(1);
  await maker.post('/notices/snooze', { noticeIds: told, isSnoozed: true }).expect(204);
  await lead.post(`/changes/${turns.at(-1)?.changeId}/undo`).expect(200);
  await harness.settle();
  expect(((await maker.get('/notices').expect(200)).body as Notices).snoozed).toBeNull();
  await maker.post('/notices/snooze', { noticeIds: told, isSnoozed: false }).expect(204);
  expect(await mailsAt(TODAY, '10:06')).toEqual([]);
});

test('nobody without news gets a digest', async () => {
  expect(await mailsAt('2026-11-24', '09:01')).toEqual([]);
});
