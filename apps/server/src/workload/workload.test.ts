import type { DryRun, EngagementPlan, PlanTask, Workload } from '@crew/contract';
import { startSmall, testWorld } from '../../test/harness.ts';

const { harness, lead } = testWorld();

const read = async (query = ''): Promise<Workload> => (await lead.get(`/workload${query}`).expect(200)).body as Workload;

test('planned minutes are those of the tasks, none lost, none on the closed Friday', async () => {
  const id = await startSmall(lead, harness);
  const plan = (await lead.get(`/engagements/${id}/plan`)).body as { engagement: { effortMinutes: number } };
  const workload = await read('?from=2026-11-23&to=2027-01-31');
  const total = workload.rows.flatMap((row) => row.load).reduce((sum, minutes) => sum + minutes, 0);
  expect(total).toBe(plan.engagement.effortMinutes);
  const friday = workload.dates.findIndex((day) => day.date === '2026-11-27');
  expect(new Set(workload.rows.map((row) => row.load[friday]))).toEqual(new Set([0]));
  expect(workload.dates[friday]?.isClosed).toBe(true);
});

test('work that nobody has is listed and not put on anybody', async () => {
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  await startSmall(lead, harness, { name: 'Unmanned', roles: [{ roleId: role?.id, personId: null }] });
  const workload = await read();
  expect(workload.unassigned.filter((task) => task.engagement.name === 'Unmanned').map((task) => task.title)).toEqual(['Cut', 'Paint']);
});

test('the dry run says whom a large piece of work would overload, and suggests those with room first', async () => {
  const started: string[] = [];
  for (let times = 0; times < 3; times++) started.push(await startSmall(lead, harness, { name: `Full ${times}` }));
  // Who was given work knows the client once it has begun.
  const { tasks } = (await lead.get(`/engagements/${started[0]}/plan`).expect(200)).body as EngagementPlan;
  const [sketch] = tasks as [PlanTask];
  await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, status: 'active' }).expect(200);
  const run = (
    await lead
      .post('/engagements/preview', { templateId: harness.ids.template, start: '2026-11-23', clientId: harness.ids.client })
      .expect(201)
  ).body as DryRun;
  const drawer = run.roles.find((role) => role.role === 'Drawer');
  const free = drawer?.suggestions.map((suggestion) => suggestion.freeMinutes) ?? [];
  expect(free.length).toBe(2);
  expect(drawer?.suggestions.map(({ person, pastEngagements }) => [person.id, pastEngagements]).sort()).toEqual(
    drawer?.suggestions.map(({ person }) => [person.id, person.id === sketch.assignees[0]?.id ? 1 : 0]).sort(),
  );
  expect(run.overloads.length).toBeGreaterThan(0);
  expect(run.overloads[0]?.minutes).toBeGreaterThan(0);
});

test.each([
  ['?from=soon', 'from'],
  ['?from=2026-12-01&to=2026-11-01', 'to'],
  ['?from=2026-01-01&to=2027-01-01', 'to'],
])('%s is refused at its field', async (query, field) => {
  expect((await lead.get(`/workload${query}`).expect(400)).body).toMatchObject({ field });
});

test('only a lead opens somebody else’s desk', async () => {
  const maker = await harness.as('Mak');
  await maker.get(`/desk?person=${harness.ids.people['Dora']}`).expect(403);
  await lead.get(`/desk?person=${harness.ids.people['Dora']}`).expect(200);
  await lead.get('/desk?person=dora').expect(400);
});
