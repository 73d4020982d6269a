import type { EngagementPlan } from '@crew/contract';
import { plan, planTask, stillEffect } from '../../../test/samples.ts';
import { scriptNetwork } from '../../../test/network.ts';
import { placeTasks, type Placing } from './place-tasks.ts';
import { moveAmong } from './tree.ts';

const shown = (id: string, order: readonly string[], version: number): EngagementPlan => ({
  ...plan,
  engagement: { ...plan.engagement, id },
  tasks: order.map((name) => ({ ...planTask, id: name, title: name, parentId: null, version: name === 'a' ? version : 1 })),
});
const aDown: Placing = ({ tasks }) => {
  const task = tasks.find(({ id }) => id === 'a');
  const change = task === undefined ? null : moveAmong(task, tasks, 1);
  return change === null ? null : [change];
};

test('a task put down twice in quick succession goes down two places, from what the first step has left', async () => {
  const network = scriptNetwork();
  network.answer('POST /engagements/twice/changes', 201, { changeId: 'c', effect: stillEffect });
  network.answer('GET /engagements/twice/plan', 200, shown('twice', ['b', 'a', 'c', 'd'], 2));
  const now = shown('twice', ['a', 'b', 'c', 'd'], 1);
  await Promise.all([placeTasks(now, aDown), placeTasks(now, aDown)]);
  expect(network.asked.filter(({ method }) => method === 'POST').map(({ body }) => body)).toEqual([
    { tasks: [{ id: 'a', version: 1, parentId: null, beforeId: 'c' }] },
    { tasks: [{ id: 'a', version: 2, parentId: null, beforeId: 'd' }] },
  ]);
});

test('a step that is refused holds up nothing, and one that goes nowhere asks nothing', async () => {
  const network = scriptNetwork();
  network.answer('POST /engagements/held/changes', 409, { code: 'changed-meanwhile', message: 'Somebody was faster.' });
  network.answer('GET /engagements/held/plan', 200, shown('held', ['b', 'a'], 2));
  const now = shown('held', ['a', 'b'], 1);
  await Promise.all([placeTasks(now, aDown), placeTasks(now, aDown), placeTasks(now, () => null)]);
  expect(network.asked.map(({ method }) => method)).toEqual(['POST', 'GET', 'GET']);
  await placeTasks(now, aDown);
  expect(network.asked.at(-1)).toMatchObject({ method: 'POST', body: { tasks: [{ version: 1, beforeId: null }] } });
});
