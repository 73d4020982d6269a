import { ENGLISH_DATES, nameDates, type DateNames } from '@crew/contract';

/** Languages whose names of days and months can be chosen. */
export const DATE_LANGUAGES = [
  { id: 'en', name: 'English' },
  { id: 'da', name: 'Dansk' },
  { id: 'de', name: 'Deutsch' },
  { id: 'es', name: 'Español' },
  { id: 'fr', name: 'Français' },
  { id: 'it', name: 'Italiano' },
  { id: 'nl', name: 'Nederlands' },
  { id: 'nb', name: 'Norsk' },
  { id: 'pl', name: 'Polski' },
  { id: 'pt', name: 'Português' },
  { id: 'fi', name: 'Suomi' },
  { id: 'sv', name: 'Svenska' },
] as const;
export type DateLanguage = (typeof DATE_LANGUAGES)[number]['id'];

const KEY = 'crew.dates';

/** The choice kept on this device. */
export const keptDateLanguage = (): DateLanguage => DATE_LANGUAGES.find(({ id }) => id === localStorage.getItem(KEY))?.id ?? 'en';

/** Names days and months in a language from now on, and keeps the choice. */
export function setDateLanguage(language: DateLanguage): void {
  localStorage.setItem(KEY, language);
  nameDates(namesIn(language));
}

const MONTHS = Array.from({ length: 12 }, (_, month) => new Date(Date.UTC(1970, month, 1)));

/** Short names without dots, as they read inside "Thu 26 Nov". */
function namesIn(language: DateLanguage): DateNames {
  if (language === 'en') return ENGLISH_DATES;
  const word = (options: Intl.DateTimeFormatOptions, date: Date): string =>
    new Intl.DateTimeFormat(language, { ...options, timeZone: 'UTC' }).format(date).replace('.', '');
  return {
    // 4 January 1970 was a Sunday.
    weekdays: [4, 5, 6, 7, 8, 9, 10].map((day) => word({ weekday: 'short' }, new Date(Date.UTC(1970, 0, day)))),
    months: MONTHS.map((month) => word({ month: 'short' }, month)),
    longMonths: MONTHS.map((month) => word({ month: 'long' }, month)),
  };
}
