import type { ChangeUndone, CrewMember, Desk, PersonEdited, WeekSheet } from '@crew/contract';
import { joinCrew, startHarness, startSmall, TODAY, type Caller, type Harness } from '../../test/harness.ts';

let harness: Harness;
let owner: Caller;
let lead: Caller;
beforeAll(async () => {
  harness = await startHarness();
  owner = await harness.as('Oona');
  lead = await harness.as('Lena');
});
beforeEach(() => harness.forgetTries());
afterAll(() => harness.close());

const membersAs = async (caller: Caller): Promise<CrewMember[]> => (await caller.get('/crew/members').expect(200)).body as CrewMember[];
const memberOf = async (name: string): Promise<CrewMember> =>
  (await membersAs(owner)).find((member) => member.name.startsWith(name)) as CrewMember;

const nora = { name: 'Nora West', email: 'Nora@small.example', roles: ['Maker'] };
const password = 'a wall of ivy leaves';
const invite = (by: Caller, person: object) => by.post('/invitations', { people: [person] });

describe('a new colleague', () => {
  test('signs in by the address in any case, once a password is chosen, with the agency’s week', async () => {
    await joinCrew(lead, harness, { ...nora, password });
    const added = await memberOf('Nora');
    expect(added).toMatchObject({ name: 'Nora West', initials: 'NW', email: 'nora@small.example', access: 'member', roles: ['Maker'] });
    expect(added.week).toEqual([480, 480, 480, 480, 480, 0, 0]);
    await harness.nobody.post('/session', { email: 'NORA@small.example', password }).expect(204);
  });

  test('has forgotten nothing of the days before they came', async () => {
    const person = await harness.signIn('nora@small.example', password);
    const read = async () => ({
      desk: ((await person.get('/desk').expect(200)).body as Desk).forgottenDays,
      week: ((await person.get('/time').expect(200)).body as WeekSheet).days.filter((day) => day.isForgotten).map((day) => day.date),
    });
    harness.clock.moveTo('2026-11-26');
    expect(await read()).toEqual({ desk: ['2026-11-23', '2026-11-24', '2026-11-25'], week: ['2026-11-23', '2026-11-24', '2026-11-25'] });
    harness.clock.moveTo(TODAY);
    expect(await read()).toEqual({ desk: [], week: [] });
  });

  test('is offered where people are chosen', async () => {
    const { people } = (await lead.get('/crew').expect(200)).body as { people: { name: string }[] };
    expect(people.map((person) => person.name)).toContain('Nora West');
  });

  test('an address that signs somebody in already is refused at its field, and nobody is added', async () => {
    const before = await membersAs(owner);
    const { body } = await invite(lead, { ...nora, name: 'Another Nora', email: 'mak@small.example' }).expect(409);
    expect(body).toMatchObject({ code: 'already-there', field: 'people.0.email' });
    expect(await membersAs(owner)).toEqual(before);
  });

  test('a role that is new becomes a role of the agency', async () => {
    await invite(lead, { ...nora, email: 'gil@small.example', name: 'Gil Moss', roles: ['Gilder', ' Maker '] }).expect(201);
    expect((await memberOf('Gil')).roles).toEqual(['Gilder', 'Maker']);
    const { roles } = (await lead.get('/crew').expect(200)).body as { roles: { name: string }[] };
    expect(roles.filter((role) => role.name === 'Maker')).toHaveLength(1);
  });

  test.each<[string, object, string]>([
    ['no name', { ...nora, name: ' ' }, 'name'],
    ['no mail address', { ...nora, email: 'nora' }, 'email'],
    ['an access that is none', { ...nora, access: 'client' }, 'access'],
    ['a week of six days', { ...nora, week: [1, 2, 3, 4, 5, 6] }, 'week'],
    ['a day of 25 hours', { ...nora, week: [1500, 0, 0, 0, 0, 0, 0] }, 'week'],
    ['a role without a name', { ...nora, roles: [' '] }, 'roles'],
  ])('with %s is refused at the field', async (_what, body, field) => {
    const answer = await invite(lead, body).expect(400);
    expect(answer.body).toMatchObject({ code: 'invalid-input', field: `people.0.${field}` });
  });
});

describe('changing somebody', () => {
  test('roles, hours and access change together, and the load counts the new hours', async () => {
    const dora = await memberOf('Dora');
    const week = [240, 240, 240, 0, 0, 0, 0];
    const change = { version: dora.version, roles: ['Maker', 'Drawer'], week, access: 'lead' };
    const { body } = await lead.patch(`/crew/${dora.id}`, change).expect(200);
    expect((body as PersonEdited).person).toMatchObject({ roles: ['Maker', 'Drawer'], access: 'lead', version: dora.version + 1 });
    const workload = (await lead.get('/workload?from=2026-11-23&to=2026-11-29').expect(200)).body as {
      rows: { person: { id: string }; capacity: number[] }[];
    };
    const row = workload.rows.find(({ person }) => person.id === dora.id);
    expect(row?.capacity).toEqual([240, 240, 240, 0, 0, 0, 0]);
  });

  test('goes back by field, by the same rules as any change of them', async () => {
    const before = await memberOf('Mak');
    const edit = { version: before.version, roles: ['Drawer'], week: [300, 300, 300, 300, 300, 0, 0] };
    const { changeId } = (await lead.patch(`/crew/${before.id}`, edit).expect(200)).body as PersonEdited;
    await owner.patch(`/crew/${before.id}`, { version: before.version + 1, week: [240, 240, 0, 0, 0, 0, 0] }).expect(200);
    const { kept } = (await lead.post(`/changes/${changeId}/undo`).expect(200)).body as ChangeUndone;
    expect(kept).toMatchObject([{ title: before.name, field: 'hours', by: 'Oona Field' }]);
    expect(await memberOf('Mak')).toMatchObject({ roles: before.roles, week: [240, 240, 0, 0, 0, 0, 0] });
    const promoted = (await owner.patch(`/crew/${before.id}`, { version: before.version + 3, access: 'owner' }).expect(200))
      .body as PersonEdited;
    // Ownership is the owners' own matter, also taken back.
    await lead.post(`/changes/${promoted.changeId}/undo`).expect(403);
    await owner.post(`/changes/${promoted.changeId}/undo`).expect(200);
    expect((await memberOf('Mak')).access).toBe(before.access);
  });

  test('a stale version changes nothing and says how they are now', async () => {
    const mak = await memberOf('Mak');
    await lead.patch(`/crew/${mak.id}`, { version: mak.version, name: 'Mak Reyes Solano' }).expect(200);
    const { body } = await owner.patch(`/crew/${mak.id}`, { version: mak.version, name: 'M. Reyes' }).expect(409);
    expect(body).toMatchObject({ code: 'changed-meanwhile', details: { current: { name: 'Mak Reyes Solano' } } });
    expect((await memberOf('Mak')).initials).toBe('MS');
  });

  test('somebody of another agency is not there', async () => {
    await lead.patch('/crew/00000000-0000-4000-8000-000000000000', { version: 1 }).expect(404);
  });
});

describe('leaving', () => {
  test('ends the sessions at once and keeps what they did', async () => {
    const id = await startSmall(lead, harness);
    const fred = await harness.as('Fred');
    await fred.get('/session').expect(200);
    const before = await memberOf('Fred');
    await lead.patch(`/crew/${before.id}`, { version: before.version, isActive: false }).expect(200);
    await fred.get('/session').expect(401);
    const after = await membersAs(owner);
    expect(after.at(-1)).toMatchObject({ name: 'Fred Loan', isActive: false, openTasks: before.openTasks });
    await lead.get(`/engagements/${id}/plan`).expect(200);
  });

  test('nobody ends their own access', async () => {
    const lena = await memberOf('Lena');
    const { body } = await lead.patch(`/crew/${lena.id}`, { version: lena.version, isActive: false }).expect(403);
    expect(body).toMatchObject({ field: 'isActive' });
  });
});

describe('owning', () => {
  test('a lead makes nobody owner and changes no owner', async () => {
    const [dora, oona] = [await memberOf('Dora'), await memberOf('Oona')];
    await lead.patch(`/crew/${dora.id}`, { version: dora.version, access: 'owner' }).expect(403);
    await lead.patch(`/crew/${oona.id}`, { version: oona.version, name: 'O. Field' }).expect(403);
    await invite(lead, { ...nora, email: 'own@small.example', access: 'owner' }).expect(403);
  });

  test('the last owner stays owner; with a second one the first may go', async () => {
    const oona = await memberOf('Oona');
    const refused = await owner.patch(`/crew/${oona.id}`, { version: oona.version, access: 'member' }).expect(403);
    expect((refused.body as { message: string }).message).toContain('needs an owner');
    const lena = await memberOf('Lena');
    await owner.patch(`/crew/${lena.id}`, { version: lena.version, access: 'owner' }).expect(200);
    await owner.patch(`/crew/${oona.id}`, { version: oona.version, access: 'member' }).expect(200);
    await owner.get('/crew/members').expect(403);
  });
});
