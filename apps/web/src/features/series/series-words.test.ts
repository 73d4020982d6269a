import type { IsoDay } from '@crew/core';
import { care, line } from '../../../test/series-samples.ts';
import { laneUnits } from './unit-lanes.ts';
import { balanceWords, leftWords, nextWords, openWords, rhythmOn, rhythmWords } from './series-words.ts';

const TODAY = '2026-11-23';

test.each([
  ['FREQ=WEEKLY;BYDAY=MO', 1, '1 a week'],
  ['FREQ=WEEKLY;BYDAY=MO,WE,FR', 2, '6 a week'],
  ['FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', 1, '1 every second week'],
  ['FREQ=MONTHLY;BYMONTHDAY=20', 1, 'on the 20th of each month'],
  ['FREQ=MONTHLY;BYMONTHDAY=20', 2, '2 on the 20th of each month'],
  ['FREQ=WEEKLY;BYDAY=MO;COUNT=6', 1, 'every Monday, 6 times'],
])('%s, %i each, is “%s”', (rule, each, words) => {
  expect(rhythmWords({ from: '2026-11-02', rule, each }, TODAY)).toBe(words);
});

test('the rhythm of a day is the last that has begun, or the first there is', () => {
  const [first] = line.rhythms;
  const later = { from: '2026-12-07', rule: 'FREQ=WEEKLY;BYDAY=MO,WE,FR', each: 1, isAhead: true } as const;
  expect(rhythmOn([first!, later], '2026-12-06')).toBe(first);
  expect(rhythmOn([first!, later], '2026-12-07')).toBe(later);
  expect(rhythmOn([first!, later], '2026-01-01')).toBe(first);
});

test('what is open, what comes next, what is left of agreed hours', () => {
  expect(openWords(line, TODAY)).toBe('1 under way, 1 ahead');
  expect(openWords({ units: [] }, TODAY)).toBe('nothing open');
  expect(nextWords(line, TODAY)).toBe('next 7 Dec');
  expect(nextWords({ units: [], coming: [], stoppedOn: '2026-12-01' }, TODAY)).toBe('stopped from 1 Dec');
  expect(nextWords({ units: [], coming: [], stoppedOn: null }, TODAY)).toBe('nothing more to come');
  const [october, november] = care.units;
  expect(balanceWords(november!)).toBe('4.5 of 10 h left, 2 h carried in');
  expect(leftWords(october!.balance!)).toBe('1 h over 8 h');
  const over = { agreed: 480, carriedIn: 0, used: 300, left: 0, over: 0, isOver: true };
  expect(leftWords({ ...over, carriedOut: 120, lost: 60 })).toBe('2 of 8 h carried over, 1 h lost');
  expect(leftWords({ ...over, carriedOut: 0, lost: 180 })).toBe('3 of 8 h lost');
});

test('units that overlap stand under each other, at most four deep', () => {
  const unit = (id: string, start: IsoDay, finish: IsoDay) => ({
    id,
    name: id,
    state: 'open' as const,
    start,
    finish,
    promise: null,
    percent: 0,
  });
  const { placed, lanes } = laneUnits([
    unit('b', '2026-12-03', '2026-12-10'),
    unit('a', '2026-12-01', '2026-12-05'),
    unit('c', '2026-12-07', '2026-12-09'),
  ]);
  expect(placed.map(({ unit: { id }, lane }) => [id, lane])).toEqual([
    ['a', 0],
    ['b', 1],
    ['c', 0],
  ]);
  expect(lanes).toBe(2);
  expect(laneUnits(['a', 'b', 'c', 'd', 'e', 'f'].map((id) => unit(id, '2026-12-01', '2026-12-31'))).lanes).toBe(4);
});
