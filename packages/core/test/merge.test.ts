import fc from 'fast-check';
import { mergeLists } from '../src/index.ts';

interface Entry {
  readonly key: string;
  readonly text: string;
}
const by = { keyOf: (entry: Entry) => entry.key, isSame: (left: Entry, right: Entry) => left.text === right.text };
const list = (words: string): Entry[] =>
  words
    .split(' ')
    .filter((word) => word !== '')
    .map((word) => {
      const [key = '', text = ''] = word.split('=');
      return { key, text };
    });
const merge = (before: string, after: string, here: string): string =>
  mergeLists({ before: list(before), after: list(after), here: list(here) }, by)
    .map(({ key, text }) => `${key}=${text}`)
    .join(' ');

describe('a list of a running engagement with what changed in its template', () => {
  test.each<[string, string, string, string, string]>([
    ['what the template added comes', 'a=1', 'a=1 b=2', 'a=1', 'a=1 b=2'],
    ['what the template changed is changed', 'a=1', 'a=2', 'a=1', 'a=2'],
    ['what the template took out goes', 'a=1 b=1', 'a=1', 'a=1 b=1', 'a=1'],
    ['what was added here stays', 'a=1', 'a=2', 'a=1 x=9', 'a=2 x=9'],
    ['what was changed here stays as it is', 'a=1', 'a=2', 'a=7', 'a=7'],
    ['even when the template took it out', 'a=1', '', 'a=7', 'a=7'],
    ['what was taken out here stays out', 'a=1', 'a=1 b=1', '', 'b=1'],
    ['unless the template changed it', 'a=1', 'a=2', '', 'a=2'],
    ['the order is the one here', 'a=1 b=1', 'b=1 a=1 c=1', 'b=1 a=1', 'b=1 a=1 c=1'],
  ])('%s', (_what, before, after, here, merged) => {
    expect(merge(before, after, here)).toBe(merged);
  });

  const entries = fc.uniqueArray(fc.record({ key: fc.constantFrom('a', 'b', 'c', 'd'), text: fc.constantFrom('1', '2', '3') }), {
    selector: ({ key }) => key,
  });

  test('a template that did not change changes nothing', () => {
    fc.assert(fc.property(entries, entries, (before, here) => expect(mergeLists({ before, after: before, here }, by)).toEqual(here)));
  });

  test('an engagement nobody touched becomes what the template says', () => {
    const sorted = (all: readonly Entry[]): Entry[] => [...all].sort((left, right) => left.key.localeCompare(right.key));
    fc.assert(
      fc.property(entries, entries, (before, after) =>
        expect(sorted(mergeLists({ before, after, here: before }, by))).toEqual(sorted(after)),
      ),
    );
  });

  test('nothing is in it twice', () => {
    fc.assert(
      fc.property(entries, entries, entries, (before, after, here) => {
        const keys = mergeLists({ before, after, here }, by).map(({ key }) => key);
        expect(new Set(keys).size).toBe(keys.length);
      }),
    );
  });
});
