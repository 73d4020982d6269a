import fc from 'fast-check';
import { addDays, type IsoDay } from '@crew/core';
import { finishPlaces } from './finish-places.ts';

const today = '2026-11-23' as IsoDay;
const day = (days: number): IsoDay => addDays(today, days);

test('a plan that ends before the promise leaves room, one that ends after it is over', () => {
  const early = finishPlaces({ today, finish: day(10), promise: day(20), forecast: null });
  expect(early.over).toBeNull();
  expect(early.promise).toBeCloseTo(2 * early.planned);
  const late = finishPlaces({ today, finish: day(20), promise: day(10), forecast: null });
  expect(late.over).toEqual({ from: late.promise, to: late.planned });
});

test('what is past stands at the beginning', () => {
  const places = finishPlaces({ today, finish: day(5), promise: day(-3), forecast: { likely: day(-1), safe: day(6) } });
  expect(places.promise).toBe(0);
  expect(places.likely?.from).toBe(0);
});

test('everything is on the line, and in the order of its days', () => {
  const days = fc.integer({ min: -400, max: 900 });
  fc.assert(
    fc.property(days, fc.option(days), fc.option(fc.tuple(days, days)), (finish, promise, forecast) => {
      const [likely, safe] = [...(forecast ?? [0, 0])].sort((one, other) => one - other) as [number, number];
      const places = finishPlaces({
        ...{ today, finish: day(finish), promise: promise === null ? null : day(promise) },
        forecast: forecast === null ? null : { likely: day(likely), safe: day(safe) },
      });
      const all = [places.planned, places.promise ?? 0, places.likely?.from ?? 0, places.likely?.to ?? 0];
      expect(all.every((place) => place >= 0 && place < 100)).toBe(true);
      if (places.promise !== null) expect(places.over !== null).toBe(Math.max(0, finish) > Math.max(0, promise ?? 0));
      if (places.likely !== null) expect(places.likely.from).toBeLessThanOrEqual(places.likely.to);
    }),
  );
});
