import type { CrewMember, ListChanged, RoleLine } from '@crew/contract';
import { startSmall, testWorld } from '../../test/harness.ts';
import { rowsOf } from '../platform/database.ts';

const { harness, lead } = testWorld();

const roles = async (): Promise<RoleLine[]> => (await lead.get('/roles').expect(200)).body as RoleLine[];
const roleOf = async (name: string): Promise<RoleLine> => (await roles()).find((role) => role.name === name) as RoleLine;
const add = async (name: string): Promise<ListChanged> => (await lead.post('/roles', { name }).expect(201)).body as ListChanged;
const isSomebodyWaiting = async (): Promise<boolean> =>
  (await harness.database.row(
    `SELECT 1 FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock' AND application_name = 'nimble-crew'`,
  )) !== null;
const undo = (changeId: string | null) => lead.post(`/changes/${changeId}/undo`);

test('roles say who holds them, which open tasks need them and which templates name them', async () => {
  await startSmall(lead, harness);
  const maker = await roleOf('Maker');
  expect(maker).toMatchObject({ isUsed: true, templates: 1 });
  expect(maker.people).toBeGreaterThan(0);
  expect(maker.openTasks).toBeGreaterThan(0);
});

test('a role nobody uses is added, renamed and deleted; each is undone', async () => {
  const added = await add('Gilder');
  const { id } = await roleOf('Gilder');
  const renamed = (await lead.patch(`/roles/${id}`, { name: ' Gilders ' }).expect(200)).body as ListChanged;
  expect(await roleOf('Gilders')).toMatchObject({ id, isUsed: false, people: 0 });
  await undo(renamed.changeId).expect(200);
  const deleted = (await lead.delete(`/roles/${id}`).expect(200)).body as ListChanged;
  expect(await roleOf('Gilder')).toBeUndefined();
  await undo(deleted.changeId).expect(200);
  expect(await roleOf('Gilder')).toMatchObject({ id });
  await undo(added.changeId).expect(200);
  expect(await roleOf('Gilder')).toBeUndefined();
});

test('people keep a role under its new name, and one in use is not deleted', async () => {
  const { id } = await roleOf('Maker');
  await lead.patch(`/roles/${id}`, { name: 'Model maker' }).expect(200);
  const members = (await lead.get('/crew/members').expect(200)).body as CrewMember[];
  expect(members.find(({ name }) => name.startsWith('Mak'))?.roles).toContain('Model maker');
  expect((await lead.delete(`/roles/${id}`).expect(409)).body).toMatchObject({ code: 'still-used' });
  await lead.patch(`/roles/${id}`, { name: 'Maker' }).expect(200);
});

test('two names that differ in case only are one: refused at the field', async () => {
  await add('Engraver');
  const refused = await lead.post('/roles', { name: 'engraver' }).expect(409);
  expect(refused.body).toMatchObject({ code: 'already-there', field: 'name' });
  const { id } = await roleOf('Engraver');
  await lead.patch(`/roles/${id}`, { name: 'MAKER' }).expect(409);
  // Its own name in another case is no other name.
  await lead.patch(`/roles/${id}`, { name: 'ENGRAVER' }).expect(200);
});

test('a role that was added and is held by somebody stays when its adding is undone', async () => {
  const { changeId } = await add('Binder');
  const { id, version } = ((await lead.get('/crew/members').expect(200)).body as CrewMember[]).find(({ name }) =>
    name.startsWith('Mak'),
  ) as CrewMember;
  await lead.patch(`/crew/${id}`, { version, roles: ['Maker', 'Binder'] }).expect(200);
  await undo(changeId).expect(409);
  expect(await roleOf('Binder')).toMatchObject({ people: 1 });
});

test('of two people who add the same name at once one is told that it is there', async () => {
  const answers = await Promise.all([lead, lead].map((caller) => caller.post('/roles', { name: 'Carver' })));
  expect(answers.map(({ status }) => status).sort()).toEqual([201, 409]);
});

test('a role that somebody is given while it is being deleted stays with them', async () => {
  await add('Tiler');
  const { id } = await roleOf('Tiler');
  const person = await harness.database.row<{ id: string }>(`SELECT id FROM person WHERE name LIKE 'Mak%'`);
  let deleting: Promise<{ readonly status: number; readonly body: unknown }> | undefined;
  await harness.database.transaction(async (manager) => {
    await rowsOf(manager, 'INSERT INTO person_role (person_id, role_id, position) VALUES ($1, $2, 9)', [person?.id, id]);
    deleting = lead.delete(`/roles/${id}`).then(({ status, body }) => ({ status, body: body as unknown }));
    while (!(await isSomebodyWaiting()));
  });
  expect(await deleting).toMatchObject({ status: 409, body: { code: 'still-used' } });
});

test('members cannot change roles', async () => {
  await (await harness.as('Mak')).post('/roles', { name: 'Mine' }).expect(403);
});
