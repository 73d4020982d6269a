/** A calendar day as `2026-12-14`, in the agency's time zone. */
export type IsoDay = string;

/** Days since 1970-01-01; the core's own arithmetic runs on these. */
export type DayNumber = number;

const DAY_MS = 86_400_000;
const ERA_DAYS = 146_097;
const DAYS_TO_ERA = 719_468; // from 0000-03-01 to 1970-01-01
const SHAPE = /^\d{4}-\d{2}-\d{2}$/;

/** Day number of an ISO day, or null when the text is no such day (`2026-02-30`, `soon`). */
export function parseDay(text: string): DayNumber | null {
  if (!SHAPE.test(text)) return null;
  const time = Date.parse(`${text}T00:00:00Z`);
  if (Number.isNaN(time)) return null;
  const day = time / DAY_MS;
  // Some engines roll 30 February over instead of refusing it.
  return formatDay(day) === text ? day : null;
}

/** ISO text of a day number: the proleptic Gregorian calendar counted in 400-year eras from 1 March. */
export function formatDay(day: DayNumber): IsoDay {
  const shifted = day + DAYS_TO_ERA;
  const era = Math.floor(shifted / ERA_DAYS);
  const ofEra = shifted - era * ERA_DAYS;
  const yearOfEra = Math.floor((ofEra - Math.floor(ofEra / 1460) + Math.floor(ofEra / 36_524) - Math.floor(ofEra / 146_096)) / 365);
  const ofYear = ofEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const marchMonth = Math.floor((5 * ofYear + 2) / 153);
  const dayOfMonth = ofYear - Math.floor((153 * marchMonth + 2) / 5) + 1;
  const month = marchMonth < 10 ? marchMonth + 3 : marchMonth - 9;
  const year = yearOfEra + era * 400 + (month <= 2 ? 1 : 0);
  return `${String(year).padStart(4, '0')}-${month < 10 ? '0' : ''}${month}-${dayOfMonth < 10 ? '0' : ''}${dayOfMonth}`;
}

/** Weekday of a day number, Monday = 0 … Sunday = 6. */
export function weekdayOf(day: DayNumber): number {
  return (((day + 3) % 7) + 7) % 7;
}
