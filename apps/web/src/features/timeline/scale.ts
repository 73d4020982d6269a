import { shortMonth } from '@crew/contract';
import { daysBetween, type IsoDay } from '@crew/core';
/** Days along a line: whole calendar days since 1970, pixels, and what the head says. */

export const ZOOMS = ['days', 'weeks', 'months', 'quarters'] as const;
export type Zoom = (typeof ZOOMS)[number];

export const ZOOM_WORDS: Readonly<Record<Zoom, string>> = { days: 'Days', weeks: 'Weeks', months: 'Months', quarters: 'Quarters' };

const DAY_PX: Readonly<Record<Zoom, number>> = { days: 44, weeks: 12.5, months: 4.4, quarters: 1.7 };

/** A day as a number that can be counted with. */
export const dayNumber = (day: IsoDay): number => daysBetween('1970-01-01', day);

/** Places days along the line. Both ends are days that are shown whole. */
export interface TimeScale {
  readonly zoom: Zoom;
  readonly from: number;
  readonly to: number;
  readonly dayPx: number;
  readonly width: number;
  /** The left edge of a day in pixels; the right edge is that of the day after. */
  readonly x: (day: IsoDay) => number;
  readonly right: (day: IsoDay) => number;
  /** The day under a place. */
  readonly dayAt: (x: number) => number;
}

/** A scale over all days that matter, with some room around them, and over at least so many pixels. */
export function timeScale(days: readonly IsoDay[], zoom: Zoom, leastPx = 0): TimeScale {
  const numbers = days.map(dayNumber);
  const room = Math.ceil(60 / DAY_PX[zoom]);
  const from = Math.min(...numbers) - Math.min(room, 14);
  const dayPx = DAY_PX[zoom];
  const to = Math.max(Math.max(...numbers) + room, from + Math.floor(leastPx / dayPx) - 1);
  return scaleOf({ zoom, from, to, dayPx });
}

/** A scale on which all days that matter have room in so many pixels; the head says as much as can be read at that size. */
export function fittingScale(days: readonly IsoDay[], px: number): TimeScale {
  const numbers = days.map(dayNumber);
  const [first, last] = [Math.min(...numbers), Math.max(...numbers)];
  const room = Math.ceil((last - first) / 40) + 1;
  const [from, to] = [first - room, last + room];
  const dayPx = px / (to - from + 1);
  return scaleOf({ zoom: ZOOMS.find((zoom) => dayPx >= DAY_PX[zoom] * READABLE) ?? 'quarters', from, to, dayPx });
}

/** How much narrower than on the screen a day may be and its head still be read. */
const READABLE = 0.7;

function scaleOf({ zoom, from, to, dayPx }: Pick<TimeScale, 'zoom' | 'from' | 'to' | 'dayPx'>): TimeScale {
  const at = (number: number): number => (number - from) * dayPx;
  return {
    ...{ zoom, from, to, dayPx, width: Math.ceil((to - from + 1) * dayPx) },
    x: (day) => at(dayNumber(day)),
    right: (day) => at(dayNumber(day) + 1),
    dayAt: (x) => from + Math.floor(x / dayPx),
  };
}

export interface Tick {
  readonly day: number;
  readonly x: number;
  readonly label: string;
}

/** Where the head says which day, week, month or quarter begins; the year where it is another than before. */
export function ticksOf(scale: TimeScale): Tick[] {
  const ticks: Tick[] = [];
  let year = -1;
  for (let day = scale.from; day <= scale.to; day++) {
    const date = new Date(day * 86_400_000);
    if (!beginsTick(scale.zoom, date)) continue;
    const isNewYear = year !== -1 && date.getUTCFullYear() !== year;
    year = date.getUTCFullYear();
    ticks.push({ day, x: (day - scale.from) * scale.dayPx, label: tickLabel(scale.zoom, date, isNewYear) });
  }
  return ticks;
}

function beginsTick(zoom: Zoom, date: Date): boolean {
  if (zoom === 'days') return true;
  if (zoom === 'weeks') return date.getUTCDay() === 1;
  return date.getUTCDate() === 1 && (zoom === 'months' || date.getUTCMonth() % 3 === 0);
}

function tickLabel(zoom: Zoom, date: Date, isNewYear: boolean): string {
  const month = shortMonth(date.getUTCMonth());
  const year = isNewYear ? ` ${date.getUTCFullYear()}` : '';
  if (zoom === 'days')
    return date.getUTCDay() === 1 || date.getUTCDate() === 1 ? `${date.getUTCDate()} ${month}` : String(date.getUTCDate());
  if (zoom === 'weeks') return `${date.getUTCDate()} ${month}${year}`;
  return zoom === 'months' ? `${month}${year}` : `${month} – ${shortMonth(date.getUTCMonth() + 2)}${year}`;
}
