import fc from 'fast-check';
import { groupTasks, leavesUnder, linesOf, partsOf, taskListOf, topsChosen, topsOf, type ListedTask } from './task-list.ts';

const task = (id: string, parentId: string | null = null): ListedTask => ({ id, parentId });
/** a; b with b1 and b2, which has b21; c. */
const list = taskListOf([task('a'), task('b'), task('b1', 'b'), task('b2', 'b'), task('b21', 'b2'), task('c')]);
const ids = (tasks: readonly ListedTask[]): string => tasks.map(({ id }) => id).join(' ');
const some = (...names: string[]): ListedTask[] => names.map((id) => list.byId.get(id) as ListedTask);

test('lines stand in the order of the list, parts behind what they are parts of', () => {
  const lines = (folded: string[] = []) => linesOf(list, topsOf(list), new Set(folded)).map((line) => `${line.depth}${line.task.id}`);
  expect(lines()).toEqual(['0a', '0b', '1b1', '1b2', '2b21', '0c']);
  expect(lines(['b2'])).toEqual(['0a', '0b', '1b1', '1b2', '0c']);
  expect(ids(partsOf(list, 'b'))).toBe('b1 b2');
});

test('one whose parent is not in the list stands at the top', () => {
  expect(ids(topsOf(taskListOf([task('b1', 'b'), task('b11', 'b1')])))).toBe('b1');
});

test('what is counted of chosen tasks is counted once, whatever is chosen with it', () => {
  expect(ids(leavesUnder(list, some('b', 'b21', 'b1')))).toBe('b1 b21');
  expect(ids(topsChosen(list, some('b21', 'b', 'c')))).toBe('b c');
});

test('every task has one line, and every leaf below the tops is found', () => {
  const tasks = fc
    .array(fc.nat(20), { maxLength: 20 })
    .map((parents) => parents.map((parent, index) => task(`t${index}`, parent < index ? `t${parent}` : null)));
  fc.assert(
    fc.property(tasks, (all) => {
      const random = taskListOf(all);
      expect(
        linesOf(random, topsOf(random))
          .map((line) => line.task.id)
          .sort(),
      ).toEqual(all.map(({ id }) => id).sort());
      const leaves = all.filter(({ id }) => !all.some(({ parentId }) => parentId === id));
      expect(
        leavesUnder(random, topsOf(random))
          .map(({ id }) => id)
          .sort(),
      ).toEqual(leaves.map(({ id }) => id).sort());
    }),
  );
});

test('groups stand in the order of their headings; the rest comes last, or nowhere', () => {
  const headings = [
    { id: 'x', name: 'X' },
    { id: 'y', name: 'Y' },
  ];
  const keyOf = ({ id }: ListedTask): string | null => (id === 'a' ? 'y' : id === 'c' ? 'gone' : null);
  const shown = (other?: string) =>
    groupTasks(list.tasks, headings, { keyOf, ...(other === undefined ? {} : { other }) }).map(
      (group) => `${group.name}: ${ids(group.tasks)}`,
    );
  expect(shown()).toEqual(['X: ', 'Y: a']);
  expect(shown('Other')).toEqual(['X: ', 'Y: a', 'Other: b b1 b2 b21 c']);
});
