import { COMMANDS, type CommandName, type EngagementPlan, type PlanTask, type TaskEdited } from '@crew/contract';
import { startSmall, testWorld } from '../../test/harness.ts';
import { areas } from '../areas.ts';
import { RunCommand } from './run-command.ts';

const { harness, lead } = testWorld();
const NAMES = Object.keys(COMMANDS) as CommandName[];

const firstTask = async (): Promise<PlanTask> => {
  const id = await startSmall(lead, harness);
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  return tasks[0] as PlanTask;
};

test('every command is carried out by one area', () => {
  const done = areas.flatMap((area) => (area.commands ?? []).map(({ name }) => name));
  expect([...done].sort()).toEqual([...NAMES].sort());
});

test('a command does what its route does', async () => {
  const task = await firstTask();
  const commands = harness.app.get(RunCommand);
  const input = { version: task.version, title: 'Drawn anew', days: 4 };
  const edited = (await commands.run(await harness.whoIs('Lena'), { name: 'task.edit', target: task.id, input })) as TaskEdited;
  expect(edited.task).toMatchObject({ title: 'Drawn anew', days: 4 });
  expect(edited.changeId).not.toBeNull();
});

test.each<[string, object]>([
  ['a value its rules refuse', { version: 1, days: -3 }],
  ['a field it does not have', { version: 1, colour: 'red' }],
  ['nothing it needs', {}],
])('%s is refused as by its route, and nothing is written', async (_what, input) => {
  const task = await firstTask();
  const who = await harness.whoIs('Lena');
  const run = harness.app.get(RunCommand).run(who, { name: 'task.edit', target: task.id, input: input as { version: number } });
  await expect(run).rejects.toMatchObject({ code: 'invalid-input' });
  expect((await lead.get(`/tasks/${task.id}`).expect(200)).body).toMatchObject({ version: task.version });
});

test('who may not call its route may not give the command', async () => {
  const task = await firstTask();
  const commands = harness.app.get(RunCommand);
  const hal = await harness.whoIs('Hal');
  for (const name of NAMES)
    await expect(commands.run(hal, { name, target: task.id, input: {} as never })).rejects.toMatchObject({ code: 'not-allowed' });
});
