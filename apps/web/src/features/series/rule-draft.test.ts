import fc from 'fast-check';
import { occurrences, readRule, type IsoDay } from '@crew/core';
import { draftFrom, draftOf, idOf, monthDayChoices, monthDayFrom, ruleOf, wholeOf, type RuleDraft } from './rule-draft.ts';

const DAY = '2026-11-24';
const from = (more: Partial<RuleDraft>): RuleDraft => ({ ...draftFrom(DAY), ...more });

test.each([
  ['every week on the weekday of the day', {}, 'FREQ=WEEKLY;BYDAY=TU'],
  ['every third day', { unit: 'day', interval: '3' }, 'FREQ=DAILY;INTERVAL=3'],
  ['two weekdays, in order', { weekdays: [3, 0] }, 'FREQ=WEEKLY;BYDAY=MO,TH'],
  ['a date of the month', { unit: 'month' }, 'FREQ=MONTHLY;BYMONTHDAY=24'],
  ['a numbered weekday', { unit: 'month', monthDay: { kind: 'weekday', nth: -1, weekday: 4 } }, 'FREQ=MONTHLY;BYDAY=-1FR'],
  ['a working day', { unit: 'month', monthDay: { kind: 'working-day', place: -1 } }, 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1'],
  ['until a day', { ending: { kind: 'until', day: '2027-03-31' } }, 'FREQ=WEEKLY;BYDAY=TU;UNTIL=20270331'],
  ['so many times', { ending: { kind: 'times', times: '6' } }, 'FREQ=WEEKLY;BYDAY=TU;COUNT=6'],
] as const)('%s', (_, more, rule) => {
  expect(ruleOf(from(more as Partial<RuleDraft>))).toBe(rule);
});

test.each([
  ['no number', { interval: 'two' }],
  ['nothing', { interval: '' }],
  ['no last day', { ending: { kind: 'until', day: '' } }],
  ['no number of times', { ending: { kind: 'times', times: '0' } }],
] as const)('with %s it is no rule yet', (_, more) => {
  expect(ruleOf(from(more as Partial<RuleDraft>))).toBeNull();
});

test('begun on the 30th it means the 30th, in a shorter month its last day; from the 31st the last day of every month', () => {
  const monthly = (day: IsoDay): string | null => ruleOf({ ...draftFrom(day), unit: 'month' });
  expect(monthly('2026-11-30')).toBe('FREQ=MONTHLY;BYMONTHDAY=28,29,30;BYSETPOS=-1');
  expect(monthly('2026-12-31')).toBe('FREQ=MONTHLY;BYMONTHDAY=-1');
  const answer = occurrences({
    ...{ calendar: { week: [1, 1, 1, 1, 1, 1, 1], closed: [] }, onClosed: 'after', from: '2026-11-30', to: '2027-03-31' },
    rhythms: [{ from: '2026-11-30', rule: monthly('2026-11-30') as string }],
  });
  expect(answer.ok && answer.value.map(({ on }) => on)).toEqual(['2026-11-30', '2026-12-30', '2027-01-30', '2027-02-28', '2027-03-30']);
  const choices = monthDayChoices('2026-11-30', { kind: 'date', date: 30 }).map(({ name }) => name);
  expect(choices[0]).toBe('the 30th (or the last day)');
});

const anyDraft: fc.Arbitrary<RuleDraft> = fc.record({
  unit: fc.constantFrom('day' as const, 'week' as const, 'month' as const),
  interval: fc.integer({ min: 1, max: 99 }).map(String),
  weekdays: fc.uniqueArray(fc.integer({ min: 0, max: 6 }), { minLength: 1 }).map((days) => days.sort()),
  monthDay: fc.oneof(
    fc.record({ kind: fc.constant('date' as const), date: fc.constantFrom(-1, 1, 15, 29, 30, 31) }),
    fc.record({ kind: fc.constant('weekday' as const), nth: fc.constantFrom(-1, 1, 4), weekday: fc.integer({ min: 0, max: 6 }) }),
    fc.record({ kind: fc.constant('working-day' as const), place: fc.constantFrom(-1, 1, 3) }),
  ),
  ending: fc.oneof(
    fc.constant({ kind: 'open' as const }),
    fc.constant({ kind: 'until' as const, day: '2027-03-31' }),
    fc.integer({ min: 1, max: 99 }).map((times) => ({ kind: 'times' as const, times: String(times) })),
  ),
});

test('law: a rule that was made of slots fills the same slots again', () => {
  fc.assert(
    fc.property(anyDraft, (draft) => {
      const rule = ruleOf(draft) as string;
      expect(readRule(rule).ok).toBe(true);
      expect(ruleOf(draftOf(rule, DAY) as RuleDraft)).toBe(rule);
    }),
  );
});

test.each([
  'FREQ=YEARLY',
  'FREQ=DAILY;BYMONTH=6',
  'FREQ=WEEKLY;BYDAY=MO;WKST=SU',
  'FREQ=MONTHLY;BYDAY=MO',
  'FREQ=MONTHLY;BYMONTHDAY=1,15',
  'nonsense',
])('%s has no slots', (rule) => {
  expect(draftOf(rule, DAY)).toBeNull();
});

test('the days of a month that are offered are those near the day, and the one that is chosen', () => {
  const choices = monthDayChoices(DAY, { kind: 'date', date: 7 });
  expect(choices.map(({ name }) => name)).toEqual([
    'the 7th',
    'the 24th',
    'the fourth Tuesday',
    'the last Tuesday',
    'the first working day',
    'the last working day',
    'the 1st',
    'the 15th',
    'the last day',
  ]);
  for (const { id } of choices) expect(idOf(monthDayFrom(id))).toBe(id);
  expect(draftFrom('2026-12-31').monthDay).toEqual({ kind: 'date', date: -1 });
});

test('a slot takes whole numbers from 1 to 99', () => {
  expect(['1', '99', ' 7 ', '0', '100', '1.5', ''].map(wholeOf)).toEqual([1, 99, 7, null, null, null, null]);
});
