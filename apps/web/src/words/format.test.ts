import type { IsoDay } from '@crew/core';
import { agoWords, count, dayWords, effortWords, heldWords, hours, parseHours, sinceWords, spanWords } from './format.ts';
import { standingsWords, standingWords } from './standing.ts';

const TODAY = '2026-11-23';

test.each<[IsoDay, string]>([
  ['2026-11-23', 'today'],
  ['2026-11-26', 'Thu 26 Nov'],
  ['2027-01-04', 'Mon 4 Jan 2027'],
])('%s reads %s', (day, words) => {
  expect(dayWords(day, TODAY)).toBe(words);
});

test.each<[IsoDay, IsoDay, string]>([
  ['2026-11-03', '2026-11-04', '3 – 4 Nov'],
  ['2026-11-30', '2026-12-14', '30 Nov – 14 Dec'],
  ['2026-12-30', '2027-01-04', '30 Dec – 4 Jan 2027'],
  ['2027-01-18', '2027-02-03', '18 Jan – 3 Feb 2027'],
  ['2026-11-30', '2026-11-30', '30 Nov'],
])('%s to %s reads %s', (start, end, words) => {
  expect(spanWords(start, end, TODAY)).toBe(words);
});

test.each([
  ['1.5', 90],
  ['1,5', 90],
  ['1:30', 90],
  ['90m', 90],
  ['2h', 120],
  ['0.25', 15],
  ['', null],
  ['soon', null],
  ['1:75', null],
  ['-2', null],
])('hours typed as “%s” are %s minutes', (text, minutes) => {
  expect(parseHours(text)).toBe(minutes);
});

test('hours keep one decimal only when they need it', () => {
  expect([390, 480, 20, 0].map(hours)).toEqual(['6.5', '8', '0.3', '0']);
});

test('how long ago grows from minutes to days', () => {
  const now = Date.parse('2026-11-23T12:00:00Z');
  expect(['2026-11-23T11:20:00Z', '2026-11-23T07:00:00Z', '2026-11-20T12:00:00Z'].map((at) => sinceWords(at, now))).toEqual([
    '40 min',
    '5 h',
    '3 days',
  ]);
});

test('one is one, two are many', () => {
  expect([count(1, 'day'), count(2, 'day'), count(0, 'task')]).toEqual(['1 day', '2 days', '0 tasks']);
});

test('late is told with its days and its reason', () => {
  expect(standingWords({ kind: 'late', days: 8, finish: '2026-12-22' }, TODAY)).toEqual({
    tone: 'late',
    text: '8 days late',
    reason: 'Planned work ends 22 Dec',
  });
});

test('all reasons are said, and the worst gives the tone', () => {
  const standings = [
    { kind: 'not-picked-up', since: '' },
    { kind: 'late', days: 1, finish: '2026-12-22' },
    { kind: 'fixed-day-missed', days: 2 },
  ] as const;
  expect(standingsWords([...standings], TODAY)).toMatchObject({
    tone: 'waiting',
    all: 'Not picked up yet · 1 day late · Fixed day missed by 2 days',
    others: '1 day late · Fixed day missed by 2 days',
  });
});

test('what is left of an effort says when that is nothing', () => {
  const words = [effortWords(90, true), effortWords(0, true), effortWords(60, false), effortWords(0, false)];
  expect(words).toEqual(['1.5 h', 'no hours left', 'no estimate, 1 h', 'no estimate']);
});

test('a wait is told by the server’s clock, wherever the day begins', () => {
  const since = new Date(Date.now() + 86_400_000 - 3 * 3_600_000).toISOString();
  expect([heldWords(since, 86_400_000), agoWords(since, 86_400_000)]).toEqual(['3 h', '3 h ago']);
  expect(agoWords(new Date().toISOString(), 0)).toBe('just now');
});
