import { dayWords, fullDay } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { parseDayWords } from '../words/parse-day.ts';
import { DATE_LANGUAGES, keptDateLanguage, setDateLanguage } from './date-language.ts';

const isoDay = (text: string): IsoDay => text as IsoDay;
afterEach(() => setDateLanguage('en'));

test('dates read in the language chosen, and the choice is kept', () => {
  expect(keptDateLanguage()).toBe('en');
  expect(dayWords('2026-12-17', '2026-11-23')).toBe('Thu 17 Dec');
  setDateLanguage('de');
  expect(keptDateLanguage()).toBe('de');
  expect(dayWords('2026-12-17', '2026-11-23')).toBe('Do 17 Dez');
  setDateLanguage('en');
  expect(dayWords('2026-12-17', '2026-11-23')).toBe('Thu 17 Dec');
});

test.each(DATE_LANGUAGES.map(({ id }) => id))('in %s no two days and no two months have the same name', (language) => {
  setDateLanguage(language);
  const days = Array.from({ length: 7 }, (_, index) => dayWords(isoDay(`2026-11-0${index + 1}`), '2026-01-01').split(' ')[0]);
  const months = Array.from(
    { length: 12 },
    (_, index) => dayWords(isoDay(`2026-${String(index + 1).padStart(2, '0')}-03`), '2026-06-30').split(' ')[2],
  );
  expect(new Set(days).size).toBe(7);
  expect(new Set(months).size).toBe(12);
  expect([...days, ...months].filter((name) => name === undefined || name === '' || name.includes('.'))).toEqual([]);
});

test.each(DATE_LANGUAGES.map(({ id }) => id))('in %s every day is read back from the words it is shown in', (language) => {
  setDateLanguage(language);
  const days = Array.from({ length: 12 }, (_, index) => isoDay(`2026-${String(index + 1).padStart(2, '0')}-17`));
  expect(days.map((day) => parseDayWords(fullDay(day), isoDay('2026-06-30')))).toEqual(days);
});

test.each([
  ['de', '3 märz', '2027-03-03'],
  ['de', 'do', '2026-11-26'],
  ['fr', '4 juillet', '2027-07-04'],
  ['fr', '4 juin', '2027-06-04'],
  ['de', '14 dec', '2026-12-14'],
] as const)('in %s “%s” is read, and English still is', (language, typed, day) => {
  setDateLanguage(language);
  expect(parseDayWords(typed, isoDay('2026-11-23'))).toBe(day);
});
