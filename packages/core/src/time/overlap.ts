/** A stretch of work on one day: minutes from a minute of the day on; without a start nobody knows when it was. */
export interface WorkedStretch {
  readonly id: string;
  readonly start: number | null;
  readonly minutes: number;
}

/** Two stretches that share minutes. */
export interface Overlap {
  readonly first: string;
  readonly second: string;
  readonly minutes: number;
}

/**
 * Which stretches of one day cover the same minutes, each pair once, the earlier first. Those
 * without a start overlap nothing. Stretches that meet end to start do not overlap.
 */
export function findOverlaps(stretches: readonly WorkedStretch[]): readonly Overlap[] {
  const timed = stretches
    .flatMap(({ id, start, minutes }) => (start === null ? [] : [{ id, start, end: start + minutes }]))
    .sort((left, right) => left.start - right.start || (left.id < right.id ? -1 : 1));
  return timed.flatMap((first, index) =>
    timed
      .slice(index + 1)
      .filter((second) => second.start < first.end)
      .map((second) => ({ first: first.id, second: second.id, minutes: Math.min(first.end, second.end) - second.start })),
  );
}
