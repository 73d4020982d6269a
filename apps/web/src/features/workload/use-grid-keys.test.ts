import { nextColumn, nextStop } from './use-grid-keys.ts';

test.each([
  ['ArrowDown', 0, 1],
  ['ArrowDown', 4, 4],
  ['ArrowUp', 0, 0],
  ['ArrowUp', 3, 2],
  ['Home', 3, 0],
  ['End', 1, 4],
  ['Enter', 1, null],
])('%s at stop %i of five goes to %s', (key, at, to) => {
  expect(nextStop(key, at, 5)).toBe(to);
});

test.each([
  ['ArrowRight', null, 0],
  ['ArrowRight', 3, 4],
  ['ArrowRight', 9, 9],
  ['ArrowLeft', null, 9],
  ['ArrowLeft', 0, 0],
  ['a', 2, null],
])('%s in column %s of ten goes to %s', (key, at, to) => {
  expect(nextColumn(key, at, 10)).toBe(to);
});
