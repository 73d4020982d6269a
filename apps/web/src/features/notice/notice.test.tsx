import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import {
  noticeAct,
  noticeAddress,
  noticeNeed,
  noticeWords,
  type NoticeAbout,
  type NoticeGroup,
  type NoticeLine,
  type Notices,
  type TaskRoom,
} from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { odalys, teo } from '../../../test/samples.ts';
import { NoticeBell } from './NoticeBell.tsx';

const TODAY = '2026-11-23';
const reader = { name: 'Emeka Strand', today: TODAY } as const;
const task: Extract<NoticeAbout, { readonly kind: 'task' }> = {
  ...{ kind: 'task', id: 't1', title: 'Names for the drawers', status: 'queued', due: '2026-11-25', minutes: 180 },
  ...{ doneOn: null, isLogged: false, usualMinutes: null, room: null },
};
const handoff: NoticeAbout = {
  ...{ kind: 'handoff', id: 'h1', from: 'Script', to: 'Studio', state: 'handed-off', version: 4, isReceiver: true, question: null },
};
const line = (more: Partial<NoticeLine> = {}): NoticeLine => ({
  ...{ ids: ['n1'], things: 1, kind: 'assigned', event: 'task-assigned', at: '2026-11-23T08:52:00.000Z', isRead: false },
  ...{
    by: { name: 'Bastien Okoro', initials: 'BO' },
    isByRule: false,
    words: null,
    name: null,
    minutes: null,
    reminderOf: null,
    change: null,
  },
  ...more,
});
const group = (about: NoticeAbout, ...lines: NoticeLine[]): NoticeGroup => ({
  ...{ about, engagement: { id: 'e1', name: 'Seed vault wayfinding', hue: 'leaf' }, lines },
});
const choices = {
  kinds: [
    { kind: 'assigned', screen: true, mail: false, digest: true },
    { kind: 'status', screen: false, mail: false, digest: false },
  ],
  ...{ isQuiet: true, hasDigest: true, address: 'odalys@quillmarsh.example' },
};
const open = (notices: Notices, me = odalys) =>
  openScreen(<NoticeBell />, { path: '/desk', me, answers: { 'GET /notices': notices, 'GET /notices/choices': choices } });
const panel = async () => {
  await userEvent.click(screen.getByRole('button', { name: /^Notices/ }));
  return within(await screen.findByRole('dialog', { name: 'Notices' }));
};

test.each<[Partial<NoticeLine>, NoticeAbout, string]>([
  [{}, task, 'assigned it to you'],
  [{ ids: ['a', 'b', 'c', 'd', 'e'], things: 4 }, { kind: 'engagement', id: 'e1', title: 'E' }, 'assigned 4 tasks to you'],
  [{ kind: 'ready', name: 'Sketch', change: { from: 'active', to: 'done' } }, task, 'finished “Sketch”: it can start'],
  [{ kind: 'ready', name: 'Sketch', change: { from: 'active', to: 'dropped' } }, task, 'dropped “Sketch”: it can start'],
  [{ kind: 'reminder', event: 'reminded', name: 'Emeka Strand', minutes: 480 }, handoff, 'not picked up after 8 working hours'],
  [
    { kind: 'reminder', event: 'reminded', name: 'Emeka Strand', minutes: 480 },
    { ...handoff, state: 'sent-back' },
    'not answered after 8 working hours',
  ],
  [{ kind: 'reminder', event: 'reminded', name: 'Noor Haddad', minutes: 990 }, handoff, 'Noor has had it for 16 working hours'],
  [{ kind: 'overdue', name: 'Emeka Strand', minutes: 510, reminderOf: 'overdue' }, task, 'overdue for 8 working hours'],
  [{ kind: 'overdue', name: 'Noor Haddad', minutes: 1440, reminderOf: 'waiting' }, task, 'with Noor, waiting for 24 working hours'],
  [{ kind: 'overdue', name: 'Noor Haddad', minutes: 960, reminderOf: 'client' }, task, 'waiting for the client for 16 working hours'],
  [
    { kind: 'overdue', ids: ['a', 'b', 'c', 'd'], things: 4, minutes: 480, reminderOf: 'overdue' },
    { kind: 'engagement', id: 'e1', title: 'E' },
    '4 tasks are overdue or waiting',
  ],
  [{ kind: 'unlogged', minutes: 480, reminderOf: 'unlogged' }, task, 'done with no time logged'],
  [{ kind: 'handed-off', event: 'given-on' }, handoff, 'passed it on to you'],
  [{ kind: 'engagement', event: 'engagement-closed' }, { kind: 'engagement', id: 'e1', title: 'E' }, 'closed it without finishing'],
])('what happened is a sentence: %j', (more, about, did) => {
  expect(noticeWords(line(more), { about }, reader).did).toBe(did);
});

test('days and statuses that changed are said in words, from what they were', () => {
  const changeOf = (more: Partial<NoticeLine>) => noticeWords(line(more), { about: task }, reader).change;
  expect(changeOf({ kind: 'moved', change: { from: '2026-11-26', to: '2026-11-25' } })).toEqual({ from: 'Thu 26 Nov', to: 'Wed 25 Nov' });
  expect(changeOf({ kind: 'status', change: { from: 'queued', to: 'active' } })).toEqual({ from: 'Not begun', to: 'Under way' });
  expect(changeOf({ kind: 'promise', change: { from: '2026-11-26', to: null } })).toBeNull();
});

test('what is needed depends on how the thing stands now', () => {
  expect(noticeNeed(group(task, line()), TODAY)).toEqual({ words: '3 h left, due Wed 25 Nov', isNeeded: true });
  expect(noticeNeed(group({ ...task, status: 'done' }, line()), TODAY)?.isNeeded).toBe(false);
  expect(noticeNeed(group(handoff, line({ kind: 'handed-off' })), TODAY)).toEqual({ words: 'Pick it up', isNeeded: true });
  expect(noticeNeed(group({ ...handoff, state: 'picked-up' }, line({ kind: 'handed-off' })), TODAY)).toBeNull();
});

test('a freelancer’s tasks open on the desk, staff see them in their engagement', () => {
  expect(noticeAddress(group(task, line()), false)).toBe('/desk?task=t1');
  expect(noticeAddress(group(task, line()), true)).toBe('/engagements/e1?task=t1');
  expect(noticeAddress(group(handoff, line()), false)).toBe('/handoffs?handoff=h1');
});

test('the bell says how much is new; opened, each thing stands with what is needed', async () => {
  const page = await open({ unread: 1, groups: [group(task, line())], snoozed: null });
  const shown = await panel();
  expect(screen.getByRole('button', { name: 'Notices, 1 unread' }).getAttribute('aria-expanded')).toBe('true');
  expect(shown.getByText(/assigned it to you/).textContent).toBe('Bastien assigned it to you');
  expect(shown.getByText('3 h left, due Wed 25 Nov')).toBeTruthy();
  page.network.answer('POST /notices/read', 204, null);
  await userEvent.click(shown.getByRole('link', { name: 'Open Names for the drawers' }));
  expect(page.address()).toBe('/engagements/e1?task=t1');
  expect(page.sent()).toEqual([{ request: 'POST /notices/read', body: { noticeIds: ['n1'], isRead: true } }]);
});

test('a handoff is picked up in place', async () => {
  const page = await open({ unread: 1, groups: [group(handoff, line({ kind: 'handed-off' }))], snoozed: null }, teo);
  const shown = await panel();
  page.network.answer('POST /handoffs/h1/pick-up', 200, { turns: [] });
  page.network.answer('POST /notices/read', 204, null);
  await userEvent.click(shown.getByRole('button', { name: 'Pick up' }));
  expect(page.sent()[0]).toEqual({ request: 'POST /handoffs/h1/pick-up', body: { version: 4 } });
  expect(await screen.findByText('Studio is picked up and starts today.')).toBeTruthy();
});

test('a question that came back is answered where it is read', async () => {
  const asked = group({ ...handoff, state: 'sent-back' }, line({ kind: 'sent-back', event: 'sent-back', words: 'Which stop?' }));
  const page = await open({ unread: 1, groups: [asked], snoozed: null });
  const shown = await panel();
  await userEvent.click(shown.getByRole('button', { name: 'Answer…' }));
  await userEvent.click(shown.getByRole('button', { name: 'Send' }));
  expect(await shown.findByText('Write your answer.')).toBeTruthy();
  expect(page.sent()).toEqual([]);
  await userEvent.type(shown.getByLabelText('Your answer'), 'The seventh.');
  page.network.answer('POST /handoffs/h1/hand-off', 409, { code: 'gate-not-clear', message: 'The gate is not clear: 1 task open.' });
  await userEvent.click(shown.getByRole('button', { name: 'Send' }));
  expect(await shown.findByText('The gate is not clear: 1 task open.')).toBeTruthy();
  expect(shown.getByLabelText<HTMLTextAreaElement>('Your answer').value).toBe('The seventh.');
  page.network.answer('POST /handoffs/h1/hand-off', 200, { turns: [] });
  page.network.answer('POST /notices/read', 204, null);
  await userEvent.click(shown.getByRole('button', { name: 'Send' }));
  expect(await screen.findByText('Answered and handed off again.')).toBeTruthy();
  expect(page.sent()[1]).toEqual({ request: 'POST /handoffs/h1/hand-off', body: { version: 4, words: 'The seventh.' } });
});

test('put off until tomorrow, and brought back', async () => {
  const snoozed = { ids: ['n2', 'n3'], until: '2026-11-24T09:00:00.000Z' };
  const page = await open({ unread: 1, groups: [group(task, line())], snoozed });
  const shown = await panel();
  page.network.answer('POST /notices/snooze', 204, null);
  await userEvent.click(shown.getByRole('button', { name: 'Put Names for the drawers off until tomorrow' }));
  expect(page.sent().at(-1)?.body).toEqual({ noticeIds: ['n1'], isSnoozed: true });
  expect(shown.getByText('2 notices come back Tue 24 Nov at 09:00')).toBeTruthy();
  await userEvent.click(shown.getByRole('button', { name: 'Show now' }));
  expect(page.sent().at(-1)?.body).toEqual({ noticeIds: ['n2', 'n3'], isSnoozed: false });
});

test('all are marked as read at once, and that can be undone', async () => {
  const page = await open({ unread: 2, groups: [group(task, line({ ids: ['n1', 'n2'] }))], snoozed: null });
  const shown = await panel();
  page.network.answer('POST /notices/read', 204, null);
  await userEvent.click(shown.getByRole('button', { name: 'Mark all as read' }));
  expect(await screen.findByText('2 notices marked as read.')).toBeTruthy();
  await userEvent.click(screen.getAllByRole('button', { name: 'Undo' }).at(-1) as HTMLElement);
  expect(page.sent().map(({ body }) => body)).toEqual([
    { noticeIds: ['n1', 'n2'], isRead: true },
    { noticeIds: ['n1', 'n2'], isRead: false },
  ]);
});

test('one chooses what one is told of; what is off is named', async () => {
  const page = await open({ unread: 0, groups: [], snoozed: null });
  const shown = await panel();
  expect(shown.getByText('Nothing new for you.')).toBeTruthy();
  expect(await shown.findByText(/statuses of tasks I share/i)).toBeTruthy();
  await userEvent.click(shown.getByRole('button', { name: 'Choose notices' }));
  page.network.answer('PATCH /notices/choices', 200, choices);
  await userEvent.click(await screen.findByRole('checkbox', { name: 'Tasks assigned to me: screen' }));
  expect(page.sent()).toEqual([{ request: 'PATCH /notices/choices', body: { kind: 'assigned', channel: 'screen', isOn: false } }]);
});

test('Escape closes it and gives the focus back to the bell', async () => {
  await open({ unread: 0, groups: [], snoozed: null });
  await panel();
  await userEvent.keyboard('{Escape}');
  expect(screen.queryByRole('dialog')).toBeNull();
  expect(document.activeElement).toBe(screen.getByRole('button', { name: 'Notices' }));
});

const roomOn = (day: '2026-11-24' | null): TaskRoom => ({
  ...{ isPlaced: false, day: day === null ? null : { date: day, freeMinutes: 240 } },
  onDue: { date: '2026-11-25', loadMinutes: 360, capacityMinutes: 450 },
});

test.each([
  [line(), { ...task, room: roomOn('2026-11-24') }, 'Pick a day: 4 h free on Tue 24 Nov', { kind: 'add-to-day', day: '2026-11-24' }],
  [line(), { ...task, room: roomOn(null) }, 'No day has 3 h free until Wed 25 Nov', null],
  [line(), { ...task, room: { ...roomOn('2026-11-24'), isPlaced: true } }, '3 h left, due Wed 25 Nov', null],
  [line({ kind: 'moved' }), { ...task, room: roomOn(null) }, 'It fits: 6 of 7.5 h on Wed 25 Nov', { kind: 'mark-read' }],
  [
    line({ kind: 'moved' }),
    { ...task, room: { ...roomOn(null), onDue: { date: '2026-11-25', loadMinutes: 0, capacityMinutes: 0 } } } as const,
    'You do not work on Wed 25 Nov, when it is due',
    { kind: 'mark-read' },
  ],
  [line({ kind: 'overdue' }), { ...task, due: '2026-11-20' } as const, '3 h left, was due Fri 20 Nov', null],
  [
    line({ kind: 'unlogged' }),
    { ...task, status: 'done', doneOn: '2026-11-19', usualMinutes: 150 } as const,
    'Log time: usually 2.5 h',
    { kind: 'log', day: '2026-11-19', minutes: 150 },
  ],
])('what is needed of a task, and what can be done in place: %j', (one, about, words, act) => {
  expect(noticeNeed(group(about, one), TODAY)?.words).toBe(words);
  expect(noticeAct(group(about, one))).toEqual(act);
});

test('new work is put on a day of one’s week, and comes off it again', async () => {
  const page = await open({ unread: 1, groups: [group({ ...task, room: roomOn('2026-11-24') }, line())], snoozed: null });
  const shown = await panel();
  const before = { personId: odalys.personId, taskId: 't1', days: ['2026-11-24'], places: [] };
  page.network.answer('POST /desk/places', 200, before);
  page.network.answer('POST /notices/read', 204, null);
  page.network.answer('POST /desk/places/restore', 200, before);
  await userEvent.click(shown.getByRole('button', { name: 'Add Names for the drawers to Tue' }));
  expect(await screen.findByText('“Names for the drawers” is planned for Tue 24 Nov. Its dates do not change.')).toBeTruthy();
  await userEvent.click(screen.getAllByRole('button', { name: 'Undo' }).at(-1) as HTMLElement);
  expect(page.sent()).toMatchObject([
    { request: 'POST /desk/places', body: { taskId: 't1', day: '2026-11-24', personId: odalys.personId } },
    { request: 'POST /notices/read', body: { noticeIds: ['n1'], isRead: true } },
    { request: 'POST /desk/places/restore', body: before },
  ]);
});

test('the usual time is logged on the day it was done, and removed again', async () => {
  const about = { ...task, status: 'done', doneOn: '2026-11-19', usualMinutes: 150 } as const;
  const page = await open({ unread: 1, groups: [group(about, line({ kind: 'unlogged', event: 'reminded' }))], snoozed: null });
  const shown = await panel();
  page.network.answer('POST /tasks/t1/time', 201, { id: 't1', entry: { id: 'n9', version: 1 } });
  page.network.answer('POST /notices/read', 204, null);
  page.network.answer('POST /time/n9/remove', 204, null);
  await userEvent.click(shown.getByRole('button', { name: 'Log 2.5 h on Names for the drawers' }));
  expect(await screen.findByText('2.5 h logged on “Names for the drawers”.')).toBeTruthy();
  await userEvent.click(screen.getAllByRole('button', { name: 'Undo' }).at(-1) as HTMLElement);
  expect(page.sent().map(({ request, body }) => [request, body])).toEqual([
    ['POST /tasks/t1/time', { day: '2026-11-19', minutes: 150 }],
    ['POST /notices/read', { noticeIds: ['n1'], isRead: true }],
    ['POST /time/n9/remove', { version: 1 }],
  ]);
});
