import fc from 'fast-check';
import { changeSums, percentOfSums, progress, sumProgress, TASK_STATUS, type ProgressTask } from '../src/index.ts';

const percentOf = (tasks: readonly ProgressTask[]): number => {
  const result = progress({ tasks });
  if (!result.ok) throw new Error(result.problem.kind);
  return result.value.percent;
};

test('the written example is 46 percent', () => {
  expect(
    percentOf([
      { state: 'done', estimate: 480 },
      { state: 'active', estimate: 600, steps: [3, 5] },
      { state: 'queued', estimate: 240 },
      { state: 'queued' },
      { state: 'dropped', estimate: 9000 },
    ]),
  ).toBe(46);
});

test('thirds are exact: three tasks with one of three steps each are 33, done 100', () => {
  const third = { state: 'active', estimate: 100, steps: [1, 3] } as const;
  expect(percentOf([third, third, third])).toBe(33);
  expect(percentOf([{ ...third, steps: [3, 3] }])).toBe(100);
});

test.each<[string, ProgressTask[], number]>([
  ['nothing', [], 0],
  ['only dropped work', [{ state: 'dropped', estimate: 60 }], 0],
  ['a milestone of no effort that is done', [{ state: 'done', estimate: 0 }], 100],
  ['one done, one not, none estimated', [{ state: 'done' }, { state: 'queued' }], 50],
])('%s', (_name, tasks, percent) => {
  expect(percentOf(tasks)).toBe(percent);
});

const task: fc.Arbitrary<ProgressTask> = fc
  .record({
    state: fc.constantFrom(...TASK_STATUS),
    estimate: fc.option(fc.nat(2000), { nil: undefined }),
    all: fc.nat(7),
    done: fc.nat(7),
  })
  .map(({ state, estimate, all, done }) => ({
    state,
    ...(estimate === undefined ? {} : { estimate }),
    steps: [Math.min(done, all), all] as const,
  }));

test('the percent stays between 0 and 100 and finishing a task never lowers it', () => {
  fc.assert(
    fc.property(fc.array(task, { minLength: 1 }), fc.nat(), (tasks, choice) => {
      const before = percentOf(tasks);
      const at = choice % tasks.length;
      if (tasks[at]?.state === 'dropped') return;
      const after = percentOf(tasks.map((other, index) => (index === at ? { ...other, state: 'done' as const } : other)));
      expect(before).toBeGreaterThanOrEqual(0);
      expect(after).toBeLessThanOrEqual(100);
      expect(after).toBeGreaterThanOrEqual(before);
    }),
  );
});

test('a change added to the sums gives the percent of summing anew, or says that it cannot', () => {
  const seen = { added: 0, anew: 0 };
  fc.assert(
    fc.property(
      fc.array(task, { minLength: 1, maxLength: 8 }),
      fc.array(fc.tuple(fc.nat(), task), { minLength: 1, maxLength: 6 }),
      (start, changes) => {
        let tasks = start;
        let sums = sumProgress(tasks);
        for (const [choice, change] of changes) {
          const at = choice % tasks.length;
          const added = changeSums(sums, tasks[at] as ProgressTask, change);
          tasks = tasks.map((other, index) => (index === at ? change : other));
          seen[added === null ? 'anew' : 'added']++;
          sums = added ?? sumProgress(tasks);
          expect(percentOfSums(sums)).toBe(percentOf(tasks));
        }
      },
    ),
  );
  expect(Math.min(seen.added, seen.anew)).toBeGreaterThan(20);
});

test('a status alone is added without the other tasks while all of them are estimated', () => {
  const tasks: ProgressTask[] = [
    { state: 'queued', estimate: 100, steps: [1, 3] },
    { state: 'done', estimate: 50 },
  ];
  for (const state of TASK_STATUS) {
    const sums = changeSums(sumProgress(tasks), tasks[0] as ProgressTask, { ...(tasks[0] as ProgressTask), state });
    expect(sums === null ? null : percentOfSums(sums)).toBe(
      percentOf([{ ...(tasks[0] as ProgressTask), state }, tasks[1] as ProgressTask]),
    );
  }
});

test('more steps done than there are is refused', () => {
  expect(progress({ tasks: [{ state: 'active', steps: [3, 2] }] })).toMatchObject({ problem: { at: 'tasks[0].steps' } });
});
