import type { WorkloadTask } from '@crew/contract';
import { packLanes } from './lanes.ts';

const DATES = ['2026-11-23', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27'];
const task = (id: string, start: string, due: string): WorkloadTask => ({
  id,
  title: id,
  engagement: { id: 'e', name: 'E', hue: 'blue' },
  start,
  due,
  minutes: 60,
});

test('tickets that overlap lie on different lanes, the others share one', () => {
  const { placed, count } = packLanes(
    [task('a', '2026-11-23', '2026-11-24'), task('b', '2026-11-24', '2026-11-25'), task('c', '2026-11-25', '2026-11-27')],
    DATES,
  );
  expect(placed.map(({ task: { id }, lane }) => [id, lane])).toEqual([
    ['a', 0],
    ['b', 1],
    ['c', 0],
  ]);
  expect(count).toBe(2);
});

test('a ticket covers its days in proportion', () => {
  const { placed } = packLanes([task('a', '2026-11-24', '2026-11-25')], DATES);
  expect(placed[0]).toMatchObject({ left: 20, width: 40 });
});

test('what began before is cut at the first day, what is overdue stands on it, what comes later is left out', () => {
  const { placed } = packLanes(
    [task('began', '2026-11-10', '2026-11-23'), task('overdue', '2026-11-10', '2026-11-12'), task('later', '2026-12-10', '2026-12-12')],
    DATES,
  );
  expect(placed.map(({ task: { id }, left }) => [id, left])).toEqual([
    ['began', 0],
    ['overdue', 0],
  ]);
});
