import fc from 'fast-check';
import { CUSTOM_FIELD_KIND, customFieldFault, customValueFault, readCustomValue, type CustomFieldKind } from '../src/index.ts';

const field = (kind: CustomFieldKind) => ({ name: 'Size', kind, choices: kind === 'choice' ? ['A1', 'A2'] : [] });

describe('what can stand in a custom field', () => {
  test.each(CUSTOM_FIELD_KIND)('a %s may be open', (kind) => {
    expect(customValueFault(field(kind), null)).toBeNull();
  });

  test.each<[CustomFieldKind, string | number]>([
    ['text', 'between two doors'],
    ['number', -0.5],
    ['date', '2026-12-14'],
    ['choice', 'A2'],
    ['person', 'an-id'],
    ['link', 'https://example.org/folder'],
  ])('a %s holds %p', (kind, value) => {
    expect(customValueFault(field(kind), value)).toBeNull();
  });

  test.each<[CustomFieldKind, string | number, RegExp]>([
    ['text', 'x'.repeat(2001), /2 000 characters/],
    ['text', 4, /not a number/],
    ['number', '4', /is a number, like 12/],
    ['number', Number.POSITIVE_INFINITY, /is a number/],
    ['number', 2e12, /is a number/],
    ['date', '2026-02-30', /is a day/],
    ['choice', 'A9', /one of A1, A2/],
    ['link', 'javascript:alert(1)', /begins with https/],
    ['link', 'https://two words', /begins with https/],
  ])('a %s does not hold %p, and says what it holds', (kind, value, words) => {
    expect(customValueFault(field(kind), value)).toMatch(words);
  });
});

describe('what somebody types', () => {
  test.each<[string, number]>([
    ['12', 12],
    ['-3', -3],
    ['0,5', 0.5],
    ['1 250', 1250],
    [' 7.25 ', 7.25],
  ])('“%s” is the number %p', (typed, value) => {
    expect(readCustomValue(field('number'), typed)).toBe(value);
  });

  test.each(['a dozen', '1,2,3', '1 2', '--4', '12 34 567'])('“%s” is no number', (typed) => {
    expect(readCustomValue(field('number'), typed)).toBeUndefined();
  });

  test('blank is open, and what is read always fits', () => {
    expect(readCustomValue(field('text'), '  ')).toBeNull();
    fc.assert(
      fc.property(fc.constantFrom(...CUSTOM_FIELD_KIND), fc.string(), (kind, typed) => {
        const value = readCustomValue(field(kind), typed);
        return value === undefined || customValueFault(field(kind), value) === null;
      }),
    );
  });

  test('a number that is written is read again', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), (value) => {
        expect(readCustomValue(field('number'), String(value))).toBe(value);
      }),
    );
  });
});

describe('the definition of a field', () => {
  test.each<[CustomFieldKind, string[], RegExp | null]>([
    ['text', [], null],
    ['choice', ['A1', 'A2'], null],
    ['text', ['A1'], /Only a choice/],
    ['choice', ['A1'], /at least two/],
    ['choice', ['A1', ' a1'], /the same/],
  ])('%s with %p', (kind, choices, words) => {
    const fault = customFieldFault({ kind, choices });
    if (words === null) expect(fault).toBeNull();
    else expect(fault).toMatch(words);
  });
});
