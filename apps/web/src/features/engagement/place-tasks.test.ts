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

const propose = jest.fn();
beforeEach(() => propose.mockReset());

test('a task put down twice in quick succession goes down two places, from what the first step has left', async () => {
  const network = scriptNetwork();
  network.answer('POST /engagements/twice/changes', 201, { changeId: 'c', effect: stillEffect });
  network.answer('GET /engagements/twice/plan', 200, shown('twice', ['b', 'a', 'c', 'd'], 2));
  const now = shown('twice', ['a', 'b', 'c', 'd'], 1);
  await Promise.all([placeTasks(now, aDown, propose), placeTasks(now, aDown, propose)]);
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
  await Promise.all([placeTasks(now, aDown, propose), placeTasks(now, aDown, propose), placeTasks(now, () => null, propose)]);
  expect(network.asked.map(({ method }) => method)).toEqual(['POST', 'GET', 'GET']);
  await placeTasks(now, aDown, propose);
  expect(network.asked.at(-1)).toMatchObject({ method: 'POST', body: { tasks: [{ version: 1, beforeId: null }] } });
});

describe('under another task', () => {
  const under: Placing = ({ tasks }) => {
    const task = tasks.find(({ id }) => id === 'a');
    return task === undefined ? null : [{ id: 'a', version: task.version, parentId: 'b' }];
  };

  test('what moves others is proposed and not saved', async () => {
    const network = scriptNetwork();
    const move = {
      id: 'b',
      number: 2,
      title: 'b',
      from: { start: '2026-11-24', due: '2026-11-24' },
      to: { start: '2026-11-25', due: '2026-11-26' },
    } as const;
    network.answer('POST /engagements/into/changes/preview', 200, { ...stillEffect, moves: [move] });
    await placeTasks(shown('into', ['a', 'b'], 1), under, propose);
    expect(propose).toHaveBeenCalledWith({
      title: 'If “a” moves there',
      note: 'Moved in the outline.',
      tasks: [{ id: 'a', version: 1, parentId: 'b' }],
    });
    expect(network.asked.map(({ path }) => path)).toEqual(['/engagements/into/changes/preview']);
  });

  test('what moves nothing is saved at once', async () => {
    const network = scriptNetwork();
    network.answer('POST /engagements/calm/changes/preview', 200, stillEffect);
    network.answer('POST /engagements/calm/changes', 201, { changeId: 'c', effect: stillEffect });
    await placeTasks(shown('calm', ['a', 'b'], 1), under, propose);
    expect(propose).not.toHaveBeenCalled();
    expect(network.asked.some(({ path }) => path === '/engagements/calm/changes')).toBe(true);
  });
});
