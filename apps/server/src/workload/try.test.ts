import type { TriedEngagement, Workload } from '@crew/contract';
import { startSmall, testWorld, TODAY } from '../../test/harness.ts';

const { harness, lead } = testWorld();
const idOf = (name: string): string => harness.ids.people[name] as string;
let roles: readonly { readonly roleId: string; readonly personId: string | null }[];

beforeAll(async () => {
  const rows = await harness.database.rows<{ id: string; name: string }>('SELECT id, name FROM role');
  const roleId = (name: string): string => rows.find((row) => row.name === name)?.id as string;
  roles = [
    { roleId: roleId('Drawer'), personId: idOf('Fred') },
    { roleId: roleId('Maker'), personId: idOf('Mak') },
  ];
});
beforeEach(async () => {
  await harness.database.rows('DELETE FROM engagement');
  await harness.database.rows('DELETE FROM time_off');
});

const attempt = async (more: object = {}): Promise<TriedEngagement> =>
  (await lead.post('/workload/try', { templateId: harness.ids.template, start: TODAY, roles, ...more }).expect(200))
    .body as TriedEngagement;

test('with everybody free it can start at once, and nothing of it is saved', async () => {
  const tried = await attempt();
  expect(tried).toMatchObject({ start: TODAY, finish: '2026-12-07', effortMinutes: 2400, unmannedMinutes: 0, overloads: [] });
  expect(tried.earliest).toEqual({ start: TODAY, finish: '2026-12-07', fits: true, roles: [], over: [], alone: [] });
  expect(tried.people.map(({ person }) => person.name).sort()).toEqual(['Fred Loan', 'Mak Reyes']);
  expect(tried.people.every(({ load }) => load.length === 21)).toBe(true);
  const workload = (await lead.get('/workload').expect(200)).body as Workload;
  expect(workload.rows.flatMap((row) => row.load).every((minutes) => minutes === 0)).toBe(true);
});

test('over a full load it says whom it would overload, and finds the first start that overloads nobody', async () => {
  await startSmall(lead, harness, { roles });
  const tried = await attempt();
  expect(tried.overloads.map(({ person }) => person.name)).toContain('Fred Loan');
  expect(tried.people.find(({ person }) => person.name === 'Fred Loan')?.after.over).toBeGreaterThan(0);
  const { start } = tried.earliest;
  expect(start > TODAY).toBe(true);
  const later = await attempt({ start });
  expect([later.overloads, later.earliest.start]).toEqual([[], start]);
});

test('somebody else for a role has the room: it starts earlier', async () => {
  await startSmall(lead, harness, { roles });
  const [drawer, maker] = roles as [(typeof roles)[number], (typeof roles)[number]];
  const tried = await attempt({ roles: [{ ...drawer, personId: idOf('Dora') }, maker] });
  expect(tried.earliest.start < (await attempt()).earliest.start).toBe(true);
});

test('for each start whoever holds the role and is free then is tried, and named', async () => {
  await lead.post(`/crew/${idOf('Fred')}/time-off`, { from: TODAY, to: '2026-12-31' }).expect(201);
  await lead.post(`/crew/${idOf('Dora')}/time-off`, { from: TODAY, to: '2026-12-04' }).expect(201);
  const [drawer, maker] = roles as [(typeof roles)[number], (typeof roles)[number]];
  const tried = await attempt({ roles: [maker] });
  expect(tried.earliest).toMatchObject({ fits: true, roles: [{ roleId: drawer.roleId, person: { name: 'Dora Quill' } }] });
  expect(tried.earliest.start < (await attempt()).earliest.start).toBe(true);
});

test('where nothing fits, the start that asks least is told with whom it asks too much of', async () => {
  for (const [from, to] of [
    [TODAY, '2027-06-30'],
    ['2027-07-01', '2028-06-30'],
  ])
    await lead.post(`/crew/${idOf('Fred')}/time-off`, { from, to }).expect(201);
  const { earliest } = await attempt();
  expect(earliest).toMatchObject({ fits: false, over: [{ person: { name: 'Fred Loan' } }] });
});

test('without anybody chosen the work lies on nobody, and is counted', async () => {
  const tried = await attempt({ roles: roles.map((role) => ({ ...role, personId: null })) });
  expect(tried).toMatchObject({ unmannedMinutes: 2400, people: [], overloads: [] });
});

test('as likely work it counts in part', async () => {
  const sum = ({ people }: TriedEngagement): number => people.flatMap(({ load }) => load).reduce((total, minutes) => total + minutes, 0);
  expect(sum(await attempt({ likelihood: 50 }))).toBe(sum(await attempt()) / 2);
});

test.each([
  [{ start: '2026-11-20' }, 400],
  [{ templateId: '00000000-0000-4000-8000-000000000000' }, 404],
  [{ from: '2026-12-01', to: '2026-11-01' }, 400],
])('%j is refused', async (more, status) => {
  await lead.post('/workload/try', { templateId: harness.ids.template, start: TODAY, ...more }).expect(status);
});
