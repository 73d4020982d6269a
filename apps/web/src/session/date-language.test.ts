import { dayWords } from '@crew/contract';
import type { IsoDay } from '@crew/core';
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
