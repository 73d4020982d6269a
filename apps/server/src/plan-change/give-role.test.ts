import type { EngagementPlan, EngagementRoleLine, HistoryPage, PlanChanged, PlanEffect, PlanTask } from '@crew/contract';
import { startSmall, testWorld } from '../../test/harness.ts';

const { harness, lead } = testWorld();

let maker: string;
let id: string;
const person = (name: string): string => harness.ids.people[name] as string;

beforeEach(async () => {
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  maker = role?.id as string;
  id = await startSmall(lead, harness, { roles: [{ roleId: maker, personId: person('Mak') }] });
});

const plan = async (): Promise<EngagementPlan> => (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const taskOf = async (title: string): Promise<PlanTask> => (await plan()).tasks.find((task) => task.title === title) as PlanTask;
const whoHas = async (title: string): Promise<string[]> => (await taskOf(title)).assignees.map(({ name }) => name);
const assign = async (title: string, names: readonly string[]): Promise<void> => {
  const { id: task, version } = await taskOf(title);
  await lead.patch(`/tasks/${task}`, { version, assigneeIds: names.map(person) }).expect(200);
};
const makers = async (): Promise<EngagementRoleLine> =>
  ((await lead.get(`/engagements/${id}/roles`).expect(200)).body as EngagementRoleLine[]).find(
    (line) => line.role.id === maker,
  ) as EngagementRoleLine;
const give = (to: string | null, seen: string | null = person('Mak')) =>
  lead.post(`/engagements/${id}/roles`, { roleId: maker, personId: to, seen });

test('the open tasks of whoever had a role go along with it, those given to others on purpose stay', async () => {
  await assign('Cut', ['Mak']);
  await assign('Paint', ['Lena']);
  expect(await makers()).toMatchObject({ person: { name: 'Mak Reyes' }, tasks: 2 });
  await give(person('Dora')).expect(200);
  expect(await makers()).toMatchObject({ person: { name: 'Dora Quill' }, tasks: 2 });
  expect([await whoHas('Cut'), await whoHas('Paint')]).toEqual([['Dora Quill'], ['Lena Park']]);
});

test('what is done stays with who did it; somebody who is on a task already takes the other share on', async () => {
  await assign('Cut', ['Mak']);
  await assign('Paint', ['Mak', 'Dora']);
  const { id: cut, version } = await taskOf('Cut');
  await lead.patch(`/tasks/${cut}`, { version, status: 'done' }).expect(200);
  await give(person('Dora')).expect(200);
  expect([await whoHas('Cut'), await whoHas('Paint')]).toEqual([['Mak Reyes'], ['Dora Quill']]);
});

test('tasks of phases to come are given at pick-up to whoever has the role then', async () => {
  id = await startSmall(lead, harness, { roles: [{ roleId: maker, personId: null }] });
  await give(person('Dora'), null).expect(200);
  expect(await whoHas('Cut')).toEqual([]);
  const handoff = (await plan()).phases[0]?.handoffId as string;
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '', reason: 'Soon', receiverId: person('Dora') }).expect(200);
  await lead.post(`/handoffs/${handoff}/pick-up`, { version: 2 }).expect(200);
  expect(await whoHas('Cut')).toEqual(['Dora Quill']);
});

test('a preview says whom it loads, and changes nothing', async () => {
  await assign('Cut', ['Mak']);
  const effect = (
    await lead.post(`/engagements/${id}/roles/preview`, { roleId: maker, personId: person('Dora'), seen: person('Mak') }).expect(200)
  ).body as PlanEffect;
  expect(effect.moves).toEqual([]);
  expect([await whoHas('Cut'), (await makers()).person?.name]).toEqual([['Mak Reyes'], 'Mak Reyes']);
});

test('it is undone and redone as one, and stands in the history in words', async () => {
  await assign('Cut', ['Mak']);
  const { changeId } = (await give(null).expect(200)).body as PlanChanged;
  expect([await whoHas('Cut'), (await makers()).person]).toEqual([[], null]);
  const { lines } = (await lead.get(`/history?change=${changeId}`).expect(200)).body as HistoryPage;
  expect(lines.find(({ kind }) => kind === 'role-given')).toMatchObject({
    note: 'Maker',
    changes: [{ field: 'roleHolder', from: 'Mak Reyes', to: null }],
  });
  const undone = (await lead.post(`/changes/${changeId}/undo`).expect(200)).body as { changeId: string };
  expect([await whoHas('Cut'), (await makers()).person?.name]).toEqual([['Mak Reyes'], 'Mak Reyes']);
  await lead.post(`/changes/${undone.changeId}/undo`).expect(200);
  expect([await whoHas('Cut'), (await makers()).person]).toEqual([[], null]);
});

test('undoing it leaves the role with whoever was given it since, and says so', async () => {
  await assign('Cut', ['Mak']);
  const { changeId } = (await give(person('Dora')).expect(200)).body as PlanChanged;
  await lead.post(`/engagements/${id}/roles`, { roleId: maker, personId: null, seen: person('Dora') }).expect(200);
  await lead.post(`/engagements/${id}/roles`, { roleId: maker, personId: person('Mak'), seen: null }).expect(200);
  const refused = await lead.post(`/changes/${changeId}/undo`);
  expect((await makers()).person?.name).toBe('Mak Reyes');
  expect(JSON.stringify(refused.body)).toContain('Maker');
});

test.each([
  [
    'somebody who does not have the role',
    () => ({ personId: person('Lena'), seen: person('Mak') }),
    400,
    /“Lena Park” does not have the role “Maker”/,
  ],
  ['whoever has it already', () => ({ personId: person('Mak'), seen: person('Mak') }), 400, /have this role already/],
  ['a role that was given to somebody else meanwhile', () => ({ personId: person('Dora'), seen: null }), 409, /since you looked/],
])('%s is refused, and nothing is changed', async (_, input, status, words) => {
  const refused = await lead.post(`/engagements/${id}/roles`, { roleId: maker, ...input() }).expect(status);
  expect((refused.body as { message: string }).message).toMatch(words);
  expect((await makers()).person?.name).toBe('Mak Reyes');
});

test('two give the same role at once: the second is told', async () => {
  const answers = await Promise.all([give(person('Dora')), give(null)]);
  expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
});

test('members may not', async () => {
  const member = await harness.as('Mak');
  await member.post(`/engagements/${id}/roles`, { roleId: maker, personId: person('Dora'), seen: person('Mak') }).expect(403);
});
