import type { ErrorBody } from '@crew/contract';
import fc from 'fast-check';
import { everyBody, expectSentence, sendTo, UNKNOWN, type Body } from '../../test/every-body.ts';
import { startHarness, type Caller, type Harness } from '../../test/harness.ts';
import { sumsOfTables } from '../../test/sums-of-tables.ts';

/*
 * Bad inputs, generated over every route that changes something: one or more fields of a good
 * body replaced, other ids in the address, other texts in place of JSON. Always the same ones.
 */
const SEED = 20_261_129;
const REQUESTS = 10_000;
const REPEATED = 1200;
const BATCH = 60;
/** So long takes only what hangs on an input; a machine that was busy just then is faster the next time. */
const LONGEST_MS = 2000;
const TRIES = 3;
/** So much time is never needed; a machine that is slower does fewer, and says so. */
const HARD_LIMIT_MS = 240_000;

let harness: Harness;
let owner: Caller;
let bodies: readonly (readonly [route: string, Body])[];

beforeAll(async () => {
  harness = await startHarness();
  // An owner: nothing sent here can take her access away.
  owner = await harness.as('Oona');
  // Trying a mail server looks its name up in the network.
  bodies = Object.entries(await everyBody(harness, owner)).filter(([route]) => route !== 'POST /mail/server/try');
}, 300_000);
afterAll(() => harness.close());

interface Input {
  readonly route: string;
  readonly path: string;
  readonly body: object | string;
}

/** What is put in every single place of every body. */
const EVERYWHERE: readonly unknown[] = [null, [], [[]], {}, '9999-12-31', 'a\ud800', -1];

const DAYS = ['2026-02-30', '0000-00-00', '1989-12-31', '2200-01-01', '2199-12-31', '1990-01-01', '2026-11-30T00:00'];
const TEXTS = [
  '',
  ' ',
  '\u0000',
  '=1+1',
  '<b>',
  '\u202e',
  'x'.repeat(30_000),
  '../../etc',
  UNKNOWN,
  'FREQ=DAILY;UNTIL=99991231',
  '👩‍🎨'.repeat(10),
];
const NUMBERS = [0, 1, 1.5, 50, 180, 400, 1440, 600_000, 1e21, -2_147_483_649, 2_147_483_647, Number.MAX_SAFE_INTEGER];
const SHAPES = [true, false, [null], [{}], { length: 3 }, Array.from({ length: 300 }, () => []), nested(40)];

function nested(depth: number): unknown {
  return depth === 0 ? 1 : [nested(depth - 1)];
}

const anything: fc.Arbitrary<unknown> = fc.oneof(
  fc.constantFrom<unknown>(...EVERYWHERE, ...DAYS, ...TEXTS, ...NUMBERS, ...SHAPES),
  fc.jsonValue({ maxDepth: 3 }),
  fc.string({ unit: 'binary', maxLength: 40 }),
);

const aDay = fc
  .date({ min: new Date('1990-01-01'), max: new Date('2199-12-31'), noInvalidDate: true })
  .map((day) => day.toISOString().slice(0, 10));

/** Of the same kind as what stands there: it gets past the first look, and further in. */
function ofItsKind(value: unknown, ids: readonly string[]): fc.Arbitrary<unknown> {
  if (typeof value === 'number') return fc.oneof(fc.constantFrom(...NUMBERS), fc.integer());
  if (typeof value === 'boolean') return fc.boolean();
  if (Array.isArray(value))
    return fc.constantFrom<unknown>(
      [],
      [...(value as unknown[]), ...(value as unknown[])],
      Array.from({ length: 60 }, () => value[0] as unknown),
    );
  if (typeof value !== 'string') return anything;
  if (/^\d{4}-\d\d-\d\d$/.test(value)) return aDay;
  if (/^[0-9a-f]{8}-/.test(value)) return fc.constantFrom(...ids);
  return fc.oneof(fc.constantFrom(...TEXTS), fc.string({ unit: 'grapheme', minLength: 1, maxLength: 60 }));
}

/** Where something can be replaced in a body: the addresses of its members, at any depth. */
function placesIn(value: unknown, at: readonly (string | number)[] = []): (string | number)[][] {
  const here = at.length === 0 ? [] : [[...at]];
  if (Array.isArray(value)) return [...here, ...value.slice(0, 1).flatMap((item) => placesIn(item, [...at, 0]))];
  if (typeof value !== 'object' || value === null) return here;
  return [...here, ...Object.entries(value).flatMap(([key, member]) => placesIn(member, [...at, key]))];
}

function withAt(value: unknown, at: readonly (string | number)[], next: unknown): unknown {
  const [key, ...rest] = at;
  if (key === undefined) return next;
  if (Array.isArray(value)) return value.map((item, index) => (index === key ? withAt(item, rest, next) : (item as unknown)));
  if (typeof value !== 'object' || value === null) return value;
  return { ...value, [key]: withAt((value as Record<string, unknown>)[key], rest, next) };
}

/** One thing after the other, everywhere. */
const systematic = (): Input[] =>
  bodies.flatMap(([route, { path, body }]) =>
    placesIn(body).flatMap((at) => EVERYWHERE.map((value) => ({ route, path, body: withAt(body, at, value) as object }))),
  );

const valueAt = (value: unknown, at: readonly (string | number)[]): unknown =>
  at.reduce((so: unknown, key) => (so as Record<string | number, unknown> | null)?.[key], value);

function generated(): fc.Arbitrary<Input> {
  const ids = [...new Set(JSON.stringify(bodies).match(/[0-9a-f]{8}-[0-9a-f-]{27}/g))];
  return fc.constantFrom(...bodies).chain(([route, { path, body }]) => {
    const change = fc
      .constantFrom(...placesIn(body))
      .chain((at) =>
        fc.tuple(
          fc.constant(at),
          fc.oneof({ weight: 3, arbitrary: ofItsKind(valueAt(body, at), ids) }, { weight: 1, arbitrary: anything }),
        ),
      );
    const changed = fc
      .array(change, { minLength: 1, maxLength: 2 })
      .map((changes) => changes.reduce<unknown>((so, [at, value]) => withAt(so, at, value), body) as object);
    const address = fc.constantFrom(
      path,
      path,
      path,
      ...ids.slice(0, 12).map((id) => path.replace(/[0-9a-f-]{36}/, id)),
      path.replace(/[0-9a-f-]{36}/, 'x'),
    );
    const text = fc.constantFrom('{', '{"a":', '[]', '"x"', `${'['.repeat(3000)}${']'.repeat(3000)}`, '{"__proto__":{"a":1}}');
    return fc.record({
      route: fc.constant(route),
      path: address,
      body: fc.oneof({ weight: 20, arbitrary: changed }, { weight: 1, arbitrary: text }),
    });
  });
}

async function ask({ route, path, body }: Input): Promise<{ readonly status: number; readonly body: ErrorBody; readonly tookMs: number }> {
  const began = performance.now();
  const sent =
    typeof body === 'string'
      ? sendTo(owner, { route, path }, {}).set('Content-Type', 'application/json').send(body)
      : sendTo(owner, { route, path }, body);
  const answer = await sent;
  return { status: answer.status, body: answer.body as ErrorBody, tookMs: performance.now() - began };
}

const nameOf = ({ route, path, body }: Input): string => `${route} at ${path} with ${JSON.stringify(body).slice(0, 300)}`;

test('ten thousand bad inputs: a sentence each, none takes long, and what is refused has written nothing', async () => {
  const first = systematic();
  const inputs = [...first, ...fc.sample(generated(), { seed: SEED, numRuns: Math.max(1000, REQUESTS - REPEATED - first.length) })];
  const until = Date.now() + HARD_LIMIT_MS;
  const refused: Input[] = [];
  const slow: Input[] = [];
  const faults: string[] = [];
  let asked = 0;
  for (const input of inputs) {
    if (Date.now() > until) break;
    asked++;
    const answer = await ask(input);
    if (answer.status >= 500) faults.push(`${answer.status} ${nameOf(input)}`);
    else expectSentence(answer.status, answer.body, nameOf(input));
    if (answer.tookMs > LONGEST_MS) slow.push(input);
    if (answer.status >= 400) refused.push(input);
  }
  expect(faults).toEqual([]);
  expect(await alwaysSlow(slow)).toEqual([]);
  expect(refused.length).toBeGreaterThan(asked / 2);
  expect(refused.length).toBeLessThan(asked - 100);
  const compared = await compareSums(everyNth(refused, Math.ceil(refused.length / REPEATED)));
  expect(compared).toBeGreaterThan(0);
}, 600_000);

/** Those that take long every time. */
async function alwaysSlow(inputs: readonly Input[]): Promise<string[]> {
  const found: string[] = [];
  for (const input of inputs) {
    const times: number[] = [];
    while (times.length < TRIES && (times.at(-1) ?? Infinity) > LONGEST_MS) times.push((await ask(input)).tookMs);
    if (Math.min(...times) > LONGEST_MS) found.push(`${Math.round(Math.min(...times))} ms ${nameOf(input)}`);
  }
  return found;
}

const everyNth = <Item>(items: readonly Item[], n: number): Item[] => items.filter((_, index) => index % n === 0);

/** Sends what was refused once more; where all of a batch is refused again, every table is as it was before it. */
async function compareSums(inputs: readonly Input[]): Promise<number> {
  let compared = 0;
  for (let from = 0; from < inputs.length; from += BATCH) {
    const batch = inputs.slice(from, from + BATCH);
    const before = await sumsOfTables(harness.database);
    const statuses: number[] = [];
    for (const input of batch) statuses.push((await ask(input)).status);
    if (statuses.some((status) => status < 400)) continue;
    compared++;
    expect({ batch: batch.map(nameOf), sums: await sumsOfTables(harness.database) }).toEqual({ batch: batch.map(nameOf), sums: before });
  }
  return compared;
}
