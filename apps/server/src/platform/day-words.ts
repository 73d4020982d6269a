import { parseDay, weekdayOf, type IsoDay } from '@crew/core';

const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** A day as sentences say it: "Fri 27 Nov 2026". */
export function dayInWords(day: IsoDay): string {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  return `${WEEKDAYS[weekdayOf(parseDay(day) as number)]} ${date} ${MONTHS[month - 1]} ${year}`;
}
