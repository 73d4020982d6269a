import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { SetupState, StarterTrade } from '@crew/contract';
import { odalys } from '../../../test/samples.ts';
import { openPage, openScreen } from '../../../test/screen.tsx';
import { SetupList } from './SetupList.tsx';
import { SetUpPage } from './SetUpPage.tsx';
import { SetupStepsPage } from './SetupStepsPage.tsx';

const type = async (label: string | RegExp, text: string): Promise<void> => userEvent.type(screen.getByLabelText(label), text);
const press = async (role: 'button' | 'checkbox', name: string | RegExp): Promise<void> =>
  userEvent.click(screen.getByRole(role, { name }));
const owner = { ...odalys, access: 'owner' } as const;

const stepsWith = (...done: readonly string[]): SetupState => ({
  steps: (['agency', 'holidays', 'templates', 'people', 'engagement', 'mail'] as const).map((step) => ({
    step,
    isDone: done.includes(step),
  })),
});

describe('an empty installation', () => {
  const openSetUp = (address: string, isSetUp = false) =>
    openPage(<SetUpPage />, { path: '/set-up', address, answers: { 'GET /agency': { isSetUp, name: null, logo: null } } });
  const fill = async (password: string): Promise<void> => {
    await type('Name of the agency', 'Tallow Yard');
    await type('Your name', 'Perrin Vale');
    await type('Your mail address', 'perrin@tallow.example');
    await type('A password of at least 12 characters', password);
    await press('button', 'Create agency');
  };

  test('is set up with the key of the link, the visitor’s country, time zone and hours', async () => {
    const page = await openSetUp('/set-up?key=ABCD-EFGH');
    expect(screen.queryByLabelText(/Set-up key/)).toBeNull();
    page.network.answer('POST /agency', 204);
    await userEvent.clear(screen.getByLabelText('Hours a day, Mon–Fri'));
    await type('Hours a day, Mon–Fri', '8');
    await fill('three candles lit');
    await waitFor(() => expect(page.sent()).toHaveLength(1));
    const { timeZone } = new Intl.DateTimeFormat().resolvedOptions();
    expect(page.sent()[0]?.body).toEqual({
      ...{ setupKey: 'ABCD-EFGH', agencyName: 'Tallow Yard', name: 'Perrin Vale', email: 'perrin@tallow.example' },
      ...{ password: 'three candles lit', zone: timeZone, country: 'US', currency: 'USD', week: [480, 480, 480, 480, 480, 0, 0] },
    });
  });

  test('asks for the key where the link has none, and a wrong one is said at its field', async () => {
    const page = await openSetUp('/set-up');
    await type(/Set-up key/, 'AAAA');
    page.network.answer('POST /agency', 401, { code: 'wrong-secret', message: 'This is not the set-up key.', field: 'setupKey' });
    await fill('three candles lit');
    expect(await screen.findByText('This is not the set-up key.')).toBeTruthy();
  });

  test('a wrong key of a link brings its field', async () => {
    const page = await openSetUp('/set-up?key=AAAA');
    page.network.answer('POST /agency', 401, { code: 'wrong-secret', message: 'This is not the set-up key.', field: 'setupKey' });
    await fill('three candles lit');
    expect(await screen.findByLabelText(/Set-up key/)).toBeTruthy();
  });

  test('asks for a password nobody guesses, and for hours that can be read, before it asks the server', async () => {
    const page = await openSetUp('/set-up?key=ABCD');
    await type('Hours a day, Mon–Fri', 'x');
    await fill('candle');
    expect(await screen.findByText('Choose a password of at least 12 characters.')).toBeTruthy();
    expect(screen.getByText('Write hours as 1.5, 1:30 or 90m.')).toBeTruthy();
    expect(page.sent()).toEqual([]);
  });

  test('that has its agency sends away from the form', async () => {
    const page = await openSetUp('/set-up', true);
    await waitFor(() => expect(page.address()).toBe('/'));
  });
});

describe('templates', () => {
  const template = (key: 'video' | 'podcast-season' | 'conference', name: string, templateId: string | null = null) => ({
    ...{ key, name, templateId, description: `${name}, in short.`, phases: ['Script', 'Shoot'], taskCount: 12 },
    ...{ effortMinutes: 3000, roles: ['Producer'] },
  });
  const trades: readonly StarterTrade[] = [
    {
      trade: 'content',
      name: 'Content production',
      about: 'Film',
      templates: [template('video', 'Video'), template('podcast-season', 'Podcast')],
    },
    { trade: 'events', name: 'Events', about: 'Days', templates: [template('conference', 'Conference', 't1')] },
  ];
  const openStep = () =>
    openScreen(<SetupStepsPage />, {
      ...{ path: '/settings/set-up/:step?', address: '/settings/set-up/templates', me: owner },
      answers: { 'GET /setup': stepsWith('agency'), 'GET /starters': trades },
    });

  test('of the chosen trades are ticked; those unticked, and those there already, are not added', async () => {
    const page = await openStep();
    await press('checkbox', /^Content production/);
    await press('checkbox', /^Events/);
    await press('checkbox', 'Podcast');
    expect(screen.getByText('in your library already')).toBeTruthy();
    page.network.answer('POST /starters', 201, { templates: [{ key: 'video', id: 't2', name: 'Video' }], roles: ['Producer'] });
    await press('button', 'Add 1 template');
    await waitFor(() => expect(page.address()).toBe('/settings/set-up/people'));
    expect(page.sent()[0]?.body).toEqual({ templates: ['video'] });
    expect(await screen.findByText('1 template added, with the role Producer.')).toBeTruthy();
  });

  test('can be left for later', async () => {
    const page = await openStep();
    expect(screen.getByRole('button', { name: 'Add templates' }).hasAttribute('disabled')).toBe(true);
    await press('button', 'Skip');
    await waitFor(() => expect(page.address()).toBe('/settings/set-up/people'));
    expect(page.sent()).toEqual([]);
  });
});

describe('people', () => {
  const openStep = () =>
    openScreen(<SetupStepsPage />, {
      ...{ path: '/settings/set-up/:step?', address: '/settings/set-up/people', me: owner },
      answers: {
        'GET /setup': stepsWith('agency'),
        'GET /crew': { people: [], roles: [{ id: 'r1', name: 'Writer' }] },
        'GET /calendar': { week: [450, 450, 450, 450, 450, 0, 0], closed: [] },
      },
    });
  const paste = async (text: string): Promise<void> => {
    await userEvent.click(screen.getByRole('textbox', { name: 'People' }));
    await userEvent.paste(text);
  };

  test('are shown as they are understood, and nobody is invited while a line is wrong', async () => {
    await openStep();
    await paste('Ada Brook, ada@brook.example, writer, 3 days\nBen Vale');
    const [, ada, ben] = within(screen.getByRole('table', { name: 'Preview' })).getAllByRole('row');
    expect(ada?.textContent).toContain('Writer');
    expect(ada?.textContent).toContain('22.5 h, Mon–Wed');
    expect(ben?.textContent).toContain('Line 2: The mail address is missing.');
    expect(screen.getByRole('button', { name: 'Invite 2 people' }).hasAttribute('disabled')).toBe(true);
  });

  test('a refusal of the server stands at the line it is about, and what was typed stays', async () => {
    const page = await openStep();
    await paste('Ada, ada@brook.example\nBen, ben@vale.example');
    page.network.answer('POST /invitations', 409, {
      code: 'already-there',
      message: 'Somebody signs in with it.',
      field: 'people.1.email',
    });
    await press('button', 'Invite 2 people');
    expect(await screen.findByText('Line 2: Somebody signs in with it.')).toBeTruthy();
    expect((screen.getByRole('textbox', { name: 'People' }) as HTMLTextAreaElement).value).toContain('ben@vale.example');
  });

  test('without a mail server their links are there to copy', async () => {
    const page = await openStep();
    await paste('Ada, ada@brook.example');
    const link = { personId: 'p1', name: 'Ada', link: 'http://crew.test/welcome/1', expiresAt: '2026-12-07T10:00:00Z', mailedTo: null };
    page.network.answer('POST /invitations', 201, { links: [link] });
    await press('button', 'Invite 1 person');
    expect(((await screen.findByLabelText('Link for Ada')) as HTMLInputElement).value).toBe(link.link);
    await press('button', 'Continue');
    await waitFor(() => expect(page.address()).toBe('/settings/set-up/engagement'));
  });
});

describe('the list of first steps', () => {
  const openList = (me: typeof odalys, setup: SetupState) =>
    openScreen(<SetupList />, { path: '/desk', me, answers: { 'GET /setup': setup } });

  test('says what is done, leads to what is next, and is closed for good', async () => {
    const page = await openList(owner, stepsWith('agency', 'templates'));
    expect(await screen.findByText('2 of 6 done')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Start: Close public holidays' }).getAttribute('href')).toBe('/settings/set-up/holidays');
    expect(screen.getByRole('link', { name: 'Change: Choose templates' })).toBeTruthy();
    page.network.answer('POST /account/hints', 204);
    await press('button', 'Close list');
    await waitFor(() => expect(screen.queryByText('First steps')).toBeNull());
    expect(page.sent()[0]?.body).toEqual({ hint: 'setup' });
  });

  test('is gone once everything is done, and for who is no owner', async () => {
    const all = stepsWith('agency', 'holidays', 'templates', 'people', 'engagement', 'mail');
    const { close } = await openList(owner, all);
    expect(screen.queryByText('First steps')).toBeNull();
    close();
    const page = await openList(odalys, stepsWith('agency'));
    expect(screen.queryByText('First steps')).toBeNull();
    expect(page.network.asked.some((request) => String(request).includes('/setup'))).toBe(false);
  });
});
