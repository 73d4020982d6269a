import { Clock } from './clock.ts';

const NIGHT = new Date('2026-11-23T23:30:00Z');

test.each([
  ['UTC', '2026-11-23'],
  ['Europe/London', '2026-11-23'],
  ['Europe/Helsinki', '2026-11-24'],
  ['America/Los_Angeles', '2026-11-23'],
  ['Pacific/Auckland', '2026-11-24'],
])('half an hour before midnight in Greenwich it is in %s the %s', (zone, day) => {
  const clock = new Clock({ today: null });
  clock.useZone(zone);
  expect(clock.zone).toBe(zone);
  expect(clock.today(NIGHT)).toBe(day);
});

test('summer time moves midnight', () => {
  const clock = new Clock({ today: null });
  clock.useZone('Europe/London');
  expect(clock.today(new Date('2026-07-01T23:30:00Z'))).toBe('2026-07-02');
});

test('a fixed day stays, whatever the zone', () => {
  const clock = new Clock({ today: '2026-11-20' });
  clock.useZone('Pacific/Auckland');
  expect(clock.today(NIGHT)).toBe('2026-11-20');
  expect(clock.now().toISOString().slice(0, 10)).toBe('2026-11-20');
});

test('a fixed day is whole days ahead of the real one, the real day is not ahead', () => {
  expect(new Clock({ today: null }).aheadMs).toBe(0);
  const clock = new Clock({ today: '2026-11-20' });
  expect(Math.abs(Date.now() + clock.aheadMs - clock.now().getTime())).toBeLessThan(1000);
});

test('no two moments are the same, and each is later than the one before', () => {
  const clock = new Clock({ today: '2026-11-20' });
  const moments = Array.from({ length: 50 }, () => clock.now().getTime());
  expect(moments).toEqual([...new Set(moments)].sort((left, right) => left - right));
});

test('a zone that is none is refused', () => {
  expect(() => new Clock({ today: null }).useZone('Europe/Quillmarsh')).toThrow(RangeError);
});

test('the demo’s maker lives through other days at a time of its own', () => {
  const clock = new Clock({ today: '2026-11-20' });
  clock.moveTo('2026-11-03', '15:40');
  expect([clock.now(), clock.now()].map((at) => at.toISOString())).toEqual(['2026-11-03T15:40:00.000Z', '2026-11-03T15:40:00.001Z']);
  clock.moveTo('2026-11-02', '09:10');
  expect(clock.now().toISOString()).toBe('2026-11-02T09:10:00.000Z');
});
