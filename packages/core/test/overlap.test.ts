import fc from 'fast-check';
import { findOverlaps, isTimeForgotten, type WorkedStretch } from '../src/index.ts';

const at = (id: string, start: number | null, minutes: number): WorkedStretch => ({ id, start, minutes });

test('stretches that share minutes are named, the earlier first, with how many', () => {
  expect(findOverlaps([at('late', 600, 60), at('early', 540, 90)])).toEqual([{ first: 'early', second: 'late', minutes: 30 }]);
});

test('one inside another shares all of its minutes', () => {
  expect(findOverlaps([at('long', 540, 240), at('call', 600, 15)])).toEqual([{ first: 'long', second: 'call', minutes: 15 }]);
});

test('end to start is no overlap, and without a start nothing is known', () => {
  expect(findOverlaps([at('a', 540, 60), at('b', 600, 60), at('c', null, 900)])).toEqual([]);
});

test('it finds what comparing every minute of the day finds', () => {
  const stretch = fc.record({ start: fc.option(fc.nat(80)), minutes: fc.integer({ min: 1, max: 40 }) });
  let found = 0;
  fc.assert(
    fc.property(fc.array(stretch, { maxLength: 7 }), (given) => {
      const stretches = given.map((each, index) => ({ id: `s${index}`, ...each }));
      const minutesOf = ({ start, minutes }: WorkedStretch): Set<number> =>
        new Set(start === null ? [] : Array.from({ length: minutes }, (_, minute) => start + minute));
      const plain = stretches.flatMap((left, index) =>
        stretches.slice(index + 1).flatMap((right) => {
          const shared = [...minutesOf(left)].filter((minute) => minutesOf(right).has(minute)).length;
          return shared === 0 ? [] : [[[left.id, right.id].sort().join(), shared]];
        }),
      );
      const ours = findOverlaps(stretches).map(({ first, second, minutes }) => [[first, second].sort().join(), minutes]);
      found += ours.length;
      expect(ours.sort()).toEqual(plain.sort());
    }),
  );
  expect(found).toBeGreaterThan(20);
});

test('a day of which less than half was logged was forgotten, unless nothing was open', () => {
  const asked = [
    [224, 450],
    [225, 450],
    [0, 450],
    [0, 0],
  ].map(([logged = 0, capacity = 0]) => isTimeForgotten({ logged, capacity }));
  expect(asked).toEqual([true, false, true, false]);
});
