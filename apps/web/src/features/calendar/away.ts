import { addDays, daysBetween, type IsoDay } from '@crew/core';
import type { ClosedDayLine, TimeOffLine } from '@crew/contract';

/** How far ahead the strip looks. */
export const STRIP_DAYS = 7 * 20;

/** A part of the strip: where it begins and how wide it is, as shares of the whole. */
export interface Stretch {
  readonly left: number;
  readonly width: number;
}

/** Where days `from` to `to`, both included, stand in the strip that begins on `first`; null when they are not in it. */
export function stretchOf(from: IsoDay, to: IsoDay, first: IsoDay): Stretch | null {
  const begin = Math.max(0, daysBetween(first, from));
  const end = Math.min(STRIP_DAYS, daysBetween(first, to) + 1);
  return end <= begin ? null : { left: begin / STRIP_DAYS, width: (end - begin) / STRIP_DAYS };
}

/** The first days of the months in the strip, the first of them where the strip begins. */
export function monthsOf(first: IsoDay): { readonly day: IsoDay; readonly left: number }[] {
  const months: { day: IsoDay; left: number }[] = [];
  for (let index = 0; index < STRIP_DAYS; index += 1) {
    const day = addDays(first, index);
    if (index === 0 || day.endsWith('-01')) months.push({ day, left: index / STRIP_DAYS });
  }
  // A month of which only a few days are seen has no room for its name.
  return months.filter((month, index) => (months[index + 1]?.left ?? 1) - month.left > 0.06);
}

/** The people who are away in the strip, those away first on top. */
export function awayRows(timeOff: readonly TimeOffLine[], first: IsoDay) {
  const rows = new Map<string, { readonly person: TimeOffLine['person']; readonly spans: { line: TimeOffLine; stretch: Stretch }[] }>();
  for (const line of timeOff) {
    const stretch = stretchOf(line.from, line.to, first);
    if (stretch === null) continue;
    const row = rows.get(line.person.id) ?? { person: line.person, spans: [] };
    row.spans.push({ line, stretch });
    rows.set(line.person.id, row);
  }
  return [...rows.values()];
}

/** A run of closed days of one name: "Studio closed, 28 – 31 Dec". */
export interface ClosedRun {
  readonly name: string;
  readonly days: readonly IsoDay[];
}

/** Closed days by year, days next to each other under one name together. */
export function closedByYear(closed: readonly ClosedDayLine[]): { readonly year: string; readonly runs: readonly ClosedRun[] }[] {
  const years = new Map<string, { name: string; days: IsoDay[] }[]>();
  for (const { day, name } of closed) {
    const runs = years.get(day.slice(0, 4)) ?? [];
    const last = runs.at(-1);
    if (last?.name === name && daysBetween(last.days.at(-1) as IsoDay, day) === 1) last.days.push(day);
    else runs.push({ name, days: [day] });
    years.set(day.slice(0, 4), runs);
  }
  return [...years].map(([year, runs]) => ({ year, runs }));
}

/** Every day from one to another, both included; none when they stand the wrong way round. */
export function daysFrom(from: IsoDay, to: IsoDay): IsoDay[] {
  return Array.from({ length: Math.max(0, daysBetween(from, to) + 1) }, (_, index) => addDays(from, index));
}
