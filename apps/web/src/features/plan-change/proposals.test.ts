import { compileCalendar, type Calendar } from '@crew/core';
import type { PlanTask } from '@crew/contract';
import { plan, planTask } from '../../../test/samples.ts';
import { moveProposal, pinned, stretchProposal, dependencyProposal, workingStep } from './proposals.ts';

const TODAY = '2026-11-23';
const calendar = ((): Calendar => {
  const compiled = compileCalendar(plan.calendar);
  if (!compiled.ok) throw new Error('calendar');
  return compiled.value;
})();
const task = (more: Partial<PlanTask> = {}): PlanTask => ({ ...planTask, ...more });
const move = (one: PlanTask, days: number) => moveProposal(one, calendar, { days, today: TODAY });

test('a task moved by working days may not start before its new day', () => {
  expect(move(task(), 3)).toEqual({
    title: 'If “Signs set” starts 3 days later',
    note: 'You moved it to start Mon 30 Nov.',
    tasks: [{ id: 't1', version: 3, notBefore: '2026-11-30' }],
  });
});

test('a fixed day moves and stays fixed', () => {
  expect(move(task({ fixedDay: '2026-11-25' }), -1)?.tasks).toEqual([{ id: 't1', version: 3, fixedDay: '2026-11-24' }]);
});

test.each<[string, Partial<PlanTask>]>([
  ['what has begun', { realStart: '2026-11-20', status: 'active' }],
  ['what is done', { status: 'done' }],
  ['what is dropped', { status: 'dropped' }],
])('%s is not moved', (_what, more) => {
  expect(move(task(more), 2)).toBeNull();
});

test('no way is no proposal', () => {
  expect(move(task(), 0)).toBeNull();
  expect(stretchProposal(task(), 4)).toBeNull();
});

test('a moved task can be fixed where it was put', () => {
  expect(pinned(move(task(), 3) as NonNullable<ReturnType<typeof move>>)?.tasks).toEqual([
    { id: 't1', version: 3, fixedDay: '2026-11-30', notBefore: null },
  ]);
  expect(pinned(move(task({ fixedDay: '2026-11-25' }), 1) as NonNullable<ReturnType<typeof move>>)).toBeNull();
});

test.each<[string, Partial<PlanTask>, number, number | null]>([
  ['longer', {}, 6, 6],
  ['shorter', {}, 1, 1],
  ['not to nothing', {}, 0, null],
  ['not a milestone', { days: 0 }, 2, null],
  ['not a group', { isGroup: true }, 6, null],
  ['what is under way', { realStart: '2026-11-20', status: 'active' }, 6, 6],
])('stretched: %s', (_rule, more, days, expected) => {
  expect(stretchProposal(task(more), days)?.tasks[0]?.days ?? null).toBe(expected);
});

test('a dependency stands beside those that are there, and replaces another to the same task', () => {
  const [from, to] = [task({ id: 'a', title: 'Cut' }), task({ after: [{ id: 'b', number: 2, type: 'SS', lag: 1 }] })];
  expect(dependencyProposal(from, to, 'FS')).toEqual({
    title: 'If “Signs set” waits for “Cut”',
    note: 'You added a dependency: “Signs set” starts after the end of “Cut”.',
    tasks: [
      {
        id: 't1',
        version: 3,
        after: [
          { taskId: 'b', type: 'SS', lag: 1 },
          { taskId: 'a', type: 'FS', lag: 0 },
        ],
      },
    ],
  });
  expect(dependencyProposal({ ...from, id: 'b' }, to, 'FF')?.tasks[0]?.after).toEqual([{ taskId: 'b', type: 'FF', lag: 0 }]);
  expect(dependencyProposal({ ...from, id: 'b' }, to, 'SS')).toBeNull();
  expect(dependencyProposal(to, to, 'FS')).toBeNull();
});

test('calendar days become working days: a weekend is stepped over', () => {
  expect(workingStep(calendar, '2026-11-27', 1)).toEqual({ day: '2026-11-30', days: 1 });
  expect(workingStep(calendar, '2026-11-25', -2)).toEqual({ day: '2026-11-23', days: -2 });
});
