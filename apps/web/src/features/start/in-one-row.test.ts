import { inOneRow } from './in-one-row.ts';

const parts = (ids: string) => [...ids].map((id) => ({ id }));

test.each([
  ['what is added at the end', 'abc', 'abcX', 'abcX'],
  ['what is added in the middle', 'abc', 'aXbc', 'aXbc'],
  ['what is added in front', 'abc', 'Xabc', 'Xabc'],
  ['two in a row', 'abc', 'aXYbc', 'aXYbc'],
  ['what stands behind one that is left out comes behind the last that is not', 'abc', 'aXc', 'aXbc'],
  ['what is left out keeps its place', 'abc', 'ac', 'abc'],
])('%s: %s made as %s is shown as %s', (_name, whole, made, shown) => {
  expect(
    inOneRow(parts(whole), parts(made))
      .map(({ id }) => id)
      .join(''),
  ).toBe(shown);
});
