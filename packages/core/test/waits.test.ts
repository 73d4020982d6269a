import fc from 'fast-check';
import { addDays, waits, type LocalTime, type Result, type Waits, type WaitsInput } from '../src/index.ts';

const WEEK = [450, 450, 450, 450, 450, 0, 0];
const base = { calendar: { week: WEEK, closed: ['2026-12-25'] }, person: { id: 'emeka', week: WEEK } } satisfies Partial<WaitsInput>;
const from = '2026-12-24T15:00';
const unwrapped = (result: Result<Waits>): Waits => {
  if (!result.ok) throw new Error(result.problem.kind);
  return result.value;
};

test('the written example: 90 minutes on Thursday and 90 on Monday, and 480 end on Monday afternoon', () => {
  expect(waits({ ...base, from, to: '2026-12-28T10:30' })).toEqual({ ok: true, value: { minutes: 180 } });
  expect(waits({ ...base, from, after: 480 })).toEqual({ ok: true, value: { at: '2026-12-28T15:30' } });
});

test.each<[string, Partial<WaitsInput>, number]>([
  ['before opening', { from: '2026-12-21T06:00', to: '2026-12-21T09:00' }, 0],
  ['over night', { from: '2026-12-21T16:30', to: '2026-12-22T09:01' }, 1],
  ['a whole day', { from: '2026-12-21T00:00', to: '2026-12-22T00:00' }, 450],
  ['on a closed day', { from: '2026-12-25T00:00', to: '2026-12-26T00:00' }, 0],
  ['with an earlier opening', { opens: 480, from: '2026-12-21T08:00', to: '2026-12-21T08:30' }, 30],
  [
    'half a day off',
    {
      person: { ...base.person, off: [{ from: '2026-12-21', to: '2026-12-21', minutes: 225 }] },
      from: '2026-12-21T00:00',
      to: '2026-12-22T00:00',
    },
    225,
  ],
  [
    'what is kept in reserve is worked too',
    { person: { ...base.person, reserve: 20 }, from: '2026-12-21T00:00', to: '2026-12-22T00:00' },
    450,
  ],
  [
    'a long day ends after midnight',
    { person: { id: 'n', week: [1000, 0, 0, 0, 0, 0, 0] }, from: '2026-12-22T00:00', to: '2026-12-22T02:00' },
    100,
  ],
])('%s', (_what, more, minutes) => {
  expect(waits({ ...base, from, ...more })).toEqual({ ok: true, value: { minutes } });
});

test('a moment at the end of a day is that end; no minutes are the moment itself', () => {
  expect(unwrapped(waits({ ...base, from, after: 90 }))).toEqual({ at: '2026-12-24T16:30' });
  expect(unwrapped(waits({ ...base, from: '2026-12-25T03:00', after: 0 }))).toEqual({ at: '2026-12-25T03:00' });
});

test.each<[string, object, object]>([
  ['a time that is none', { from: '2026-12-24T25:00', after: 1 }, { kind: 'invalid-field', at: 'from' }],
  ['a day that is none', { from: '2026-02-30T10:00', after: 1 }, { kind: 'invalid-field', at: 'from' }],
  ['an end before its beginning', { to: '2026-12-24T14:59' }, { kind: 'invalid-field', at: 'to' }],
  ['both', { to: '2026-12-28T10:30', after: 1 }, { kind: 'invalid-field', at: 'to' }],
  ['neither', {}, { kind: 'invalid-field', at: 'to' }],
  ['an opening after midnight', { opens: 1440, after: 1 }, { kind: 'invalid-field', at: 'opens' }],
  [
    'somebody who never works',
    { person: { id: 'gone', week: [0, 0, 0, 0, 0, 0, 0] }, after: 1 },
    { kind: 'never', at: 'person', id: 'gone' },
  ],
  ['somebody who has left', { person: { ...base.person, off: [{ from: '2026-12-28', to: '2199-12-31' }] }, after: 91 }, { kind: 'never' }],
  ['no person', { person: null, after: 1 }, { kind: 'invalid-field', at: 'person' }],
])('%s is refused', (_what, more, problem) => {
  expect(waits({ ...base, from, ...more } as WaitsInput)).toMatchObject({ ok: false, problem });
});

describe('laws', () => {
  const day = fc.integer({ min: 0, max: 40 }).map((days) => addDays('2026-12-07', days));
  const moment = fc
    .tuple(day, fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
    .map(([date, hour, minute]) => `${date}T${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}` as LocalTime);
  const world = fc.record({
    calendar: fc.record({ week: fc.constant(WEEK), closed: fc.array(day, { maxLength: 4 }) }),
    opens: fc.constantFrom(0, 480, 540, 1200),
    person: fc.record({
      id: fc.constant('p'),
      week: fc.array(fc.constantFrom(0, 225, 450, 1440), { minLength: 7, maxLength: 7 }),
      off: fc.array(
        day.map((date) => ({ from: date, to: addDays(date, 1), minutes: 200 })),
        { maxLength: 3 },
      ),
    }),
  });
  const minutesOf = (input: WaitsInput): number => (unwrapped(waits(input)) as { minutes: number }).minutes;

  test('a wait is the sum of its parts, and never longer than the time between', () => {
    fc.assert(
      fc.property(world, fc.tuple(moment, moment, moment), (some, times) => {
        const [first, middle, last] = [...times].sort() as [LocalTime, LocalTime, LocalTime];
        const whole = minutesOf({ ...some, from: first, to: last });
        expect(minutesOf({ ...some, from: first, to: middle }) + minutesOf({ ...some, from: middle, to: last })).toBe(whole);
        expect(whole).toBeLessThanOrEqual((Date.parse(`${last}Z`) - Date.parse(`${first}Z`)) / 60_000);
      }),
    );
  });

  test('until the moment at which so many have gone by, exactly so many have, and a minute earlier one less', () => {
    fc.assert(
      fc.property(world, moment, fc.integer({ min: 1, max: 3000 }), (some, start, after) => {
        const answer = waits({ ...some, from: start, after });
        if (!answer.ok) return expect(answer.problem.kind).toBe('never');
        const { at } = answer.value as { at: LocalTime };
        expect(minutesOf({ ...some, from: start, to: at })).toBe(after);
        const earlier = new Date(Date.parse(`${at}Z`) - 60_000).toISOString().slice(0, 16) as LocalTime;
        expect(minutesOf({ ...some, from: start, to: earlier })).toBe(after - 1);
      }),
    );
  });
});
