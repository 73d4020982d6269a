import { addDays, isPlannableDay, type IsoDay } from '@crew/core';
import type { HolidayCountry, PublicHoliday } from '@crew/contract';
import Holidays from 'date-holidays';
import { Refusal } from '../platform/refusal.ts';

const DAY_MS = 86_400_000;

/** Countries whose public holidays are known, by name, with their regions where those have days of their own. */
export function holidayCountries(): HolidayCountry[] {
  const known = new Holidays();
  return Object.entries(known.getCountries('en'))
    .map(([id, name]) => ({ id, name, regions: regionsOf(known, id) }))
    .sort((left, right) => left.name.localeCompare(right.name));
}

const regionsOf = (known: Holidays, country: string): HolidayCountry['regions'] =>
  Object.entries((known.getStates(country, 'en') as Readonly<Record<string, string>> | undefined) ?? {})
    .map(([id, name]) => ({ id, name }))
    .sort((left, right) => left.name.localeCompare(right.name));

/** Whether holidays of a place are known. */
export function isHolidayPlace(country: string, region: string | null): boolean {
  const known = new Holidays();
  if (known.getCountries()[country] === undefined) return false;
  return region === null || regionsOf(known, country).some(({ id }) => id === region);
}

/**
 * The holidays of a country, or of one of its regions, in a year, day by day; refuses a place that is not known.
 * Days on which offices usually work (bank and optional holidays) are told apart. From the package date-holidays, offline.
 */
export function holidaysOf(place: { readonly country: string; readonly region: string | null }, year: number): PublicHoliday[] {
  const { country, region } = place;
  if (!isHolidayPlace(country, region))
    throw new Refusal('invalid-input', 'Holidays of this place are not known. Choose from the list.', { field: 'country' });
  const calendar = region === null ? new Holidays(country) : new Holidays(country, region);
  const days = new Map<IsoDay, PublicHoliday>();
  for (const holiday of calendar.getHolidays(year, 'en')) {
    if (holiday.type === 'observance' || holiday.type === 'school') continue;
    const isUsuallyClosed = holiday.type === 'public';
    for (const day of daysOf(holiday)) {
      const before = days.get(day);
      if (before === undefined || (isUsuallyClosed && !before.isUsuallyClosed)) days.set(day, { day, name: holiday.name, isUsuallyClosed });
    }
  }
  return [...days.values()].sort((left, right) => left.day.localeCompare(right.day));
}

/** Most last a day; some begin the evening before and still are of their day, some last several. */
function daysOf({ date, start, end }: { readonly date: string; readonly start: Date; readonly end: Date }): IsoDay[] {
  const first = date.slice(0, 10);
  if (!isPlannableDay(first)) return [];
  const length = Math.max(1, Math.round((end.getTime() - start.getTime()) / DAY_MS));
  return Array.from({ length }, (_, index) => addDays(first, index));
}
