import type {
  EaseProposalView,
  EaseView,
  EngagementPlan,
  PlansChanged,
  PlansTried,
  PlanTask,
  WhoShouldDoIt,
  Workload,
} from '@crew/contract';
import { startSmall, testWorld } from '../../test/harness.ts';

const { harness, lead } = testWorld();

interface Plan {
  readonly id: string;
  readonly tasks: Readonly<Record<string, PlanTask>>;
}

async function planOf(id: string): Promise<Plan> {
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  return { id, tasks: Object.fromEntries(tasks.map((task) => [task.title, task])) };
}
const idOf = (name: string): string => harness.ids.people[name] as string;
/** All of the drawing is Dora's, so that with two engagements she is over. */
async function startForDora(name: string): Promise<Plan> {
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Drawer'`);
  return planOf(await startSmall(lead, harness, { name, roles: [{ roleId: role?.id, personId: idOf('Dora') }] }));
}
const ease = async (person: string): Promise<EaseView> =>
  (await lead.get(`/workload/ease?person=${idOf(person)}`).expect(200)).body as EaseView;
const partOf = (proposal: EaseProposalView | undefined) => ({ engagementId: proposal?.engagement.id, tasks: [proposal?.change] });
const preview = async (parts: readonly object[]): Promise<PlansTried> =>
  (await lead.post('/workload/changes/preview', { parts }).expect(200)).body as PlansTried;
const take = async (parts: readonly object[]): Promise<PlansChanged> =>
  (await lead.post('/workload/changes', { parts }).expect(201)).body as PlansChanged;
const find = (view: EaseView, kind: string, task: string) =>
  view.proposals.find(({ step, task: { title } }) => step.kind === kind && title === task);

let plans: readonly Plan[];
beforeEach(async () => {
  await harness.database.rows('DELETE FROM engagement');
  plans = [await startForDora('Pier signs'), await startForDora('Mill signs')];
});

test('somebody over gets proposals, ranked, each with who has the room and what it relieves', async () => {
  const view = await ease('Dora');
  expect(view.over).toBeGreaterThan(0);
  const give = find(view, 'give', 'Ink');
  expect(give).toMatchObject({ step: { person: { name: 'Fred Loan' }, role: 'Drawer', knows: false }, deadlinesMoved: 0 });
  expect(give?.effects[0]).toMatchObject({ person: { name: 'Dora Quill' } });
  expect(give?.effects[0]?.after.over).toBeLessThan(give?.effects[0]?.before.over as number);
  const ranks = view.proposals.map(({ deadlinesMoved }) => deadlinesMoved);
  expect(ranks).toEqual([...ranks].sort());
});

test('somebody with room gets none, and somebody unknown is said', async () => {
  expect((await ease('Mak')).proposals).toEqual([]);
  await lead.get(`/workload/ease?person=${plans[0]?.id}`).expect(404);
  expect((await lead.get('/workload/ease?person=dora').expect(400)).body).toMatchObject({ code: 'invalid-input' });
});

test('nobody away is proposed, and the one who knows the client comes with the reason', async () => {
  const [first] = plans;
  await harness.database.rows(
    `INSERT INTO time_entry (id, person_id, engagement_id, task_id, day, minutes) VALUES (gen_random_uuid(), $1, $2, $3, '2026-11-23', 30)`,
    [idOf('Fred'), first?.id, first?.tasks['Sketch']?.id],
  );
  expect(find(await ease('Dora'), 'give', 'Ink')?.step).toMatchObject({ knows: true });
  await harness.database.rows(
    `INSERT INTO time_off (id, person_id, from_day, to_day) VALUES (gen_random_uuid(), $1, '2026-11-01', '2027-02-01')`,
    [idOf('Fred')],
  );
  expect((await ease('Dora')).proposals.some(({ step }) => step.kind === 'give' || step.kind === 'split')).toBe(false);
  await harness.database.rows('DELETE FROM time_off');
});

test('two proposals of two engagements are looked at and taken as one, and one undo takes both back', async () => {
  const view = await ease('Dora');
  const chosen = plans.map((plan) => view.proposals.find(({ step, engagement }) => step.kind === 'give' && engagement.id === plan.id));
  const parts = chosen.map(partOf);
  const tried = await preview(parts);
  expect((await planOf(plans[0]?.id as string)).tasks).toEqual(plans[0]?.tasks);
  const taken = await take(parts);
  expect({ effects: taken.effects, people: taken.people }).toEqual(tried);
  expect(taken.effects.map(({ engagement }) => engagement.name).sort()).toEqual(['Mill signs', 'Pier signs']);
  const dora = taken.people.find(({ person }) => person.name === 'Dora Quill');
  expect(dora?.after.over).toBeLessThan(dora?.before.over as number);
  expect(dora?.load).toHaveLength(21);
  await lead.post(`/changes/${taken.changeId}/undo`).expect(200);
  const back = await Promise.all(plans.map((plan) => planOf(plan.id)));
  const people = (plan: Plan | undefined) => Object.values(plan?.tasks ?? {}).map((task) => task.assignees.map(({ id }) => id));
  expect(back.map(people)).toEqual(plans.map(people));
  await lead.post(`/changes/${taken.changeId}/undo`).expect(409);
});

test('what one of two cannot take is taken of neither', async () => {
  const [first, second] = plans as [Plan, Plan];
  const stale = { engagementId: second.id, tasks: [{ id: second.tasks['Ink']?.id, version: 99, days: 4 }] };
  const fine = { engagementId: first.id, tasks: [{ id: first.tasks['Ink']?.id, version: first.tasks['Ink']?.version, days: 4 }] };
  await lead.post('/workload/changes', { parts: [fine, stale] }).expect(409);
  expect((await planOf(first.id)).tasks['Ink']?.days).toBe(3);
  expect((await lead.post('/workload/changes', { parts: [fine, fine] }).expect(400)).body).toMatchObject({ field: 'parts' });
});

test('a split gives each their share, and the load follows', async () => {
  const { tasks, id } = plans[0] as Plan;
  const ink = tasks['Ink'] as PlanTask;
  const change = { id: ink.id, version: ink.version, assigneeIds: [idOf('Dora'), idOf('Fred')], shares: [3, 1] };
  const { people } = await take([{ engagementId: id, tasks: [change] }]);
  const fred = people.find(({ person }) => person.name === 'Fred Loan');
  expect(fred?.load.reduce((sum, minutes) => sum + minutes, 0)).toBe(240);
  const wrong = { ...change, version: ink.version + 1, shares: [3] };
  expect((await lead.post('/workload/changes', { parts: [{ engagementId: id, tasks: [wrong] }] }).expect(400)).body).toMatchObject({
    field: 'shares',
  });
});

test('who should do it: holders of the role, most room first, with the reason; who is away is named apart', async () => {
  const { tasks } = plans[0] as Plan;
  const ask = async (): Promise<WhoShouldDoIt> => (await lead.get(`/tasks/${tasks['Ink']?.id}/who`).expect(200)).body as WhoShouldDoIt;
  const view = await ask();
  expect(view.role).toBe('Drawer');
  expect(view.people.map(({ person, isAssigned }) => [person.name, isAssigned])).toEqual([
    ['Fred Loan', false],
    ['Dora Quill', true],
  ]);
  expect(view.people[0]).toMatchObject({ neededMinutes: 960, awayMinutes: 0, knows: null, isFull: false });
  await harness.database.rows(`INSERT INTO time_off (id, person_id, from_day, to_day) VALUES (gen_random_uuid(), $1, $2, $3)`, [
    idOf('Fred'),
    tasks['Ink']?.start,
    tasks['Ink']?.due,
  ]);
  expect((await ask()).away.map(({ name }) => name)).toEqual(['Fred Loan']);
  await harness.database.rows('DELETE FROM time_off');
  const maker = await harness.as('Mak');
  await maker.get(`/tasks/${tasks['Ink']?.id}/who`).expect(200);
  await (await harness.as('Fred')).get(`/tasks/${tasks['Ink']?.id}/who`).expect(403);
});

test('the grid is sent in columns, says what nobody estimated by name, and what is under way', async () => {
  const { id, tasks } = plans[0] as Plan;
  const ink = tasks['Ink'] as PlanTask;
  await lead.patch(`/tasks/${ink.id}`, { version: ink.version, estimateMinutes: null }).expect(200);
  const workload = (await lead.get('/workload?from=2026-11-23&to=2027-05-23').expect(200)).body as Workload;
  expect(workload.dates).toHaveLength(182);
  for (const row of workload.rows) expect([row.capacity.length, row.load.length]).toEqual([182, 182]);
  expect(workload.unestimated.map((task) => [task.title, task.engagement.id, task.minutes])).toContainEqual([
    'Ink',
    id,
    workload.defaultMinutes,
  ]);
  const dora = workload.rows.find((row) => row.person.name === 'Dora Quill');
  expect(dora?.off).toEqual([]);
  expect(dora?.tasks.find((task) => task.title === 'Sketch')).toMatchObject({ isBegun: false, hasEstimate: true, days: 2, fixedDay: null });
});
