import fc from 'fast-check';
import { beyondLimits, isKeepable, type BodyLimits } from './json-limits.ts';

const NONE: BodyLimits = { bytes: Infinity, depth: 100, keys: 1000, items: 1000, values: 100_000 };
const fault = (value: unknown, limits: Partial<BodyLimits>): string | null =>
  beyondLimits(Buffer.from(typeof value === 'string' ? value : JSON.stringify(value)), { ...NONE, ...limits });

/** The same, the slow way: over what the parser makes of it. */
function measure(value: unknown): { depth: number; keys: number; items: number } {
  if (typeof value !== 'object' || value === null) return { depth: 0, keys: 0, items: 0 };
  const inside = Object.values(value).map(measure);
  const most = (of: 'depth' | 'keys' | 'items'): number => Math.max(0, ...inside.map((one) => one[of]));
  const own = Object.keys(value).length;
  return {
    depth: most('depth') + 1,
    keys: Math.max(most('keys'), Array.isArray(value) ? 0 : own),
    items: Math.max(most('items'), Array.isArray(value) ? own : 0),
  };
}

test('what is within the limits passes, and what is one beyond does not, whatever stands in its texts', () => {
  const seen = { within: 0, beyond: 0 };
  fc.assert(
    fc.property(fc.json({ maxDepth: 5, stringUnit: 'binary' }), (text) => {
      const { depth, keys, items } = measure(JSON.parse(text));
      if (depth === 0) return;
      seen.within++;
      expect(fault(text, { depth, keys: Math.max(1, keys), items: Math.max(1, items) })).toBeNull();
      seen.beyond++;
      expect(fault(text, { depth: depth - 1 })).toMatch(/nested/);
      if (keys > 1) expect(fault(text, { keys: keys - 1 })).toMatch(/fields/);
      if (items > 1 && items - 1 !== NONE.keys) expect(fault(text, { items: items - 1 })).toMatch(/items/);
    }),
  );
  expect(seen.within).toBeGreaterThan(20);
  expect(seen.beyond).toBeGreaterThan(20);
});

test('brackets and commas in texts count for nothing, behind a backslash too', () => {
  expect(fault({ a: '[[[[,,,,{{{{', b: '\\"[[[' }, { depth: 1, keys: 2 })).toBeNull();
});

test('values are counted over the whole text', () => {
  const rows = Array.from({ length: 50 }, () => [1, 2, 3]);
  expect(fault(rows, { values: 1000 })).toBeNull();
  expect(fault(rows, { values: 100 })).toBe('It has more than 100 values.');
});

test.each([
  ['a pair of surrogates', { a: ['👩‍🎨'] }, true],
  ['half a pair', { a: ['x\ud83d'] }, false],
  ['the other half, in a name', { '\udc00': 1 }, false],
  ['the character 0', ['\u0000'], false],
  ['numbers and nothing', { a: null, b: [1, true] }, true],
])('%s can be kept: %s', (_what, value, expected) => {
  expect(isKeepable(value)).toBe(expected);
});
