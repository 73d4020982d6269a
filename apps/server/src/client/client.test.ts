import type {
  ChangeUndone,
  ClientEdited,
  ClientEngagement,
  ContactEdited,
  ClientSheet,
  ClientSummary,
  ContactView,
  HistoryPage,
  Made,
} from '@crew/contract';
import { PASSWORD } from '../../test/small-world.ts';
import { startHarness, startSmall, type Caller, type Harness } from '../../test/harness.ts';

let harness: Harness;
let lead: Caller;
let ids: Map<string, string>;
const clientId = (name: string): string => ids.get(name) as string;

beforeAll(async () => {
  harness = await startHarness();
  lead = await harness.as('Lena');
});
beforeEach(async () => {
  harness.forgetTries();
  const clients = (await lead.get('/clients').expect(200)).body as ClientSummary[];
  ids = new Map(clients.map(({ name, id }) => [name, id]));
});
afterAll(() => harness.close());

const read = async (name: string): Promise<ClientSheet> => (await lead.get(`/clients/${clientId(name)}`).expect(200)).body as ClientSheet;
const contactOf = async (client: string, name: string): Promise<ContactView> => {
  const found = (await read(client)).contacts.find((contact) => contact.name.startsWith(name));
  if (found === undefined) throw new Error(`${client} has no ${name}`);
  return found;
};
const wren = { name: 'Wren Sallow', email: 'Wren@harbour.example', phone: ' 01632 960 118 ', notes: 'Mornings only.' };

describe('a contact', () => {
  test('is added with mail and phone, offered at once, and has no sign-in by that', async () => {
    const added = (await lead.post(`/clients/${clientId('Harbour Museum')}/contacts`, wren).expect(201)).body as ContactView;
    expect(added).toMatchObject({ name: 'Wren Sallow', initials: 'WS', email: 'wren@harbour.example', phone: '01632 960 118' });
    expect([added.hasSignIn, added.isActive, added.clients.map(({ name }) => name)]).toEqual([false, true, ['Harbour Museum']]);
    const listed = ((await lead.get('/clients').expect(200)).body as ClientSummary[]).find(({ name }) => name === 'Harbour Museum');
    expect(listed?.contacts.map(({ name }) => name)).toEqual(['Hal Crane', 'Wren Sallow']);
    const engagementId = await startSmall(lead, harness, { clientId: clientId('Harbour Museum'), contactId: added.id });
    expect((await read('Harbour Museum')).engagements.map(({ id }) => id)).toContain(engagementId);
  });

  test.each([
    [
      { name: 'Again', email: 'WREN@harbour.example' },
      409,
      'email',
      '“Wren Sallow” of Harbour Museum has this address. Add this client to them instead.',
    ],
    [{ name: 'No mail', email: 'wren' }, 400, 'email', 'Write the mail address, like wren@tarrowfen.example.'],
    [{ name: ' ', email: 'a@b.example' }, 400, 'name', undefined],
  ])('%j is refused with its field', async (input, status, field, message) => {
    const { body } = await lead.post(`/clients/${clientId('Mill House')}/contacts`, input).expect(status);
    expect(body).toMatchObject({ field, ...(message === undefined ? {} : { message }) });
  });

  test('is changed by field; somebody faster is shown, and nothing is lost', async () => {
    const { id, version } = await contactOf('Harbour Museum', 'Wren');
    const { contact: first } = (await lead.patch(`/contacts/${id}`, { version, phone: '01632 960 200' }).expect(200)).body as ContactEdited;
    expect(first).toMatchObject({ phone: '01632 960 200', notes: 'Mornings only.', name: 'Wren Sallow' });
    const { contact: same, changeId: none } = (
      await lead.patch(`/contacts/${id}`, { version: first.version, phone: '01632 960 200 ' }).expect(200)
    ).body as ContactEdited;
    expect([same, none]).toEqual([first, null]);
    const { body } = await lead.patch(`/contacts/${id}`, { version, notes: 'Afternoons.' }).expect(409);
    expect(body).toMatchObject({ code: 'changed-meanwhile', details: { current: { phone: '01632 960 200' } } });
    const lines = ((await lead.get(`/history?subject=client&id=${clientId('Harbour Museum')}`).expect(200)).body as HistoryPage).lines;
    expect(lines[0]).toMatchObject({ kind: 'contact-changed', note: 'Wren Sallow', changes: [{ field: 'phone', to: '01632 960 200' }] });
  });

  test('of two clients sees both on their page; of one that is left again, no more', async () => {
    const hal = await harness.as('Hal');
    const mill = await startSmall(lead, harness, { clientId: clientId('Mill House'), name: 'Mill job' });
    const seen = async (): Promise<string[]> =>
      ((await hal.get('/client/engagements').expect(200)).body as ClientEngagement[]).map(({ id }) => id);
    expect(await seen()).not.toContain(mill);
    const { id, version } = await contactOf('Harbour Museum', 'Hal');
    const both = [clientId('Harbour Museum'), clientId('Mill House')];
    const { contact: changed } = (await lead.patch(`/contacts/${id}`, { version, clientIds: both }).expect(200)).body as ContactEdited;
    expect(changed.clients.map(({ name }) => name)).toEqual(['Harbour Museum', 'Mill House']);
    expect(await seen()).toContain(mill);
    expect((await contactOf('Mill House', 'Hal')).id).toBe(id);
    await lead.patch(`/contacts/${id}`, { version: changed.version, clientIds: both.slice(0, 1) }).expect(200);
    expect(await seen()).not.toContain(mill);
  });

  test('goes back by field: what somebody changed since stays and is named, clients come back, and all of it can be redone', async () => {
    const { id, version } = await contactOf('Harbour Museum', 'Wren');
    const clientIds = [clientId('Mill House'), clientId('Harbour Museum')];
    const edit = { version, phone: '01632 960 999', notes: 'Evenings.', clientIds };
    const { changeId } = (await lead.patch(`/contacts/${id}`, edit).expect(200)).body as ContactEdited;
    const oona = await harness.as('Oona');
    await oona.patch(`/contacts/${id}`, { version: version + 1, notes: 'Not on Fridays.' }).expect(200);
    const undone = (await lead.post(`/changes/${changeId}/undo`).expect(200)).body as ChangeUndone;
    expect(undone.kept).toMatchObject([{ title: 'Wren Sallow', field: 'notes', by: 'Oona Field' }]);
    const back = await contactOf('Harbour Museum', 'Wren');
    expect(back).toMatchObject({ phone: '01632 960 200', notes: 'Not on Fridays.', version: version + 3 });
    expect(back.clients.map(({ name }) => name)).toEqual(['Harbour Museum']);
    await lead.post(`/changes/${changeId}/undo`).expect(409);
    await lead.post(`/changes/${undone.changeId}/undo`).expect(200);
    expect((await contactOf('Mill House', 'Wren')).clients.map(({ name }) => name)).toEqual(['Mill House', 'Harbour Museum']);
    const lines = ((await lead.get(`/history?subject=client&id=${clientId('Harbour Museum')}`).expect(200)).body as HistoryPage).lines;
    expect(lines[0]).toMatchObject({ isUndoing: false, canUndo: true });
    expect(lines[0]?.changes).toContainEqual({ field: 'clients', from: ['Harbour Museum'], to: ['Mill House', 'Harbour Museum'] });
    const dora = await harness.as('Dora');
    await dora.post(`/changes/${lines[0]?.changeId}/undo`).expect(403);
    await lead.post(`/changes/${lines[0]?.changeId}/undo`).expect(200);
  });

  test('who is named on an open engagement does not leave its client unnoticed', async () => {
    const { id, version } = await contactOf('Harbour Museum', 'Wren');
    const { body } = await lead.patch(`/contacts/${id}`, { version, clientIds: [clientId('Mill House')] }).expect(409);
    expect(body).toMatchObject({ field: 'clientIds', message: expect.stringMatching(/^They are the contact of “.+”\./) as string });
  });

  test('who is no longer there is not offered, and cannot sign in, until they are back', async () => {
    const mia = await contactOf('Mill House', 'Mia');
    const { contact: gone } = (await lead.patch(`/contacts/${mia.id}`, { version: mia.version, isActive: false }).expect(200))
      .body as ContactEdited;
    const listed = ((await lead.get('/clients').expect(200)).body as ClientSummary[]).find(({ name }) => name === 'Mill House');
    expect(listed?.contacts).toEqual([]);
    await harness.nobody.post('/session', { email: 'mia@small.example', password: PASSWORD }).expect(403);
    const { template: templateId } = harness.ids;
    const start = { templateId, clientId: clientId('Mill House'), name: 'E', start: '2026-11-30', contactId: mia.id };
    expect((await lead.post('/engagements', start)).body).toMatchObject({ code: 'unknown-id', field: 'contactId' });
    await lead.patch(`/contacts/${mia.id}`, { version: gone.version, isActive: true }).expect(200);
    await harness.nobody.post('/session', { email: 'mia@small.example', password: PASSWORD }).expect(204);
  });
});

test('a client gets another name and hue, and says so in its history', async () => {
  const { id } = (await lead.post('/clients', { name: 'Tarrow Fen' }).expect(201)).body as Made;
  const { client: changed } = (await lead.patch(`/clients/${id}`, { version: 1, name: 'Tarrow Fen Reserve', hue: 'olive' }).expect(200))
    .body as ClientEdited;
  expect(changed).toMatchObject({ name: 'Tarrow Fen Reserve', hue: 'olive', version: 2, contacts: [], engagements: [] });
  await lead.patch(`/clients/${id}`, { version: 1, name: 'Other' }).expect(409);
  const { lines } = (await lead.get(`/history?subject=client&id=${id}`).expect(200)).body as HistoryPage;
  expect(lines.map(({ kind, canUndo }) => [kind, canUndo])).toEqual([
    ['client-changed', true],
    ['client-added', false],
  ]);
  await lead.post(`/changes/${lines[0]?.changeId}/undo`).expect(200);
  expect((await lead.get(`/clients/${id}`).expect(200)).body).toMatchObject({ name: 'Tarrow Fen', version: 3 });
});
