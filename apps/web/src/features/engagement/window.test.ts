import type { EngagementTrack } from '@crew/contract';
import { monthTicks, trackWindow } from './window.ts';

const track = (start: string, finish: string, promise: string | null = null): EngagementTrack =>
  ({
    id: '1',
    finish,
    promise,
    phases: [{ id: 'p', name: 'P', state: 'running', start, finish, percent: 0, baton: 'not-due', stateLine: '' }],
  }) as unknown as EngagementTrack;

test('the window reaches from the first start to the last finish or promise', () => {
  const window = trackWindow([track('2026-11-02', '2026-12-10', '2027-01-15')], '2026-11-23');
  expect(window.scale('2026-11-02')).toBeGreaterThan(0);
  expect(window.scale('2027-01-15', 'end')).toBeLessThan(100);
});

test('it never reaches further back or ahead than reads well', () => {
  const window = trackWindow([track('2025-01-01', '2028-01-01')], '2026-11-23');
  expect(window.from > '2026-08-01').toBe(true);
  expect(window.to < '2027-06-01').toBe(true);
});

test('finished work is shown on its own stretch of time', () => {
  const window = trackWindow([track('2026-01-10', '2026-03-10')], '2026-11-23');
  expect([window.from, window.to < '2026-04-01']).toEqual(['2026-01-10', true]);
});

test('of what is finished the whole is shown, however long ago, also beside a promise that lies ahead', () => {
  const window = trackWindow([track('2026-01-10', '2026-03-10'), track('2026-09-01', '2026-11-02', '2026-12-10')], '2026-11-23', true);
  expect(window.from).toBe('2026-01-10');
});

test('every month in the window is named once, the year with January', () => {
  const names = monthTicks(trackWindow([track('2026-11-15', '2027-02-10')], '2026-11-23')).map((tick) => tick.name);
  expect(names).toEqual(['Dec', 'Jan 2027', 'Feb']);
});
