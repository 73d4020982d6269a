import { daysBetween, mondayOf, type IsoDay } from '@crew/core';
import type { AgencyCalendar, PublicHoliday } from '@crew/contract';

/** A holiday in the list to tick, and why it is not ticked at first. */
export interface TickableHoliday extends PublicHoliday {
  readonly why: 'proposed' | 'optional' | 'day-off' | 'closed';
  readonly isProposed: boolean;
}

/** Holidays by year; ticked at first are those offices keep that fall on a working day and are not closed yet. */
export function daysOfYears(
  holidays: readonly PublicHoliday[],
  { week, closed }: Pick<AgencyCalendar, 'week' | 'closed'>,
): readonly { readonly year: string; readonly days: readonly TickableHoliday[] }[] {
  const taken = new Set(closed.map(({ day }) => day));
  const years = new Map<string, TickableHoliday[]>();
  for (const holiday of holidays) {
    const why = reasonFor(holiday, { isClosed: taken.has(holiday.day), isOff: (week[weekdayIndex(holiday.day)] ?? 0) === 0 });
    const year = holiday.day.slice(0, 4);
    years.set(year, [...(years.get(year) ?? []), { ...holiday, why, isProposed: why === 'proposed' }]);
  }
  return [...years].map(([year, days]) => ({ year, days }));
}

/** 0 for Monday. */
const weekdayIndex = (day: IsoDay): number => daysBetween(mondayOf(day), day);

function reasonFor({ isUsuallyClosed }: PublicHoliday, { isClosed, isOff }: { readonly isClosed: boolean; readonly isOff: boolean }) {
  if (isClosed) return 'closed';
  if (isOff) return 'day-off';
  return isUsuallyClosed ? 'proposed' : 'optional';
}

/** From October on: the next year, when nothing of it is closed yet; an agency that closes on holidays looks at its list each year. */
export function yearToReview(today: IsoDay, closed: AgencyCalendar['closed']): number | null {
  const next = Number(today.slice(0, 4)) + 1;
  if (today.slice(5, 7) < '10' || closed.length === 0) return null;
  return closed.some(({ day }) => day.startsWith(`${next}-`)) ? null : next;
}
