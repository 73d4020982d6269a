import { clockWords, parseClock } from './parse-time.ts';

test.each([
  ['9:30', 570],
  ['9.30', 570],
  ['0930', 570],
  ['930', 570],
  ['9', 540],
  [' 14h15 ', 855],
  ['0:00', 0],
  ['23:59', 1439],
])('%s is a time of day', (text, minute) => {
  expect(parseClock(text)).toBe(minute);
});

test.each(['24:00', '9:60', 'noon', '', '9:3', '12345'])('%s is none', (text) => {
  expect(parseClock(text)).toBeNull();
});

test('is written as people write it', () => {
  expect([0, 545, 1439].map(clockWords)).toEqual(['0:00', '9:05', '23:59']);
});
