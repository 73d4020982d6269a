import type { SeriesUnit } from '@crew/contract';

/** Units under each other where they overlap in time. */
export interface UnitInLane {
  readonly unit: Pick<SeriesUnit, 'id' | 'name' | 'state' | 'start' | 'finish' | 'promise' | 'percent'>;
  readonly lane: number;
}

/** Beyond this many lanes units share the last one: a row stays a row. */
const MOST_LANES = 4;

/** Puts each unit into the first lane that is free on its first day. */
export function laneUnits(units: readonly UnitInLane['unit'][]): { readonly placed: readonly UnitInLane[]; readonly lanes: number } {
  const ends: string[] = [];
  const placed = [...units]
    .sort((one, other) => (one.start < other.start ? -1 : one.start > other.start ? 1 : 0))
    .map((unit): UnitInLane => {
      const free = ends.findIndex((end) => end < unit.start);
      const lane = free >= 0 ? free : Math.min(ends.length, MOST_LANES - 1);
      ends[lane] = unit.finish;
      return { unit, lane };
    });
  return { placed, lanes: Math.max(1, ends.length) };
}
