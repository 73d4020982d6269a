import { act, renderHook } from '@testing-library/react';
import type { PlanTask } from '@crew/contract';
import { compileCalendar, type Calendar } from '@crew/core';
import type { PointerEvent } from 'react';
import { plan, planTask } from '../../../test/samples.ts';
import type { Proposal } from '../plan-change/use-proposal.ts';
import type { Grab } from './Bars.tsx';
import { placeOf } from './geometry.ts';
import { timeScale } from './scale.ts';
import { useBarDrag } from './use-bar-drag.ts';

const calendar = ((): Calendar => {
  const compiled = compileCalendar(plan.calendar);
  if (!compiled.ok) throw new Error('calendar');
  return compiled.value;
})();
const scale = timeScale(['2026-11-16', '2027-01-29'], 'weeks');
const other: PlanTask = { ...planTask, id: 'other', title: 'Other', start: '2026-12-07', due: '2026-12-10', after: [] };

/** Grabs a task and lets it go elsewhere; answers what that proposes, and which task it opens. */
function drag(task: PlanTask, kind: Parameters<Grab>[2], to: { readonly px: number; readonly x?: number; readonly isReadOnly?: boolean }) {
  const proposed: Proposal[] = [];
  const opened: string[] = [];
  const { result } = renderHook(() =>
    useBarDrag({
      ...{ scale, calendar, today: '2026-11-23', isReadOnly: to.isReadOnly ?? false, taskAt: () => other },
      ...{ onPropose: (proposal) => proposed.push(proposal), onOpen: (id) => opened.push(id) },
    }),
  );
  const noop = (): void => undefined;
  const grab = { button: 0, pointerId: 1, clientX: 300, preventDefault: noop, stopPropagation: noop, currentTarget: {} };
  const release = {
    clientX: 300 + to.px,
    clientY: 20,
    currentTarget: { getBoundingClientRect: () => ({ left: 300 + to.px - (to.x ?? 0), top: 0 }) },
  };
  act(() => result.current.onGrab(grab as unknown as PointerEvent<SVGElement>, task, kind));
  act(() => result.current.handlers.onPointerUp(release as unknown as PointerEvent<SVGSVGElement>));
  return { changes: proposed.flatMap(({ tasks }) => tasks), opened };
}

const days = (count: number): { readonly px: number } => ({ px: count * scale.dayPx });
// From Thursday 26 November on; Saturday and Sunday are closed.
const task: PlanTask = { ...planTask, start: '2026-11-24', due: '2026-11-26', days: 3, fixedDay: null, realStart: null, status: 'queued' };

test.each<[string, number, number]>([
  ['a day further is a day longer', 1, 4],
  ['over a weekend only open days count', 5, 6],
  ['to a closed day is to the next open one', 2, 5],
  ['back is shorter', -1, 2],
  ['never shorter than a day', -9, 1],
])('stretching: %s', (_rule, calendarDays, expected) => {
  expect(drag(task, 'stretch', days(calendarDays)).changes).toEqual([{ id: task.id, version: task.version, days: expected }]);
});

test('stretched by less than half a day it stays as it is', () => {
  expect(drag(task, 'stretch', { px: Math.floor(scale.dayPx / 2) - 1 }).changes).toEqual([]);
});

test('moved by days it may not start before its new day; hardly moved it is opened', () => {
  expect(drag(task, 'move', days(2)).changes).toEqual([{ id: task.id, version: task.version, notBefore: '2026-11-26' }]);
  expect(drag(task, 'move', { px: 2 })).toEqual({ changes: [], opened: [task.id] });
});

test('who may not change the plan moves nothing, and opens a bar by pressing it', () => {
  expect(drag(task, 'move', { ...days(2), isReadOnly: true })).toEqual({ changes: [], opened: [] });
  expect(drag(task, 'stretch', { ...days(2), isReadOnly: true }).changes).toEqual([]);
  expect(drag(task, 'move', { px: 2, isReadOnly: true }).opened).toEqual([task.id]);
});

const place = placeOf(scale, other);
test.each<['dependency-start' | 'dependency-end', 'first' | 'last', string]>([
  ['dependency-end', 'first', 'FS'],
  ['dependency-end', 'last', 'FF'],
  ['dependency-start', 'first', 'SS'],
  ['dependency-start', 'last', 'SF'],
])('a dependency drawn from %s to the %s half of a bar is %s', (from, half, type) => {
  const x = place.x + place.width * (half === 'first' ? 0.2 : 0.9);
  expect(drag(task, from, { px: 80, x }).changes).toEqual([
    { id: other.id, version: other.version, after: [{ taskId: task.id, type, lag: 0 }] },
  ]);
});
