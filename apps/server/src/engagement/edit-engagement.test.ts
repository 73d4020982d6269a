import type {
  ChangeMade,
  EngagementChanged,
  EngagementPlan,
  EngagementTrack,
  PlanEffect,
  PlanTask,
  Versioned,
  Workload,
} from '@crew/contract';
import { startSmall, testWorld } from '../../test/harness.ts';

const { harness, lead } = testWorld();
const STRANGE = '00000000-0000-4000-8000-000000000000';

const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const versionOf = async (id: string): Promise<number> => (await planOf(id)).engagement.version;
const edit = async (id: string, change: object) => lead.patch(`/engagements/${id}`, { version: await versionOf(id), ...change });
const loadOf = async (): Promise<number> =>
  ((await lead.get('/workload?from=2026-11-23&to=2027-03-31').expect(200)).body as Workload).rows
    .flatMap((row) => row.load)
    .reduce((sum, minutes) => sum + minutes, 0);

describe('an engagement is changed', () => {
  test('its name, lead and contact, each kept with who did it', async () => {
    const id = await startSmall(lead, harness, { name: 'Old name' });
    const contact = await harness.database.row<{ id: string; name: string }>(
      'SELECT k.id, k.name FROM contact k JOIN engagement e ON e.client_id = k.client_id WHERE e.id = $1 LIMIT 1',
      [id],
    );
    const changed = await edit(id, { name: '  New name ', leadId: harness.ids.people['Dora'], contactId: contact?.id });
    expect(changed.status).toBe(200);
    const { engagement } = await planOf(id);
    expect(engagement).toMatchObject({ name: 'New name', lead: { name: 'Dora Quill' }, contact: contact?.name });
    expect((changed.body as EngagementChanged).version).toBe(engagement.version);
    const event = await harness.database.row<{ changes: { field: string }[] }>(
      `SELECT changes FROM event WHERE subject_id = $1 AND kind = 'engagement-changed' ORDER BY id DESC LIMIT 1`,
      [id],
    );
    expect(event?.changes.map(({ field }) => field)).toEqual(['name', 'leadId', 'contactId']);
  });

  test('another promise moves what is anchored to it and tells the days to spare; asked first, it saves nothing; taken back, all is as it was', async () => {
    const id = await startSmall(lead, harness, { promise: '2027-03-01' });
    const ink = (await planOf(id)).tasks.find((task) => task.title === 'Ink') as PlanTask;
    await harness.database.rows(`UPDATE task SET anchor_at = 'before-promise', anchor_offset = 2 WHERE id = $1`, [ink.id]);
    await edit(id, { promise: '2027-03-02' });
    const before = await planOf(id);
    const version = before.engagement.version;
    const looked = (await lead.post(`/engagements/${id}/edit/preview`, { version, promise: '2027-03-15' }).expect(200)).body as PlanEffect;
    expect((await planOf(id)).engagement).toEqual(before.engagement);
    expect(looked.moves.map((move) => move.title)).toContain('Ink');
    expect(looked.promise).toBe('2027-03-15');

    const { effect, version: next } = (await lead.patch(`/engagements/${id}`, { version, promise: '2027-03-15' }).expect(200))
      .body as EngagementChanged;
    expect(effect.moves).toEqual(looked.moves);
    expect((await planOf(id)).engagement.promise).toBe('2027-03-15');
    await lead.patch(`/engagements/${id}`, { version: next, promise: before.engagement.promise }).expect(200);
    const after = await planOf(id);
    expect(after.tasks.map(({ start, due }) => [start, due])).toEqual(before.tasks.map(({ start, due }) => [start, due]));
    expect((await edit(id, { promise: null })).status).toBe(200);
    expect((await planOf(id)).engagement.promise).toBeNull();
  });

  test('a later promise leaves more to spare where nothing hangs on it', async () => {
    const id = await startSmall(lead, harness, { promise: '2027-03-01' });
    const body = { version: await versionOf(id), promise: '2027-03-08' };
    const { moves, promiseSlack, finish } = (await lead.post(`/engagements/${id}/edit/preview`, body).expect(200)).body as PlanEffect;
    expect(moves).toEqual([]);
    expect(finish.to).toBe(finish.from);
    expect((promiseSlack?.to ?? 0) - (promiseSlack?.from ?? 0)).toBe(5);
  });

  test('a proposal that is likelier counts more; agreed work is not more or less likely', async () => {
    const id = await startSmall(lead, harness, { likelihood: 20 });
    const before = await loadOf();
    expect((await edit(id, { likelihood: 80 })).status).toBe(200);
    expect(await loadOf()).toBeGreaterThan(before);
    expect((await planOf(id)).engagement.likelihood).toBe(80);
    const { changeId } = (await lead.post(`/engagements/${id}/accept`).expect(200)).body as ChangeMade;
    expect((await planOf(id)).engagement).toMatchObject({ state: 'open', likelihood: 100 });
    await lead.post(`/changes/${changeId}/undo`).expect(200);
    expect((await planOf(id)).engagement).toMatchObject({ state: 'proposal', likelihood: 80 });
    await lead.post(`/engagements/${id}/accept`).expect(200);
    expect((await edit(id, { likelihood: 50 })).body).toMatchObject({ code: 'wrong-moment', field: 'likelihood' });
  });

  test.each([
    ['a promise before it began', { promise: '2020-01-01' }, 400, 'promise'],
    ['a lead who is not of the crew', { leadId: STRANGE }, 400, 'leadId'],
    ['a contact of another client', { contactId: STRANGE }, 400, 'contactId'],
    ['no name', { name: '   ' }, 400, 'name'],
  ])('%s is refused at its field', async (_name, change, status, field) => {
    const id = await startSmall(lead, harness);
    const before = (await planOf(id)).engagement;
    const answer = await edit(id, change);
    expect([answer.status, (answer.body as { field?: string }).field]).toEqual([status, field]);
    expect((await planOf(id)).engagement).toEqual(before);
  });

  test('of two who read the same version the second is shown what is there now', async () => {
    const id = await startSmall(lead, harness);
    const version = await versionOf(id);
    await lead.patch(`/engagements/${id}`, { version, name: 'First' }).expect(200);
    const second = await lead.patch(`/engagements/${id}`, { version, name: 'Second' }).expect(409);
    expect(second.body).toMatchObject({ code: 'changed-meanwhile', details: { current: { name: 'First', version: version + 1 } } });
  });
});

describe('an engagement that ends before its time', () => {
  const listed = async (finished: boolean): Promise<EngagementTrack[]> =>
    (await lead.get(`/engagements${finished ? '?finished=yes' : ''}`).expect(200)).body as EngagementTrack[];

  test('is nobody’s load any more, stands among the finished as dropped, and goes on as it was', async () => {
    const before = await loadOf();
    const id = await startSmall(lead, harness, { name: 'No fit', likelihood: 60 });
    const with_ = await loadOf();
    expect(with_).toBeGreaterThan(before);
    const { body } = await lead.post(`/engagements/${id}/drop`, { version: await versionOf(id), reason: 'No money' }).expect(200);
    expect(await loadOf()).toBe(before);
    expect((await listed(false)).some((track) => track.id === id)).toBe(false);
    expect((await listed(true)).find((track) => track.id === id)).toMatchObject({ state: 'dropped', standing: [{ kind: 'dropped' }] });
    await lead.post(`/engagements/${id}/reopen`, { version: (body as Versioned).version }).expect(200);
    expect(await loadOf()).toBe(with_);
    expect((await planOf(id)).engagement).toMatchObject({ state: 'proposal', likelihood: 60 });
  });

  test('what is over is not dropped, and what was not dropped is not taken up', async () => {
    const id = await startSmall(lead, harness);
    await lead.post(`/engagements/${id}/reopen`, { version: await versionOf(id) }).expect(409);
    await lead.post(`/engagements/${id}/drop`, { version: await versionOf(id), reason: 'Twice' }).expect(200);
    await lead.post(`/engagements/${id}/drop`, { version: await versionOf(id), reason: 'Twice' }).expect(409);
  });
});
