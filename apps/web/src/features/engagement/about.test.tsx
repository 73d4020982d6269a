import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { EngagementPlan } from '@crew/contract';
import { idOf } from '../../../test/ids.ts';
import { openScreen } from '../../../test/screen.tsx';
import { plan, stillEffect, teo, odalys } from '../../../test/samples.ts';
import { PlanPage } from './PlanPage.tsx';

const open = async (id: string, more: Partial<EngagementPlan['engagement']> = {}, { me = odalys, show = 'about', answers = {} } = {}) =>
  openScreen(<PlanPage />, {
    path: '/engagements/:id',
    address: `/engagements/${id}?show=${show}`,
    me,
    answers: {
      [`GET /engagements/${id}/plan`]: { ...plan, engagement: { ...plan.engagement, ...more, id } },
      'GET /crew': { people: [{ id: 'b1', name: 'Bastien Okoro', initials: 'BO', roles: [], roleIds: [] }], roles: [] },
      [`GET /engagements/${id}/roles`]: [],
      'GET /clients': [{ id: 'c1', name: 'Marrowdale', hue: 'leaf', isOwn: false, contacts: [{ id: 'k1', name: 'Wren Ash' }] }],
      ...answers,
    },
  });
const sheet = (name = 'Engagement details') => within(screen.getByRole('complementary', { name }));

test('who else has the plan open is named beside its name', async () => {
  await open(
    'shared',
    {},
    { answers: { 'GET /presence/engagements/shared': { people: [{ id: 'b1', name: 'Bastien Okoro', initials: 'BO' }] } } },
  );
  expect((await screen.findByTitle('Bastien Okoro has this open too')).textContent).toBe('Also hereBO');
});

test('a role goes to somebody else once it is seen what that does, and comes back by the notice', async () => {
  const roles = [
    { role: { id: 'r1', name: 'Designer' }, person: { id: 'b1', name: 'Bastien Okoro', initials: 'BO' }, tasks: 2, minutes: 600 },
  ];
  const crew = [
    { id: 'b1', name: 'Bastien Okoro', initials: 'BO', roles: ['Designer'], roleIds: ['r1'] },
    { id: 'n1', name: 'Noor Haddad', initials: 'NH', roles: ['Designer'], roleIds: ['r1'] },
    { id: 'w1', name: 'Mirela Stoyan', initials: 'MS', roles: ['Writer'], roleIds: ['r2'] },
  ];
  const page = await open('roles', {}, { answers: { 'GET /engagements/roles/roles': roles, 'GET /crew': { people: crew, roles: [] } } });
  page.network.answer('POST /engagements/roles/roles/preview', 200, stillEffect);
  page.network.answer('POST /engagements/roles/roles', 200, { changeId: 'c1', effect: stillEffect });
  page.network.answer('POST /changes/c1/undo', 200, { changeId: 'c2', kept: [] });
  expect(await sheet().findByText('2 open tasks · 10 h')).toBeTruthy();
  await userEvent.click(sheet().getByRole('button', { name: /Designer/ }));
  // Only those who have the role can take it over.
  expect((await screen.findAllByRole('option')).map(({ textContent }) => textContent)).toEqual([
    'Unassigned',
    'Bastien Okoro',
    'Noor Haddad',
  ]);
  await userEvent.click(screen.getByRole('option', { name: 'Noor Haddad' }));
  await waitFor(() =>
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Assign Designer to Noor Haddad' }).disabled).toBe(false),
  );
  await userEvent.click(screen.getByRole('button', { name: 'Assign Designer to Noor Haddad' }));
  await screen.findByText('Noor Haddad is now Designer here. No tasks moved.');
  expect(page.sent().at(-1)).toEqual({ request: 'POST /engagements/roles/roles', body: { roleId: 'r1', personId: 'n1', seen: 'b1' } });
  await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(page.sent().at(-1)?.request).toBe('POST /changes/c1/undo'));
});

test('name, lead and contact are saved as they are changed, and undone from the notice', async () => {
  const page = await open('named');
  page.network.answer('PATCH /engagements/named', 200, { version: 2, changeId: 'c1', effect: stillEffect });
  page.network.answer('POST /changes/c1/undo', 200, { changeId: 'c2', kept: [] });
  const name = sheet().getByRole('textbox', { name: 'Name of the engagement' });
  await userEvent.clear(name);
  await userEvent.type(name, 'Seed signs{Enter}');
  await screen.findByText('Engagement renamed to “Seed signs”.');
  await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() =>
    expect(page.sent()).toEqual([
      { request: 'PATCH /engagements/named', body: { version: 1, name: 'Seed signs' } },
      { request: 'POST /changes/c1/undo', body: undefined },
    ]),
  );
  await userEvent.click(sheet().getByRole('button', { name: /Contact/ }));
  await userEvent.click(await screen.findByRole('option', { name: 'Wren Ash' }));
  await screen.findByText('Wren Ash is now the contact.');
  // The plan was not read again in between: it goes on from what this browser itself has left.
  expect(page.sent().at(-1)?.body).toEqual({ version: 2, contactId: 'k1' });
});

test('another promise is asked first, then taken', async () => {
  const page = await open('promised');
  page.network.answer('POST /engagements/promised/edit/preview', 200, { ...stillEffect, promiseSlack: { from: 3, to: 8 } });
  page.network.answer('PATCH /engagements/promised', 200, { version: 2, changeId: 'c1', effect: stillEffect });
  const day = sheet().getByLabelText('Promised date');
  await userEvent.clear(day);
  await userEvent.type(day, '2027-01-15{Tab}');
  expect((await screen.findByLabelText('What this would do')).textContent).toContain('8 days to spare, was 3 days to spare');
  await userEvent.click(sheet().getByRole('button', { name: 'Set promised date to 15 Jan 2027' }));
  await screen.findByText(/Promised date is now 15 Jan 2027\. No tasks moved\./);
  expect(page.sent().at(-1)).toEqual({ request: 'PATCH /engagements/promised', body: { version: 1, promise: '2027-01-15' } });
});

test('a proposal says how likely it is', async () => {
  const page = await open('asked', { state: 'proposal', likelihood: 60 });
  const likelihood = sheet().getByRole('textbox', { name: /Likelihood/ });
  await userEvent.clear(likelihood);
  await userEvent.type(likelihood, '160{Enter}');
  expect(likelihood.getAttribute('aria-invalid')).toBe('true');
  expect(page.sent()).toEqual([]);
});

test('it is closed with a reason; what was refused is said there', async () => {
  const page = await open('no', { state: 'proposal' });
  await userEvent.click(screen.getByRole('button', { name: 'Mark as declined…' }));
  expect(page.address()).toBe('/engagements/no?show=close');
  page.network.answer('POST /engagements/no/drop', 409, { code: 'changed-meanwhile', message: 'Somebody changed it.' });
  const closing = sheet('Close without finishing');
  const close = closing.getByRole('button', { name: 'Close engagement' });
  await userEvent.click(close);
  expect(await closing.findByText('Give a reason; it is kept.')).toBeTruthy();
  expect(page.sent()).toEqual([]);
  await userEvent.type(closing.getByRole('textbox', { name: 'Why' }), 'No money');
  await userEvent.click(close);
  expect(await closing.findByText('Somebody changed it.')).toBeTruthy();
  expect(page.sent().at(-1)?.body).toEqual({ version: 1, reason: 'No money' });
});

const over = { person: { id: idOf('teo'), name: 'Teo Marsh' }, minutes: 120, firstDay: '2026-12-01' };

test('completing asks what to do with open tasks, and why gates that are not clear are passed', async () => {
  const other = { ...plan.engagement, id: idOf('other'), name: 'Next job' };
  const page = await open('done', {}, { show: 'complete', answers: { 'GET /engagements': [other] } });
  const completing = sheet('Complete engagement');
  const button = completing.getByRole('button', { name: 'Complete engagement' });
  const open_ = plan.tasks.filter(({ isGroup, status }) => !isGroup && status !== 'done' && status !== 'dropped').length;
  await userEvent.click(completing.getByRole('button', { name: new RegExp(`${open_} tasks are still open`) }));
  await userEvent.click(await screen.findByRole('option', { name: /^Move to/ }));
  page.network.answer('POST /engagements/done/complete', 400, {
    ...{ code: 'invalid-input', field: 'moveTo', message: 'Choose the engagement the open tasks move to.' },
  });
  await userEvent.click(button);
  expect(await completing.findByText('Choose the engagement the open tasks move to.')).toBeTruthy();
  page.network.answer('POST /engagements/done/complete/preview', 200, { ...stillEffect, overloads: [over] });
  await userEvent.click(completing.getByRole('button', { name: /Engagement they move to/ }));
  await userEvent.click(await screen.findByRole('option', { name: /^Next job/ }));
  expect((await completing.findByRole('list', { name: 'What this would do' })).textContent).toContain('Teo would be 2 h over');
  await userEvent.type(completing.getByRole('textbox', { name: 'Setting: 2 checks open. Why complete anyway?' }), 'Agreed');
  page.network.answer('POST /engagements/done/complete', 200, { changeId: 'c1', effect: stillEffect });
  await userEvent.click(button);
  await screen.findByText('“Seed vault wayfinding” is completed.');
  expect(page.sent().at(-1)?.body).toEqual({ version: 1, openTasks: 'move', moveTo: idOf('other'), reason: 'Agreed' });
});

test('a closed engagement is at rest: it says why, and offers nothing but to be reopened', async () => {
  const page = await open('rest', {
    state: 'dropped',
    standing: [{ kind: 'dropped', on: '2026-11-20', reason: 'no money', ending: 'Not a fit' }],
  });
  const head = screen.getByRole('banner');
  expect(head.textContent).toContain('Closed 20 Nov · Not a fit: no money');
  expect(head.textContent).not.toContain('plan finishes');
  for (const name of [/^Hand off/, 'Add task', /^Change the status of/]) expect(screen.queryByRole('button', { name })).toBeNull();
  page.network.answer('POST /engagements/rest/reopen', 200, { version: 2 });
  await userEvent.click(within(head).getByRole('button', { name: 'Reopen' }));
  await screen.findByText('“Seed vault wayfinding” is open again.');
});

test('whoever does not lead reads the promise and has nothing to change', async () => {
  await open('read', {}, { me: teo });
  expect(screen.queryByRole('button', { name: /^promised/ })).toBeNull();
  expect(screen.queryByRole('complementary')).toBeNull();
});

test('what was dropped goes on as it was, from the menu; it takes nothing from the library before', async () => {
  const page = await open('ended', { state: 'dropped' });
  page.network.answer('POST /engagements/ended/reopen', 200, { version: 2 });
  await userEvent.click(screen.getByRole('button', { name: 'More actions' }));
  const names = (await screen.findAllByRole('menuitem')).map((item) => item.textContent);
  expect(names.some((name) => name?.startsWith('Add phases from library'))).toBe(false);
  await userEvent.click(screen.getByRole('menuitem', { name: /^Reopen/ }));
  await screen.findByText('“Seed vault wayfinding” is open again.');
  expect(page.sent().at(-1)).toEqual({ request: 'POST /engagements/ended/reopen', body: { version: 1 } });
});
