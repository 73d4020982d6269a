import fc from 'fast-check';
import { TASK_STATUS } from '@crew/contract';
import type { ProgressSums, IsoDay } from '@crew/core';
import { isOpen, keepSums, type SummaryTask } from '../schedule/summarise.ts';
import { figuresAfter, figuresOf, type Standing } from './figures-after.ts';
import { nextFields, type TaskFields } from './next-fields.ts';

const TODAY = '2026-11-23';
type Task = SummaryTask & TaskFields & { readonly startDay: IsoDay };

/** What of a task no figure depends on. */
const BESIDES = {
  parentId: null,
  deliverableId: null,
  labels: [],
  pageLinks: [],
  customFields: [],
  outside: null,
  notBefore: null,
  isGroup: false,
};

const anyTask: fc.Arbitrary<Task> = fc
  .record({
    title: fc.constantFrom('Sketch', 'Ink', 'Client looks', 'Cut'),
    phaseId: fc.constantFrom('draw', 'make'),
    isBegun: fc.boolean(),
    status: fc.constantFrom(...TASK_STATUS),
    dueDay: fc.constantFrom('2026-11-20', TODAY, '2026-12-04'),
    estimateMinutes: fc.option(fc.integer({ min: 0, max: 900 }), { freq: 6 }),
    loggedMinutes: fc.nat(300),
    stepsAll: fc.nat(4),
    stepsDone: fc.nat(4),
    waitingOn: fc.constantFrom('client', 'supplier'),
    since: fc.constantFrom('2026-11-10', '2026-11-12'),
  })
  .map(({ since, waitingOn, ...task }) => ({
    ...BESIDES,
    ...{
      id: '',
      description: '',
      days: 2,
      fixedDay: null,
      priority: 'normal' as const,
      isShownToClient: false,
      isChargeable: true,
      mayStartEarly: false,
      realStart: null,
      doneOn: null,
    },
    ...{ startDay: '2026-11-18', ...task, stepsDone: Math.min(task.stepsDone, task.stepsAll) },
    ...(task.status === 'waiting' ? { waitingOn, waitingSince: since } : { waitingOn: null, waitingSince: null }),
  }));

/** What the database keeps and reads before the change of one of these tasks. */
function standingBefore(tasks: readonly Task[], changed: Task, refreshedOn = TODAY): Standing {
  const { summary, sums, phaseSums } = figuresOf(tasks, { phaseId: changed.phaseId, today: TODAY });
  const others = figuresOf(
    tasks.filter((task) => task !== changed),
    { phaseId: changed.phaseId, today: TODAY },
  ).summary;
  return {
    ...{ refreshedOn, sums: keepSums(sums), phaseSums: keepSums(phaseSums), nextDue: others.nextDue },
    ...{ openTasks: summary.openTasks, overdueTasks: summary.overdueTasks, effortMinutes: summary.effortMinutes },
    ...{ loggedMinutes: summary.loggedMinutes, held: { title: others.waitingTitle, since: others.waitingSince } },
  };
}

/** Sums with what is done as a fraction in lowest terms: the same amount can be kept over any denominator. */
function reduced({ done, scale, middle, ...counts }: ProgressSums): object {
  const divisor = ((): bigint => {
    let [left, right] = [done, scale];
    while (right !== 0n) [left, right] = [right, left % right];
    return left;
  })();
  // The middle estimate counts for tasks without one only.
  return { ...counts, middle: counts.unestimated === 0 ? null : middle, done: [done / divisor, scale / divisor] };
}

test('added to what is kept, the figures are those of summing all tasks anew', () => {
  const seen = { added: 0, anew: 0 };
  fc.assert(
    fc.property(fc.array(anyTask, { minLength: 1, maxLength: 8 }), fc.nat(), fc.constantFrom(...TASK_STATUS), (tasks, pick, status) => {
      const task = tasks[pick % tasks.length] as Task;
      const next = nextFields(task, { version: 1, status }, TODAY);
      const added = figuresAfter(standingBefore(tasks, task), task, { next, today: TODAY });
      const anew = figuresOf(
        tasks.map((other) => (other === task ? { ...other, ...next } : other)),
        { phaseId: task.phaseId, today: TODAY },
      );
      seen[added === null ? 'anew' : 'added']++;
      if (added === null) return;
      expect(added.summary).toEqual(anew.summary);
      expect(reduced(added.sums)).toEqual(reduced(anew.sums));
      expect(reduced(added.phaseSums)).toEqual(reduced(anew.phaseSums));
    }),
    { numRuns: 400 },
  );
  expect(Math.min(seen.added, seen.anew)).toBeGreaterThan(10);
});

const sketch = (more: Partial<Task> = {}): Task => ({
  ...BESIDES,
  ...{ id: 'a', title: 'Sketch', description: '', phaseId: 'draw', isBegun: true, status: 'active', dueDay: '2026-11-20', days: 2 },
  ...{ estimateMinutes: 60, loggedMinutes: 0, stepsAll: 0, stepsDone: 0, waitingOn: null, waitingSince: null, fixedDay: null },
  ...{
    priority: 'normal',
    isShownToClient: false,
    isChargeable: true,
    mayStartEarly: false,
    realStart: '2026-11-18',
    doneOn: null,
    startDay: '2026-11-18',
  },
  ...more,
});

test.each<[string, Partial<Standing>]>([
  ['were computed on another day, because overdue hangs on it', { refreshedOn: '2026-11-22' }],
  ['have no sums yet', { sums: null }],
  ['have no sums of the phase yet', { phaseSums: null }],
])('figures that %s are summed anew', (_why, more) => {
  const task = sketch();
  const next = nextFields(task, { version: 1, status: 'done' }, TODAY);
  expect(figuresAfter({ ...standingBefore([task], task), ...more }, task, { next, today: TODAY })).toBeNull();
});

test('finishing what is overdue takes it from the overdue, dropping it takes its effort too', () => {
  const task = sketch();
  const standing = standingBefore([task, sketch({ id: 'b', title: 'Ink' })], task);
  const after = (status: 'done' | 'dropped') =>
    figuresAfter(standing, task, { next: nextFields(task, { version: 1, status }, TODAY), today: TODAY })?.summary;
  expect(after('done')).toMatchObject({ overdueTasks: 1, openTasks: 1, effortMinutes: 120, percent: 50 });
  expect(after('dropped')).toMatchObject({ overdueTasks: 1, openTasks: 1, effortMinutes: 60, percent: 0 });
  expect(isOpen(task)).toBe(true);
});
