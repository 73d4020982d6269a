import { plan, planTask } from '../../../test/samples.ts';
import { topsOf } from '../task-list/task-list.ts';
import { headingsOf } from './outline-headings.ts';

test('by deliverable, subtasks stand with what they are a part of, whatever they are for themselves', () => {
  const of = (id: string, deliverableId: string | null, parentId: string | null = null) => ({
    ...{ ...planTask, id, title: id, phaseId: 'p1', deliverableId, parentId },
  });
  const headings = headingsOf(
    {
      ...plan,
      deliverables: [
        { id: 'd1', name: 'Panels' },
        { id: 'd2', name: 'Posts' },
      ],
      tasks: [of('a', 'd1'), of('a1', 'd2', 'a'), of('a2', null, 'a1'), of('b', 'd2'), of('c', null)],
    },
    'deliverable',
  );
  expect(headings.map(({ name, tasks, list }) => [name, tasks.map(({ id }) => id), topsOf(list).map(({ id }) => id)])).toEqual([
    ['Panels', ['a', 'a1', 'a2'], ['a']],
    ['Posts', ['b'], ['b']],
    ['No deliverable', ['c'], ['c']],
  ]);
});
