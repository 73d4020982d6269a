import type { IsoDay } from '@crew/core';
import fc from 'fast-check';
import { PRIORITY, TASK_STATUS, WAITING_ON } from '@crew/contract';
import { changesBetween, isReopened, nextFields, type TaskFields } from './next-fields.ts';

const TODAY = '2026-11-23';
type Task = TaskFields & { readonly startDay: IsoDay };

const fresh: Task = {
  ...{ phaseId: 'draw', parentId: null, deliverableId: null, labels: [], pageLinks: [], customFields: [], outside: null, notBefore: null },
  title: 'Sketch',
  description: '',
  status: 'queued',
  waitingOn: null,
  waitingSince: null,
  days: 2,
  estimateMinutes: 480,
  fixedDay: null,
  priority: 'normal',
  isShownToClient: false,
  isChargeable: true,
  mayStartEarly: false,
  realStart: null,
  doneOn: null,
  startDay: '2026-11-20',
};
const active: Task = { ...fresh, status: 'active', realStart: '2026-11-19' };
const done: Task = { ...active, status: 'done', doneOn: '2026-11-20' };

test.each<[string, Task, Parameters<typeof nextFields>[1], Partial<TaskFields>]>([
  ['work begins on the day it is first under way', fresh, { status: 'active' }, { realStart: TODAY }],
  ['what is begun keeps its first day', active, { status: 'review' }, { realStart: '2026-11-19' }],
  ['put back into the queue it has not begun', active, { status: 'queued' }, { realStart: null }],
  ['what goes straight to done began on its planned day', fresh, { status: 'done' }, { realStart: '2026-11-20', doneOn: TODAY }],
  [
    'done before its planned day, it began today',
    { ...fresh, startDay: '2026-12-01' },
    { status: 'done' },
    { realStart: TODAY, doneOn: TODAY },
  ],
  ['waiting without saying on whom is on the client', fresh, { status: 'waiting' }, { waitingOn: 'client', waitingSince: TODAY }],
  ['waiting before any work leaves it not begun', fresh, { status: 'waiting', waitingOn: 'supplier' }, { realStart: null }],
  [
    'waiting on somebody else starts the clock anew',
    { ...active, status: 'waiting', waitingOn: 'client', waitingSince: '2026-11-02' },
    { waitingOn: 'supplier' },
    { waitingSince: TODAY },
  ],
  [
    'waiting on the same goes on since the same day',
    { ...active, status: 'waiting', waitingOn: 'client', waitingSince: '2026-11-02' },
    { waitingOn: 'client' },
    { waitingSince: '2026-11-02' },
  ],
  [
    'going on with it ends the wait',
    { ...active, status: 'waiting', waitingOn: 'client', waitingSince: '2026-11-02' },
    { status: 'active' },
    { waitingOn: null, waitingSince: null },
  ],
  ['a new title of finished work leaves its day alone', done, { title: ' Sketches ' }, { title: 'Sketches', doneOn: '2026-11-20' }],
  ['dropped before it began it never began', fresh, { status: 'dropped' }, { realStart: null }],
  ['an effort taken away is none', active, { estimateMinutes: null }, { estimateMinutes: null }],
  ['a day taken away gives it back to the planner', { ...active, fixedDay: '2026-12-01' }, { fixedDay: null }, { fixedDay: null }],
])('%s', (_rule, task, input, expected) => {
  expect(nextFields(task, input, TODAY)).toMatchObject(expected);
});

const day = fc.integer({ min: 0, max: 40 }).map((days) => new Date(Date.UTC(2026, 10, 1 + days)).toISOString().slice(0, 10) as IsoDay);
const input = fc.record(
  {
    status: fc.constantFrom(...TASK_STATUS),
    waitingOn: fc.constantFrom(...WAITING_ON),
    priority: fc.constantFrom(...PRIORITY),
    days: fc.integer({ min: 0, max: 20 }),
    title: fc.constantFrom('A', 'B '),
  },
  { requiredKeys: [] },
);

/** What the table itself demands of a row. */
function holds(task: TaskFields): boolean {
  const waits = (task.status === 'waiting') === (task.waitingOn !== null) && (task.waitingOn === null) === (task.waitingSince === null);
  const isOver = (task.status === 'done') === (task.doneOn !== null);
  const order = task.doneOn === null || (task.realStart !== null && task.doneOn >= task.realStart);
  return waits && isOver && order;
}

test('whatever is done to a task day after day, the table takes it', () => {
  const seen = new Set<string>();
  fc.assert(
    fc.property(fc.array(fc.tuple(input, day), { minLength: 1, maxLength: 12 }), day, (edits, startDay) => {
      let task: Task = { ...fresh, startDay };
      for (const [edit, today] of [...edits].sort(([, left], [, right]) => (left < right ? -1 : 1))) {
        const next = nextFields(task, edit, today);
        seen.add(`${task.status} ${next.status}`);
        expect(holds(next)).toBe(true);
        task = { ...next, startDay };
      }
    }),
    { numRuns: 400 },
  );
  // Every step from every status to every other was taken.
  expect(seen.size).toBe(TASK_STATUS.length ** 2);
});

test('what differs is told field by field, and nothing else', () => {
  const next = nextFields(fresh, { status: 'waiting', waitingOn: 'supplier' }, TODAY);
  expect(changesBetween(fresh, next)).toEqual([
    { field: 'status', from: 'queued', to: 'waiting' },
    { field: 'waitingOn', from: null, to: 'supplier' },
    { field: 'waitingSince', from: null, to: TODAY },
  ]);
  expect(changesBetween(fresh, nextFields(fresh, { status: 'queued' }, TODAY))).toEqual([]);
});

test.each([
  ['active', true],
  ['queued', true],
  ['done', false],
  ['dropped', false],
] as const)('finished work that becomes %s is taken up again: %s', (status, expected) => {
  expect(isReopened(done, nextFields(done, { status }, TODAY))).toBe(expected);
});
