import type { ClientSheet, ContactView } from '@crew/contract';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { idOf } from '../../../test/ids.ts';
import { odalys, teo } from '../../../test/samples.ts';
import { openScreen } from '../../../test/screen.tsx';
import { ClientDetailPage } from './ClientDetailPage.tsx';
import { ClientsPage } from './ClientsPage.tsx';

const [FEN, MILL, WREN] = [idOf('fen'), idOf('mill'), idOf('wren')];
const wren: ContactView = {
  ...{ id: WREN, name: 'Wren Sallow', initials: 'WS', email: 'wren@fen.example', phone: '01632 960 118', notes: 'Mornings only.' },
  ...{ clients: [{ id: FEN, name: 'Tarrow Fen' }], hasSignIn: true, isActive: true, version: 1 },
};
const fen: ClientSheet = {
  ...{ id: FEN, name: 'Tarrow Fen', hue: 'olive', isOwn: false, version: 3 },
  contacts: [wren, { ...wren, id: idOf('gus'), name: 'Gus Pell', hasSignIn: false, isActive: false }],
  engagements: [
    { id: 'e1', name: 'Boardwalk', state: 'open', promise: '2026-12-18', closedOn: null, shownTasks: 4 },
    { id: 'e2', name: 'Bird hide', state: 'finished', promise: null, closedOn: '2026-10-02', shownTasks: 0 },
  ],
};
const list = [
  { id: FEN, name: 'Tarrow Fen', hue: 'olive', isOwn: false, open: 1, contacts: [{ id: WREN, name: 'Wren Sallow' }] },
  { id: MILL, name: 'Ludd Mill', hue: 'ochre', isOwn: false, open: 0, contacts: [] },
];
const open = (me = odalys, show = '') =>
  openScreen(<ClientDetailPage />, {
    ...{ path: '/clients/:id', address: `/clients/${FEN}${show}`, me },
    answers: { [`GET /clients/${FEN}`]: fen, 'GET /clients': list },
  });
const sheet = () => within(screen.getByRole('complementary', { name: /contact/i }));

test('clients are found by their name and by who is there', async () => {
  await openScreen(<ClientsPage />, { path: '/clients', answers: { 'GET /clients': list } });
  expect((await screen.findByRole('link', { name: 'Tarrow Fen' })).getAttribute('href')).toBe(`/clients/${FEN}`);
  await userEvent.type(screen.getByRole('textbox', { name: 'Search clients' }), 'wren');
  expect(screen.queryByRole('link', { name: 'Ludd Mill' })).toBeNull();
  expect(screen.getByText('1 open')).toBeTruthy();
});

test('a client says whom to reach how, and what is done for it', async () => {
  await open();
  const contacts = within(screen.getByRole('region', { name: 'Contacts' })).getAllByRole('listitem');
  expect(contacts.map((row) => row.textContent)).toEqual([
    'WSWren Sallowwren@fen.example01632 960 118can sign in',
    'WSGus Pellwren@fen.example01632 960 118left',
  ]);
  const work = within(screen.getByRole('region', { name: 'Engagements' })).getAllByRole('listitem');
  expect(work.map((row) => row.textContent)).toEqual([
    'Boardwalkopen · promised 18 Dec4 tasks shown to client',
    'Bird hidefinished 2 Octno tasks shown to client',
  ]);
});

test('a contact is changed, also to be one of another client, and it says what they see', async () => {
  const page = await open();
  await userEvent.click(screen.getByRole('button', { name: 'Wren Sallow' }));
  expect(sheet().getByText('Can sign in and see 1 open engagement of Tarrow Fen with 4 tasks marked for the client.')).toBeTruthy();
  const mobile = sheet().getByRole('textbox', { name: 'Phone' });
  await userEvent.clear(mobile);
  await userEvent.type(mobile, '01632 960 200');
  await userEvent.click(sheet().getByRole('button', { name: /Add to another client/ }));
  await userEvent.click(await screen.findByRole('option', { name: 'Ludd Mill' }));
  page.network.answer(`PATCH /contacts/${WREN}`, 200, { contact: { ...wren, phone: '01632 960 200', version: 2 }, changeId: 'c1' });
  await userEvent.click(sheet().getByRole('button', { name: 'Save' }));
  await screen.findByText('Wren Sallow saved.');
  expect(page.sent().at(-1)?.body).toEqual({
    ...{ version: 1, name: 'Wren Sallow', email: 'wren@fen.example', phone: '01632 960 200', notes: 'Mornings only.' },
    clientIds: [FEN, MILL],
  });
  // Taken back, the fields stand as they were again.
  const undone = { ...fen, contacts: fen.contacts.map((each) => (each.id === WREN ? { ...wren, version: 3 } : each)) };
  page.network.answer('POST /changes/c1/undo', 200, { changeId: 'c2', kept: [] });
  page.network.answer(`GET /clients/${FEN}`, 200, undone);
  await userEvent.click(screen.getByRole('button', { name: /Undo/ }));
  await screen.findByText('Undone.');
  await waitFor(() => expect((mobile as HTMLInputElement).value).toBe(wren.phone));
});

test('where somebody was faster, both are there and nothing is lost', async () => {
  const page = await open(odalys, `?contact=${WREN}`);
  await userEvent.type(await screen.findByRole('textbox', { name: 'Internal notes' }), ' Not Fridays.');
  const theirs = { ...wren, phone: '1', version: 2 };
  page.network.answer(`PATCH /contacts/${WREN}`, 409, {
    ...{ code: 'changed-meanwhile', message: 'Somebody changed this contact.', details: { current: theirs } },
  });
  await userEvent.click(sheet().getByRole('button', { name: 'Save' }));
  expect((await sheet().findByRole('alert')).textContent).toContain('Now: Wren Sallow, wren@fen.example, 1.');
  page.network.answer(`PATCH /contacts/${WREN}`, 200, { contact: { ...theirs, version: 3 }, changeId: 'c2' });
  await userEvent.click(sheet().getByRole('button', { name: 'Keep my version' }));
  await screen.findByText('Wren Sallow saved.');
  expect(page.sent().at(-1)?.body).toMatchObject({ version: 2, notes: 'Mornings only. Not Fridays.' });
});

test('somebody new needs a name and a mail address; what is wrong is said at its field', async () => {
  const page = await open();
  await userEvent.click(screen.getByRole('button', { name: 'New contact…' }));
  await userEvent.type(sheet().getByRole('textbox', { name: 'Name' }), 'Ada Reed');
  await userEvent.click(sheet().getByRole('button', { name: 'Add contact' }));
  expect(await sheet().findByText('Write the mail address, like wren@tarrowfen.example.')).toBeTruthy();
  await userEvent.type(sheet().getByRole('textbox', { name: 'Mail address' }), 'ada@fen.example');
  page.network.answer(`POST /clients/${FEN}/contacts`, 201, { ...wren, id: idOf('ada'), name: 'Ada Reed' });
  await userEvent.click(sheet().getByRole('button', { name: 'Add contact' }));
  await screen.findByText('Contact Ada Reed added.');
  expect(page.sent().at(-1)?.body).toEqual({ name: 'Ada Reed', email: 'ada@fen.example' });
});

test('who does not look after clients reads, and changes nothing', async () => {
  await open(teo, `?contact=${WREN}`);
  expect(await screen.findByText('Mornings only.')).toBeTruthy();
  expect(screen.queryByRole('button', { name: /^(Save|New contact…|Deactivate)$/ })).toBeNull();
});
