import fc from 'fast-check';
import { TASK_STATUS } from '@crew/contract';
import { isOpen, percentOf, summarise, type SummaryTask } from './summarise.ts';

const TODAY = '2026-11-23';
const task = (more: Partial<SummaryTask>): SummaryTask => ({
  ...{ id: 'a', title: 'Sketch', phaseId: 'p', isGroup: false, isBegun: true, status: 'queued', dueDay: TODAY, estimateMinutes: 60 },
  ...{ loggedMinutes: 0, stepsDone: 0, stepsAll: 0, waitingOn: null, waitingSince: null },
  ...more,
});

test('overdue is open work of a begun phase that was due before today', () => {
  const late = { dueDay: '2026-11-22' } as const;
  const tasks = [
    task(late),
    task({ ...late, isBegun: false }),
    task({ ...late, status: 'done' }),
    task({ ...late, status: 'dropped' }),
    task({}),
  ];
  expect(summarise(tasks, TODAY).overdueTasks).toBe(1);
});

test('what waits longest on the client is named, not what waits on a supplier', () => {
  const tasks = [
    task({ title: 'Proof', status: 'waiting', waitingOn: 'client', waitingSince: '2026-11-12' }),
    task({ title: 'Facts', status: 'waiting', waitingOn: 'client', waitingSince: '2026-11-10' }),
    task({ title: 'Glass', status: 'waiting', waitingOn: 'supplier', waitingSince: '2026-11-01' }),
  ];
  expect(summarise(tasks, TODAY)).toMatchObject({ waitingTitle: 'Facts', waitingSince: '2026-11-10' });
});

test('of two that wait since the same day the first by title is named, in whatever order they are read', () => {
  const waiting = (title: string) => task({ title, status: 'waiting', waitingOn: 'client', waitingSince: '2026-11-10' });
  const tasks = [waiting('Proof'), waiting('Facts')];
  for (const order of [tasks, [...tasks].reverse()]) expect(summarise(order, TODAY).waitingTitle).toBe('Facts');
});

test('dropped work has no effort and no due day, and what was logged on it stays logged', () => {
  const tasks = [task({ status: 'dropped', dueDay: '2026-11-01', loggedMinutes: 30 }), task({ dueDay: '2026-12-01' })];
  expect(summarise(tasks, TODAY)).toMatchObject({ effortMinutes: 60, loggedMinutes: 30, nextDue: '2026-12-01', openTasks: 1 });
});

test('an engagement without a task stands at nothing', () => {
  expect(summarise([], TODAY)).toEqual({
    ...{ percent: 0, openTasks: 0, overdueTasks: 0, effortMinutes: 0, loggedMinutes: 0 },
    ...{ nextDue: null, waitingTitle: null, waitingSince: null },
  });
});

const anyTask = fc
  .record({
    status: fc.constantFrom(...TASK_STATUS),
    dueDay: fc.constantFrom('2026-11-20', TODAY, '2026-12-04'),
    estimateMinutes: fc.option(fc.integer({ min: 0, max: 900 })),
    isBegun: fc.boolean(),
    title: fc.constantFrom('Sketch', 'Proof', 'Facts'),
    waitingSince: fc.constantFrom('2026-11-10', '2026-11-12'),
    stepsAll: fc.integer({ min: 0, max: 4 }),
    share: fc.integer({ min: 0, max: 4 }),
  })
  .map(({ share, waitingSince, ...more }) => {
    const waits = more.status === 'waiting' ? { waitingOn: 'client', waitingSince } : {};
    return task({ ...more, ...waits, stepsDone: Math.min(share, more.stepsAll) });
  });

test('the order of tasks changes no figure', () => {
  fc.assert(
    fc.property(fc.array(anyTask, { maxLength: 15 }), (tasks) => {
      expect(summarise([...tasks].reverse(), TODAY)).toEqual(summarise(tasks, TODAY));
    }),
  );
});

test('finishing a task never lowers the percent, and finishing all of them makes it 100', () => {
  fc.assert(
    fc.property(fc.array(anyTask, { minLength: 1, maxLength: 12 }), fc.nat(), (tasks, pick) => {
      const at = pick % tasks.length;
      const done = tasks.map((other, index) => (index === at && isOpen(other) ? { ...other, status: 'done' as const } : other));
      expect(percentOf(done)).toBeGreaterThanOrEqual(percentOf(tasks));
      const all = tasks.map((other) => ({ ...other, status: 'done' as const }));
      expect(percentOf(all)).toBe(100);
    }),
  );
});
