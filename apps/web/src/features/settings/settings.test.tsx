import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { TASK_STATUS, type AgencySettings, type RoleLine, type SecurityLog, type SessionLine } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { odalys } from '../../../test/samples.ts';
import { AgencySettingsPage } from './AgencySettingsPage.tsx';
import { ListsPage } from './ListsPage.tsx';
import { OwnSettingsPage } from './OwnSettingsPage.tsx';
import { SecurityPage } from './SecurityPage.tsx';

const owner = { ...odalys, access: 'owner' } as const;
const session: SessionLine = {
  ...{ id: 's1', device: 'Firefox on Linux', ip: '10.0.0.7', isThis: true },
  ...{ beganAt: '2026-11-20T09:00:00Z', usedAt: '2026-11-23T08:00:00Z' },
};
const factor = { isOn: false, recoveryCodes: 0, isRequired: false };
const openOwn = (answers: object = {}) =>
  openScreen(<OwnSettingsPage />, {
    path: '/settings',
    answers: { 'GET /account/sessions': [session], 'GET /account/second-factor': factor, ...answers },
  });
const part = (name: string) => within(screen.getByRole('region', { name }));
const press = (name: string | RegExp) => userEvent.click(screen.getByRole('button', { name }));

test('a password is changed by who knows the present one; what is refused stands at its field', async () => {
  const page = await openOwn();
  page.network.answer('POST /account/password', 400, {
    ...{ code: 'invalid-input', message: 'This is not your current password. Try again.', field: 'current' },
  });
  await userEvent.type(screen.getByLabelText('Current password'), 'lamp room');
  await userEvent.type(screen.getByLabelText('New password'), 'three candles lit');
  await press('Change password');
  expect(await screen.findByText('This is not your current password. Try again.')).toBeTruthy();
  page.network.answer('POST /account/password', 204);
  await press('Change password');
  await screen.findByText('Password changed. You are signed out everywhere else.');
  expect(screen.getByLabelText<HTMLInputElement>('New password').value).toBe('');
});

test('another device is signed out by one press, this one is marked', async () => {
  const there = { ...session, id: 's2', device: 'Chrome on Android', isThis: false };
  const page = await openOwn({ 'GET /account/sessions': [session, there] });
  expect(part('Where you are signed in').getAllByRole('listitem')[0]?.textContent).toContain(
    'this one · since Fri 20 Nov, 09:00 · 10.0.0.7',
  );
  page.network.answer('DELETE /account/sessions/s2', 204);
  page.network.answer('GET /account/sessions', 200, [session]);
  await press('Sign out on Chrome on Android');
  await screen.findByText('Signed out on Chrome on Android.');
  await waitFor(() => expect(part('Where you are signed in').getAllByRole('listitem')).toHaveLength(1));
});

test('a second factor is set up with a code of the app, and the recovery codes are shown once', async () => {
  const page = await openOwn();
  page.network.answer('POST /account/second-factor', 201, {
    secret: 'JBSWY3DPEHPK3PXP',
    uri: 'otpauth://totp/Q:o?secret=JBSWY3DPEHPK3PXP',
  });
  await press('Set up…');
  expect(await screen.findByRole('img', { name: 'QR code for your authenticator app' })).toBeTruthy();
  expect(screen.getByLabelText<HTMLInputElement>('Key for your authenticator app').value).toBe('JBSWY3DPEHPK3PXP');
  await userEvent.type(screen.getByLabelText('Six digits from the app'), '12');
  await press('Turn on');
  expect(await screen.findByText('Write the six digits your app shows.')).toBeTruthy();
  page.network.answer('POST /account/second-factor/confirm', 201, { codes: ['abcd-efgh-jkmn', 'pqrs-tuvw-xyz2'] });
  page.network.answer('GET /account/second-factor', 200, { isOn: true, recoveryCodes: 10, isRequired: false });
  await userEvent.type(screen.getByLabelText('Six digits from the app'), '3456');
  await press('Turn on');
  expect((await screen.findByRole('list', { name: 'Recovery codes' })).textContent).toContain('abcd-efgh-jkmn');
  await press('I have kept them');
  expect(await screen.findByText('On. 10 of 10 recovery codes left.')).toBeTruthy();
  expect(screen.queryByText('abcd-efgh-jkmn')).toBeNull();
});

test('where the agency asks for one it says so', async () => {
  await openOwn({ 'GET /account/second-factor': { ...factor, isRequired: true } });
  expect(part('Second factor').getByText(/Your agency asks owners and leads for a second factor/)).toBeTruthy();
});

const settings: AgencySettings = {
  ...{ name: 'Quillmarsh', zone: 'Europe/London', country: null, region: null, currency: 'GBP', colour: '#0b5d57', logo: null },
  ...{ historyMonths: 24, remindHours: 8, remindLeadHours: 16, remindTaskHours: 8, remindTaskLeadHours: 24 },
  ...{ remindClientHours: 0, remindClientLeadHours: 16, remindLoggingHours: 8, secondFactorFor: 'nobody' },
};

const week = [450, 450, 450, 450, 450, 0, 0];
const openAgency = (answers: object = {}) =>
  openScreen(<AgencySettingsPage />, {
    ...{ path: '/settings/agency', me: owner },
    answers: { 'GET /settings': settings, 'GET /calendar': { week, closedDays: [], timeOff: [] }, ...answers },
  });

test('an owner names the agency and chooses its colour, in one step that can be undone', async () => {
  const page = await openAgency();
  page.network.answer('PATCH /settings', 200, { ...settings, name: 'Quillmarsh Rooms', colour: '#8a3357' });
  await userEvent.clear(screen.getByLabelText('Name of the agency'));
  await userEvent.type(screen.getByLabelText('Name of the agency'), 'Quillmarsh Rooms');
  await userEvent.click(screen.getByRole('radio', { name: 'Plum' }));
  await press('Save');
  const said = await screen.findByText('Agency settings saved.');
  expect(page.sent().at(-1)?.body).toEqual({ name: 'Quillmarsh Rooms', zone: 'Europe/London', currency: 'GBP', colour: '#8a3357' });
  await userEvent.click(within(said.parentElement as HTMLElement).getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(page.sent().at(-1)?.body).toMatchObject({ name: 'Quillmarsh', colour: '#0b5d57' }));
});

test('the logo is a picture from the disk; one that is too large is not sent, and replacing it can be undone', async () => {
  const page = await openAgency();
  const logo = part('About the agency');
  const choose = (name: string, bytes: number) => {
    const input = document.querySelector<HTMLInputElement>('input[type="file"]') as HTMLInputElement;
    return userEvent.upload(input, new File([new Uint8Array(bytes)], name, { type: 'image/png' }));
  };
  await choose('poster.png', 262_145);
  expect(await logo.findByText(/“poster.png” is larger than 256 KB/)).toBeTruthy();
  expect(page.sent()).toEqual([]);
  page.network.answer('PUT /settings/logo', 200, { ...settings, logo: '/api/agency/logo?v=1' });
  page.network.answer('GET /settings', 200, { ...settings, logo: '/api/agency/logo?v=1' });
  await choose('mark.png', 3);
  const said = await screen.findByText('Logo replaced.');
  expect(page.sent().at(-1)?.body).toEqual({ image: 'AAAA' });
  expect((await logo.findByRole<HTMLImageElement>('img', { name: 'Logo of the agency' })).getAttribute('src')).toBe('/api/agency/logo?v=1');
  page.network.answer('GET /settings', 200, settings);
  await userEvent.click(within(said.parentElement as HTMLElement).getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(page.sent().at(-1)?.body).toEqual({ image: null }));
  await logo.findByText('No logo yet');
  const sent = page.sent().length;
  await choose('mark.png', 3);
  await waitFor(() => expect(page.sent().length).toBe(sent + 1));
  expect(page.sent().at(-1)?.body).toEqual({ image: 'AAAA' });
});

const roleLine = (name: string, uses: Partial<RoleLine> = {}): RoleLine => ({
  ...{ id: name.toLowerCase(), name, people: 0, openTasks: 0, templates: 0, isUsed: false },
  ...uses,
});
const openLists = (answers: object = {}) =>
  openScreen(<ListsPage />, {
    ...{ path: '/settings/lists', me: owner },
    answers: {
      'GET /roles': [roleLine('Gilder'), roleLine('Writer', { people: 2, openTasks: 1, templates: 3, isUsed: true })],
      'GET /labels': [
        { name: 'print', openTasks: 1, tasks: 3, templates: 2 },
        { name: 'Printing', openTasks: 1, tasks: 1, templates: 0 },
      ],
      ...answers,
    },
  });

test('roles say where they are used; only one that is used nowhere can be deleted', async () => {
  const page = await openLists();
  const roles = part('Roles');
  expect(roles.getAllByRole('listitem').map((item) => item.querySelector('small')?.textContent)).toEqual([
    'not used yet',
    '2 people · 1 open task · 3 templates',
  ]);
  expect(roles.queryByRole('button', { name: 'Delete Writer' })).toBeNull();
  page.network.answer('DELETE /roles/gilder', 200, { changeId: 'c1' });
  await press('Delete Gilder');
  await screen.findByText('Deleted the role “Gilder”.');
});

test('a role is renamed where it is read, and a new name that is taken is refused at its field', async () => {
  const page = await openLists();
  page.network.answer('PATCH /roles/writer', 200, { changeId: 'c2' });
  const name = screen.getByRole('textbox', { name: 'Name of the role Writer' });
  await userEvent.clear(name);
  await userEvent.type(name, 'Author{Enter}');
  await screen.findByText('“Writer” is now called “Author”.');
  page.network.answer('POST /roles', 409, {
    code: 'already-there',
    message: 'There is a role “Gilder” already. Choose another name.',
    field: 'name',
  });
  await press('New role…');
  await userEvent.type(screen.getByLabelText('Name of the role'), 'gilder');
  await press('Add role');
  expect(await screen.findByText('There is a role “Gilder” already. Choose another name.')).toBeTruthy();
  expect(screen.getByLabelText<HTMLInputElement>('Name of the role').value).toBe('gilder');
});

test('a label that gets the name of another is merged into it, and says so', async () => {
  const page = await openLists();
  expect(part('Labels').getAllByRole('listitem')[0]?.textContent).toContain('3 tasks, 1 open · 2 templates');
  page.network.answer('PATCH /labels', 200, { changeId: 'c3' });
  const name = screen.getByRole('textbox', { name: 'Name of the label print' });
  await userEvent.clear(name);
  await userEvent.type(name, 'Printing{Enter}');
  await screen.findByText('Merged “print” into “Printing” on 3 tasks.');
  expect(page.sent().at(-1)?.body).toEqual({ label: 'print', to: 'Printing' });
  await press('Remove print from all tasks');
  await screen.findByText('Removed “print” from 3 tasks.');
  expect(page.sent().at(-1)?.body).toEqual({ label: 'print', to: null });
});

test('every status is explained', async () => {
  await openLists();
  expect(part('Statuses').getAllByRole('listitem')).toHaveLength(TASK_STATUS.length);
});

test('the security log reads as sentences, and earlier lines are shown on demand', async () => {
  const line = {
    id: '9',
    whom: 'Teo Marsh',
    by: null,
    at: '2026-11-23T08:00:00Z',
    ip: '10.0.0.7',
    device: 'Firefox on Linux',
    note: '',
  } as const;
  const log: SecurityLog = {
    lines: [
      { ...line, kind: 'signed-in' },
      { ...line, id: '8', kind: 'refused', note: 'wrong password' },
      { ...line, id: '7', kind: 'access-changed', by: 'Odalys Renn', note: 'member → lead' },
      { ...line, id: '6', kind: 'sessions-ended', note: '2' },
    ],
    before: '6',
  };
  const page = await openScreen(<SecurityPage />, { path: '/settings/security', me: owner, answers: { 'GET /account/security-log': log } });
  page.network.answer('GET /account/security-log?before=6', 200, {
    lines: [{ ...line, id: '5', kind: 'invited', by: 'Odalys Renn' }],
    before: null,
  });
  const words = () => screen.getAllByRole('listitem').map((item) => item.children[1]?.textContent);
  expect(words()).toEqual([
    'Teo Marsh signed in',
    'Teo Marsh was refused: wrong password',
    'Access of Teo Marsh was changed by Odalys Renn: member → lead',
    'Teo Marsh signed out 2 other devices',
  ]);
  await press('Show earlier');
  await waitFor(() => expect(words().at(-1)).toBe('Teo Marsh was invited by Odalys Renn'));
  expect(screen.queryByRole('button', { name: 'Show earlier' })).toBeNull();
});
