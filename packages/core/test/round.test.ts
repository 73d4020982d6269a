import fc from 'fast-check';
import { estimateOfNextRound, tasksOfRound, type RoundTask } from '../src/index.ts';

const task = (id: string, after: readonly string[] = [], parentId: string | null = null): RoundTask => ({ id, after, parentId });

describe('the tasks of a round', () => {
  const review = [
    task('brief'),
    task('draw', ['brief']),
    task('walls', [], 'draw'),
    task('labels', ['draw']),
    task('client looks', ['labels']),
    task('note', ['draw']),
    task('print', ['client looks']),
  ];

  test('are both ends, what lies between them, and their parts', () => {
    expect(tasksOfRound(review, { fromId: 'client looks', toId: 'draw' })).toEqual(['draw', 'walls', 'labels', 'client looks']);
  });

  test('are just the two where nothing leads from one to the other', () => {
    expect(tasksOfRound(review, { fromId: 'print', toId: 'note' })).toEqual(['note', 'print']);
  });

  test('of a loop to itself are that task and its parts', () => {
    expect(tasksOfRound(review, { fromId: 'draw', toId: 'draw' })).toEqual(['draw', 'walls']);
  });

  test('lie behind the one and before the other, whatever the network', () => {
    const edges = fc.array(fc.tuple(fc.nat(9), fc.nat(9)), { minLength: 15, maxLength: 25 });
    let between = 0;
    fc.assert(
      fc.property(edges, fc.nat(9), fc.nat(9), (pairs, one, other) => {
        const tasks = Array.from({ length: 10 }, (_, id) =>
          task(
            `t${id}`,
            pairs.filter(([a, b]) => b === id && a < id).map(([a]) => `t${a}`),
          ),
        );
        const [first, last] = [Math.min(one, other), Math.max(one, other)];
        const found = tasksOfRound(tasks, { fromId: `t${last}`, toId: `t${first}` });
        // The plain version: every road from the one to the other, walked one after the other.
        const roads = (id: number): Set<string>[] =>
          id === last
            ? [new Set([`t${id}`])]
            : tasks.flatMap(({ after }, next) => (after.includes(`t${id}`) ? roads(next).map((road) => new Set([`t${id}`, ...road])) : []));
        const expected = new Set([`t${first}`, `t${last}`, ...roads(first).flatMap((road) => [...road])]);
        expect(new Set(found)).toEqual(expected);
        if (found.length > 2) between++;
      }),
      { numRuns: 600 },
    );
    expect(between).toBeGreaterThan(20);
  });
});

test.each([
  [480, 300, 1, 960],
  [480, 600, 1, 1080],
  [960, 900, 2, 1440],
  [null, 90, 1, null],
  [0, 0, 1, 0],
])('%p min estimated, %p logged, after round %p: %p', (estimate, logged, round, expected) => {
  expect(estimateOfNextRound({ estimate, logged }, round)).toBe(expected);
});
