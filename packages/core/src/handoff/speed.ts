/** One handoff that was made: the phase it closed, and how it was picked up. */
export interface PassedCase {
  /** The month it was handed off first in, as `2026-11`. */
  readonly month: string;
  /** Where its phase is counted: the phase's name, its role, or whoever handed it off. */
  readonly key: string;
  /** Where its wait is counted, if that is elsewhere: by person, whoever received it. */
  readonly waitKey?: string;
  /** Working days its phase took, and those planned for it; null where nothing is known. */
  readonly days: number | null;
  readonly plannedDays: number | null;
  /** Working minutes it lay with whoever was to pick it up; null while it still does. */
  readonly waitMinutes: number | null;
  readonly isBack: boolean;
}

/** What the cases of a month add up to; null where there is no case. */
export interface SpeedPoint {
  readonly month: string;
  readonly cases: number;
  readonly days: number | null;
  readonly waits: number;
  readonly waitMinutes: number | null;
  readonly back: number;
}

export interface SpeedColumn {
  readonly key: string;
  readonly cases: number;
  readonly plannedDays: number | null;
  /** One for each month asked for. */
  readonly points: readonly SpeedPoint[];
}

/**
 * Handoff times by month, in columns: the median of working days in the phase, the median of working
 * minutes until it is picked up, and how many came back. A month is that of the first handing off.
 */
export function passSpeed(
  cases: readonly PassedCase[],
  { keys, months }: { readonly keys: readonly string[]; readonly months: readonly string[] },
): SpeedColumn[] {
  return keys.map((key) => {
    const own = cases.filter((one) => one.key === key);
    const waiting = cases.filter((one) => (one.waitKey ?? one.key) === key);
    return {
      key,
      cases: own.length,
      plannedDays: medianOf(own.flatMap(({ plannedDays }) => plannedDays ?? [])),
      points: months.map((month) => pointOf(month, { own: own.filter(isOf(month)), waiting: waiting.filter(isOf(month)) })),
    };
  });
}

const isOf =
  (month: string) =>
  (one: PassedCase): boolean =>
    one.month === month;

function pointOf(
  month: string,
  { own, waiting }: { readonly own: readonly PassedCase[]; readonly waiting: readonly PassedCase[] },
): SpeedPoint {
  const waited = waiting.flatMap(({ waitMinutes }) => waitMinutes ?? []);
  return {
    month,
    cases: own.length,
    days: medianOf(own.flatMap(({ days }) => days ?? [])),
    waits: waited.length,
    waitMinutes: roundedMedianOf(waited),
    back: own.filter(({ isBack }) => isBack).length,
  };
}

/** The median; of an even number of values the middle of the two in the middle. Null for none. */
export function medianOf(values: readonly number[]): number | null {
  const sorted = [...values].sort((left, right) => left - right);
  const middle = Math.floor(sorted.length / 2);
  const [low, high] = [sorted[sorted.length % 2 === 0 ? middle - 1 : middle], sorted[middle]];
  return low === undefined || high === undefined ? null : (low + high) / 2;
}

/** As `medianOf`, in whole numbers. */
export function roundedMedianOf(values: readonly number[]): number | null {
  const median = medianOf(values);
  return median === null ? null : Math.round(median);
}
