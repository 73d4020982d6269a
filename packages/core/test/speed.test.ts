import fc from 'fast-check';
import { passSpeed, roundedMedianOf, waitCounter, waits, type PassedCase } from '../src/index.ts';

const one = (more: Partial<PassedCase>): PassedCase => ({
  ...{ month: '2026-11', key: 'Script', days: 12, plannedDays: 10, waitMinutes: 60, isBack: false },
  ...more,
});

test('a column has its median days, waits and how many came back, month by month', () => {
  const [script, studio] = passSpeed(
    [
      one({ days: 10, waitMinutes: 60 }),
      one({ days: 14, waitMinutes: 181, isBack: true }),
      one({ days: null, waitMinutes: null }),
      one({ month: '2026-10', days: 8, waitMinutes: 30 }),
      one({ key: 'Studio', month: '2026-10' }),
    ],
    { keys: ['Script', 'Studio'], months: ['2026-10', '2026-11'] },
  );
  expect(script).toEqual({
    ...{ key: 'Script', cases: 4, plannedDays: 10 },
    points: [
      { month: '2026-10', cases: 1, days: 8, waits: 1, waitMinutes: 30, back: 0 },
      { month: '2026-11', cases: 3, days: 12, waits: 2, waitMinutes: 121, back: 1 },
    ],
  });
  expect(studio?.points[1]).toEqual({ month: '2026-11', cases: 0, days: null, waits: 0, waitMinutes: null, back: 0 });
});

test('by person the wait is counted with whoever received it, the rest with whoever gave it', () => {
  const [mirela, emeka] = passSpeed([one({ key: 'Mirela', waitKey: 'Emeka', isBack: true })], {
    keys: ['Mirela', 'Emeka'],
    months: ['2026-11'],
  });
  expect(mirela?.points[0]).toMatchObject({ cases: 1, days: 12, waits: 0, back: 1 });
  expect(emeka?.points[0]).toMatchObject({ cases: 0, days: null, waits: 1, waitMinutes: 60, back: 0 });
});

test('every case of the months asked for is in one column and one month', () => {
  const months = ['2026-09', '2026-10', '2026-11'];
  const keys = ['a', 'b', 'c'];
  const aCase = fc.record({
    month: fc.constantFrom(...months, '2025-01'),
    key: fc.constantFrom(...keys),
    days: fc.option(fc.nat(40)),
    plannedDays: fc.option(fc.nat(40)),
    waitMinutes: fc.option(fc.nat(4000)),
    isBack: fc.boolean(),
  });
  fc.assert(
    fc.property(fc.array(aCase), (cases) => {
      const asked = cases.filter(({ month }) => months.includes(month));
      const points = passSpeed(cases, { keys, months }).flatMap((column) => column.points);
      expect(points.reduce((sum, point) => sum + point.cases, 0)).toBe(asked.length);
      expect(points.reduce((sum, point) => sum + point.back, 0)).toBe(asked.filter(({ isBack }) => isBack).length);
      for (const { days, cases: count } of points) expect(days !== null && count === 0).toBe(false);
    }),
  );
});

test('half of the values are at most the median, half at least', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(1000), { minLength: 1 }), (values) => {
      const median = roundedMedianOf(values) as number;
      expect(values.filter((value) => value < median).length).toBeLessThanOrEqual(values.length / 2);
      expect(values.filter((value) => value > median).length).toBeLessThanOrEqual(values.length / 2);
    }),
  );
  expect(roundedMedianOf([])).toBeNull();
});

test('counted for many stretches it is the same as for each', () => {
  const calendar = { week: [450, 450, 450, 450, 450, 0, 0], closed: ['2026-12-25'] } as const;
  const person = { id: 'p', week: [450, 450, 0, 450, 225, 0, 0], off: [{ from: '2026-12-22', to: '2026-12-22' }] } as const;
  const count = waitCounter({ calendar, person });
  const aTime = fc.tuple(fc.integer({ min: 1, max: 31 }), fc.nat(23), fc.nat(59)).map(([day, hour, minute]) => {
    const two = (value: number): string => String(value).padStart(2, '0');
    return `2026-12-${two(day)}T${two(hour)}:${two(minute)}` as const;
  });
  fc.assert(
    fc.property(aTime, aTime, (left, right) => {
      const [from, to] = left < right ? [left, right] : [right, left];
      expect(waits({ calendar, person, from, to } as never)).toEqual({ ok: true, value: { minutes: count(from as never, to as never) } });
    }),
  );
});
