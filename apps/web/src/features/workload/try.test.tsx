import type { TriedEngagement } from '@crew/contract';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { idOf } from '../../../test/ids.ts';
import { teo } from '../../../test/samples.ts';
import { triedEngagement, workload } from '../../../test/workload-samples.ts';
import { care, line, rhythmTried } from '../../../test/series-samples.ts';
import { openScreen } from '../../../test/screen.tsx';
import { WorkloadPage } from './WorkloadPage.tsx';

const open = (tried: TriedEngagement = triedEngagement) =>
  openScreen(<WorkloadPage />, {
    path: '/workload',
    address: '/workload?show=try',
    answers: {
      'GET /workload…': workload,
      'GET /templates': [
        { id: idOf('x1'), kind: 'engagement', name: 'Audio trail' },
        { id: 'x2', kind: 'phase', name: 'Close-out' },
      ],
      'GET /clients': [{ id: idOf('c1'), name: 'Pellworth Tram Museum' }],
      'POST /workload/try': tried,
      'POST /engagements': { id: 'e77' },
    },
  });
const sheet = () => within(screen.getByRole('complementary', { name: 'Try a new engagement' }));
async function choose(label: RegExp, option: string | RegExp): Promise<void> {
  await userEvent.click(sheet().getByRole('button', { name: label }));
  await userEvent.click(await screen.findByRole('option', { name: option }));
}
const asked = (page: Awaited<ReturnType<typeof open>>) => page.sent().filter(({ request }) => request === 'POST /workload/try');

test('nothing is asked before a template is chosen, and only whole engagements are offered', async () => {
  const page = await open();
  expect(sheet().getByText(/^Choose a template/)).toBeTruthy();
  await userEvent.click(sheet().getByRole('button', { name: /Template/ }));
  expect((await screen.findAllByRole('option')).map((option) => option.textContent)).toEqual(['Audio trail']);
  expect(asked(page)).toEqual([]);
});

test('it says whom it would overload, and the earliest start that overloads nobody is one press away', async () => {
  const page = await open();
  await choose(/Template/, 'Audio trail');
  expect(await sheet().findByText('Not without overload: Otto 5 h over from Mon 30 Nov.')).toBeTruthy();
  expect(sheet().getByText('100 h, 10 h of it unassigned')).toBeTruthy();
  expect(sheet().getByText('Otto, over in the next 120 days')).toBeTruthy();
  await userEvent.click(sheet().getByRole('button', { name: 'Mon 14 Dec, finished Fri 5 Mar 2027' }));
  await waitFor(() =>
    expect(asked(page).at(-1)?.body).toMatchObject({ templateId: idOf('x1'), start: '2026-12-14', from: '2026-11-23', to: '2026-11-29' }),
  );
});

test('with room it says yes; what the work alone asks too much is told', async () => {
  const alone = [{ person: { id: 'o2', name: 'Otto Brandt', initials: 'OB' }, minutes: 90 }];
  await open({
    ...triedEngagement,
    overloads: [],
    earliest: { ...triedEngagement.earliest, start: '2026-11-23', finish: '2027-02-12', alone },
  });
  await choose(/Template/, 'Audio trail');
  expect(await sheet().findByText('Yes: nobody is overloaded.')).toBeTruthy();
  expect(sheet().getByText('this start')).toBeTruthy();
  expect(sheet().getByText(/the work itself is too much for Otto \(1.5 h\)/)).toBeTruthy();
});

test('somebody else can be chosen for a role', async () => {
  const page = await open();
  await choose(/Template/, 'Audio trail');
  await sheet().findByText('Who would do it');
  await choose(/Installer, 90 h/, 'Unassigned');
  await waitFor(() =>
    expect(asked(page).at(-1)?.body).toMatchObject({
      roles: [{ roleId: idOf('r1'), personId: null }],
    }),
  );
});

test('the earliest start comes with whoever is free for a role then', async () => {
  const earliest = {
    ...triedEngagement.earliest,
    roles: [{ roleId: idOf('r2'), person: { id: idOf('o9'), name: 'Noor Haddad', initials: 'NH' } }],
  };
  const page = await open({ ...triedEngagement, earliest });
  await choose(/Template/, 'Audio trail');
  expect(await sheet().findByText('with Noor as Writer')).toBeTruthy();
  await userEvent.click(sheet().getByRole('button', { name: 'Mon 14 Dec, finished Fri 5 Mar 2027' }));
  await waitFor(() =>
    expect(asked(page).at(-1)?.body).toMatchObject({ start: '2026-12-14', roles: [{ roleId: idOf('r2'), personId: idOf('o9') }] }),
  );
});

test('without a start that suits everybody the least bad is told, with whom it is too much for', async () => {
  const over = [{ person: { id: 'o2', name: 'Otto Brandt', initials: 'OB' }, minutes: 180 }];
  await open({ ...triedEngagement, earliest: { ...triedEngagement.earliest, fits: false, over } });
  await choose(/Template/, 'Audio trail');
  expect(await sheet().findByText('too much then for Otto (3 h)')).toBeTruthy();
});

test('it is kept as a proposal with its likelihood', async () => {
  const page = await open();
  await choose(/Template/, 'Audio trail');
  await sheet().findByRole('heading', { name: 'Save as proposal' });
  const keep = sheet().getByRole('button', { name: 'Save as proposal' }) as HTMLButtonElement;
  await userEvent.click(keep);
  expect(await sheet().findByText('Choose the client.')).toBeTruthy();
  await choose(/^Choose the client/, 'Pellworth Tram Museum');
  await userEvent.type(sheet().getByLabelText('Name'), 'Depot night trail');
  const likely = sheet().getByLabelText(/^Likelihood in percent/);
  await userEvent.clear(likely);
  await userEvent.type(likely, '40');
  await userEvent.click(keep);
  await waitFor(() => expect(page.address()).toBe('/engagements/e77'));
  expect(page.sent().find(({ request }) => request === 'POST /engagements')?.body).toEqual({
    ...{ templateId: idOf('x1'), start: '2026-11-23', clientId: idOf('c1'), name: 'Depot night trail', likelihood: 40 },
    roles: [
      { roleId: idOf('r1'), personId: idOf('o2') },
      { roleId: idOf('r2'), personId: null },
    ],
  });
});

test('what cannot be scheduled is told', async () => {
  const page = await open();
  page.network.answer('POST /workload/try', 400, { code: 'invalid-day', message: 'That day is over. Choose today or a later one.' });
  await choose(/Template/, 'Audio trail');
  expect((await sheet().findByRole('alert')).textContent).toBe('That day is over. Choose today or a later one.');
});

test('members are not offered it', async () => {
  await openScreen(<WorkloadPage />, { path: '/workload', me: teo, answers: { 'GET /workload…': workload } });
  expect(screen.queryByRole('button', { name: /Try new work/ })).toBeNull();
});

test('another pace of what repeats is tried over the same load', async () => {
  const page = await open();
  page.network.answer('GET /series', 200, [line, care]);
  page.network.answer('GET /calendar', 200, { week: [450, 450, 450, 450, 450, 0, 0], closed: [] });
  page.network.answer('POST /series/s1/rhythms/preview', 200, rhythmTried);
  await userEvent.click(sheet().getByRole('radio', { name: 'Change pace' }));
  const pace = within(await screen.findByRole('complementary', { name: 'Try another pace' }));
  await userEvent.clear(await pace.findByRole('textbox', { name: 'How many' }));
  await userEvent.type(pace.getByRole('textbox', { name: 'How many' }), '3');
  expect(await pace.findByRole('button', { name: 'Apply: 3 a week from Mon 30 Nov' })).toBeTruthy();
  expect(page.sent().at(-1)?.body).toMatchObject({ rule: 'FREQ=WEEKLY;BYDAY=MO,WE,FR', shownFrom: '2026-11-23', shownTo: '2026-11-29' });
  expect(page.address()).toBe('/workload?show=pace');
});
