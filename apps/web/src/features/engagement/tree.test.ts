import type { PlanTask, TaskChange } from '@crew/contract';
import { plan, planTask } from '../../../test/samples.ts';
import { dropTasks, moveAmong, moveIn, moveOut } from './tree.ts';

const task = (id: string, more: Partial<PlanTask> = {}): PlanTask => ({ ...planTask, id, title: id, phaseId: 'p1', ...more });
/** a, b with parts b1 and b2, c in the first phase; z in the next. */
const tasks = [
  task('a'),
  task('b', { isGroup: true }),
  task('b1', { parentId: 'b' }),
  task('b2', { parentId: 'b' }),
  task('c'),
  task('z', { phaseId: 'p2' }),
];
const find = (id: string): PlanTask => tasks.find((candidate) => candidate.id === id) as PlanTask;
const place = (change: TaskChange | null) => (change === null ? null : { parentId: change.parentId, beforeId: change.beforeId });

describe('by keys', () => {
  test.each<[string, string, -1 | 1, object | null]>([
    ['up', 'c', -1, { parentId: null, beforeId: 'b' }],
    ['down', 'a', 1, { parentId: null, beforeId: 'c' }],
    ['down to the end', 'b', 1, { parentId: null, beforeId: null }],
    ['not beyond the first', 'a', -1, null],
    ['not into the next phase', 'c', 1, null],
    ['parts among themselves', 'b2', -1, { parentId: 'b', beforeId: 'b1' }],
  ])('%s', (_rule, id, by, expected) => {
    expect(place(moveAmong(find(id), tasks, by))).toEqual(expected);
  });

  test('into the one above, and out to stand behind it', () => {
    expect(place(moveIn(find('c'), tasks))).toEqual({ parentId: 'b', beforeId: null });
    expect(moveIn(find('a'), tasks)).toBeNull();
    expect(place(moveOut(find('b1'), tasks))).toEqual({ parentId: null, beforeId: 'c' });
    expect(moveOut(find('a'), tasks)).toBeNull();
  });
});

describe('let go', () => {
  const drop = (ids: string[], key: string, where: 'on' | 'before' | 'after') =>
    dropTasks(ids, { key, place: where }, { phases: plan.phases, tasks })?.map(({ id, version: _, ...rest }) => ({ id, ...rest })) ?? null;

  test('on a task it becomes a part of it, on a phase it goes to its end', () => {
    expect(drop(['a'], 'c', 'on')).toEqual([{ id: 'a', parentId: 'c', beforeId: null }]);
    expect(drop(['b1'], 'p2', 'on')).toEqual([{ id: 'b1', phaseId: 'p2', parentId: null, beforeId: null }]);
  });

  test('before or behind another it stands there, in that one’s phase', () => {
    expect(drop(['z'], 'b2', 'before')).toEqual([{ id: 'z', parentId: 'b', phaseId: 'p1', beforeId: 'b2' }]);
    expect(drop(['a'], 'b', 'after')).toEqual([{ id: 'a', parentId: null, phaseId: 'p1', beforeId: 'c' }]);
  });

  test('several keep their order; parts go with what they are parts of', () => {
    expect(drop(['c', 'b', 'b1'], 'z', 'before')?.map(({ id }) => id)).toEqual(['b', 'c']);
  });

  test.each([
    ['itself', ['b'], 'b'],
    ['a part of itself', ['b'], 'b1'],
    ['nothing that is there', ['b'], 'gone'],
  ])('not on %s', (_what, ids, key) => {
    expect(drop(ids, key, 'on')).toBeNull();
  });
});
