// The type is of a day's shape: a text from outside is none before it was read (`isDay`, `isPlannableDay`), and a moment
// or a name cannot stand where a day is asked for.
/**
 * A calendar day as `2026-12-14`, in the agency's time zone.
 * @pattern ^\d{4}-\d{2}-\d{2}$
 */
export type IsoDay = `${number}-${number}-${number}`;

/** Days since 1970-01-01; the core's own arithmetic runs on these. */
export type DayNumber = number;

const DASH = 45;
const ZERO = 48;
const ERA_DAYS = 146_097;
const DAYS_TO_ERA = 719_468; // from 0000-03-01 to 1970-01-01

/** Day number of an ISO day, or null when the text is no such day (`2026-02-30`, `soon`). Inverse of `formatDay`. */
export function parseDay(text: unknown): DayNumber | null {
  if (typeof text !== 'string' || text.length !== 10 || text.charCodeAt(4) !== DASH || text.charCodeAt(7) !== DASH) return null;
  const year = digits(text, 0, 4);
  const month = digits(text, 5, 7);
  const date = digits(text, 8, 10);
  if (year < 0 || month < 1 || month > 12 || date < 1 || date > daysIn(year, month)) return null;
  const shiftedYear = month <= 2 ? year - 1 : year;
  const era = Math.floor(shiftedYear / 400);
  const yearOfEra = shiftedYear - era * 400;
  const ofYear = Math.floor((153 * (month > 2 ? month - 3 : month + 9) + 2) / 5) + date - 1;
  const ofEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + ofYear;
  return era * ERA_DAYS + ofEra - DAYS_TO_ERA;
}

/** Whether a text is a calendar day. */
export const isDay = (text: unknown): text is IsoDay => parseDay(text) !== null;

/** The number written in text[from … to − 1], or −1 when something else stands there. */
function digits(text: string, from: number, to: number): number {
  let value = 0;
  for (let index = from; index < to; index++) {
    const digit = text.charCodeAt(index) - ZERO;
    if (digit < 0 || digit > 9) return -1;
    value = value * 10 + digit;
  }
  return value;
}

function daysIn(year: number, month: number): number {
  if (month === 2) return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0 ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
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
  return `${String(year).padStart(4, '0')}-${month < 10 ? '0' : ''}${month}-${dayOfMonth < 10 ? '0' : ''}${dayOfMonth}` as IsoDay;
}

/** Weekday of a day number, Monday = 0 … Sunday = 6. */
export function weekdayOf(day: DayNumber): number {
  return (((day + 3) % 7) + 7) % 7;
}

const numberOf = (day: IsoDay): DayNumber => {
  const number = parseDay(day);
  if (number === null) throw new Error(`“${day}” is no calendar day`);
  return number;
};

/** A day moved by so many calendar days; `addDays('2026-12-31', 1)` is `2027-01-01`. The day must be one. */
export const addDays = (day: IsoDay, count: number): IsoDay => formatDay(numberOf(day) + count);

/** Calendar days from one day to another, negative when the other is earlier. Both must be days. */
export const daysBetween = (from: IsoDay, to: IsoDay): number => numberOf(to) - numberOf(from);

/** The Monday of the week a day is in. The day must be one. */
export const mondayOf = (day: IsoDay): IsoDay => addDays(day, -weekdayOf(numberOf(day)));

/** The week a day is in, from Monday to Sunday. The day must be one. */
export function weekOf(day: IsoDay): { readonly from: IsoDay; readonly to: IsoDay } {
  const from = mondayOf(day);
  return { from, to: addDays(from, 6) };
}

/** Plans have no days outside these years: a day further away is a typing mistake that would be expensive to compute. */
const [FIRST_PLANNABLE, LAST_PLANNABLE] = ['1990-01-01', '2199-12-31'];

/** Whether a text is a calendar day of the years 1990 to 2199. */
export const isPlannableDay = (text: unknown): text is IsoDay => isDay(text) && text >= FIRST_PLANNABLE && text <= LAST_PLANNABLE;
