import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { EngagementPlan } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { plan, stillEffect, teo, odalys } from '../../../test/samples.ts';
import { PlanPage } from './PlanPage.tsx';

const open = async (id: string, more: Partial<EngagementPlan['engagement']> = {}, me = odalys) =>
  openScreen(<PlanPage />, {
    path: '/engagements/:id',
    address: `/engagements/${id}?show=about`,
    me,
    answers: {
      [`GET /engagements/${id}/plan`]: { ...plan, engagement: { ...plan.engagement, ...more, id } },
      'GET /crew': { people: [{ id: 'b1', name: 'Bastien Okoro', initials: 'BO', roles: [] }], roles: [] },
      'GET /clients': [{ id: 'c1', name: 'Marrowdale', hue: 'leaf', isOwn: false, contacts: [{ id: 'k1', name: 'Wren Ash' }] }],
    },
  });
const sheet = () => within(screen.getByRole('complementary', { name: 'About this engagement' }));

test('name, lead and contact are saved as they are changed, and undone from the notice', async () => {
  const page = await open('named');
  page.network.answer('PATCH /engagements/named', 200, { version: 2, changeId: 'c1', effect: stillEffect });
  page.network.answer('POST /changes/c1/undo', 200, { changeId: 'c2', kept: [] });
  const name = sheet().getByRole('textbox', { name: 'Name of the engagement' });
  await userEvent.clear(name);
  await userEvent.type(name, 'Seed signs{Enter}');
  await screen.findByText('It is called “Seed signs” now.');
  await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() =>
    expect(page.sent()).toEqual([
      { request: 'PATCH /engagements/named', body: { version: 1, name: 'Seed signs' } },
      { request: 'POST /changes/c1/undo', body: undefined },
    ]),
  );
  await userEvent.click(sheet().getByRole('button', { name: /Talked about with/ }));
  await userEvent.click(await screen.findByRole('option', { name: 'Wren Ash' }));
  await screen.findByText('Wren Ash is who it is talked about with now.');
  // The plan was not read again in between: it goes on from what this browser itself has left.
  expect(page.sent().at(-1)?.body).toEqual({ version: 2, contactId: 'k1' });
});

test('another promise is asked first, then taken', async () => {
  const page = await open('promised');
  page.network.answer('POST /engagements/promised/edit/preview', 200, { ...stillEffect, promiseSlack: { from: 3, to: 8 } });
  page.network.answer('PATCH /engagements/promised', 200, { version: 2, changeId: 'c1', effect: stillEffect });
  const day = sheet().getByLabelText('Promised to the client');
  await userEvent.clear(day);
  await userEvent.type(day, '2027-01-15{Tab}');
  expect((await screen.findByLabelText('What this would do')).textContent).toContain('8 days to spare, was 3 days to spare');
  await userEvent.click(sheet().getByRole('button', { name: 'Promise 15 Jan 2027' }));
  await screen.findByText(/15 Jan 2027 is promised now\. No task moved\./);
  expect(page.sent().at(-1)).toEqual({ request: 'PATCH /engagements/promised', body: { version: 1, promise: '2027-01-15' } });
});

test('a proposal says how likely it is, and ends with a reason; what was refused is said there', async () => {
  const page = await open('asked', { state: 'proposal', likelihood: 60 });
  const likelihood = sheet().getByRole('textbox', { name: /How likely/ });
  await userEvent.clear(likelihood);
  await userEvent.type(likelihood, '160{Enter}');
  expect(likelihood.getAttribute('aria-invalid')).toBe('true');
  expect(page.sent()).toEqual([]);
  page.network.answer('POST /engagements/asked/drop', 409, { code: 'changed-meanwhile', message: 'Somebody changed it.' });
  const no = sheet().getByRole<HTMLButtonElement>('button', { name: 'The client said no' });
  await userEvent.click(no);
  expect(await sheet().findByText('Give a reason; it is kept.')).toBeTruthy();
  expect(page.sent()).toEqual([]);
  await userEvent.type(sheet().getByRole('textbox', { name: 'Why' }), 'No money');
  await userEvent.click(no);
  expect(await sheet().findByText('Somebody changed it.')).toBeTruthy();
  expect(page.sent().at(-1)?.body).toEqual({ version: 1, reason: 'No money' });
});

test('whoever does not lead reads the promise and has nothing to change', async () => {
  await open('read', {}, teo);
  expect(screen.queryByRole('button', { name: /^promised/ })).toBeNull();
  expect(screen.queryByRole('complementary')).toBeNull();
});

test('what was dropped goes on as it was, from the menu; it takes nothing from the library before', async () => {
  const page = await open('ended', { state: 'dropped' });
  page.network.answer('POST /engagements/ended/reopen', 200, { version: 2 });
  await userEvent.click(screen.getByRole('button', { name: 'More for this engagement' }));
  const names = (await screen.findAllByRole('menuitem')).map((item) => item.textContent);
  expect(names.some((name) => name?.startsWith('Take phases from the library'))).toBe(false);
  await userEvent.click(screen.getByRole('menuitem', { name: /^Take it up again/ }));
  await screen.findByText('“Seed vault wayfinding” goes on.');
  expect(page.sent().at(-1)).toEqual({ request: 'POST /engagements/ended/reopen', body: { version: 1 } });
});
