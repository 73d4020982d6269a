import fc from 'fast-check';
import { formatDay, parseDay } from '@crew/core';
import { dayWords } from './format.ts';
import { parseDayWords } from './parse-day.ts';

const TODAY = '2026-11-23';

test.each<[string, string | null]>([
  ['2026-12-14', '2026-12-14'],
  ['14 dec', '2026-12-14'],
  ['Mon 14 Dec', '2026-12-14'],
  ['14 December 2027', '2027-12-14'],
  ['14.12.', '2026-12-14'],
  ['14/12/2027', '2027-12-14'],
  ['3 feb', '2027-02-03'],
  ['20 sep', '2026-09-20'],
  ['today', TODAY],
  ['Tomorrow', '2026-11-24'],
  ['fri', '2026-11-27'],
  ['monday', '2026-11-30'],
  ['2026-02-30', null],
  ['31 nov', null],
  ['soon', null],
  ['', null],
  ['14', null],
  ['14 foo', null],
])('%j is read as %j', (text, day) => {
  expect(parseDayWords(text, TODAY)).toBe(day);
});

test('every day is read back from the words it is shown in', () => {
  const first = parseDay('2026-09-01') as number;
  fc.assert(
    fc.property(fc.integer({ min: first, max: first + 1500 }), (number) => {
      const day = formatDay(number);
      expect(parseDayWords(dayWords(day, TODAY), TODAY)).toBe(day);
    }),
  );
});
