import type { WorkloadTask } from '@crew/contract';

/** A ticket laid on the days that are shown. */
export interface PlacedTicket {
  readonly task: WorkloadTask;
  readonly lane: number;
  readonly left: number;
  readonly width: number;
}

/** Lays tickets on as few lanes as they need; those outside the days are left out. */
export function packLanes(
  tasks: readonly WorkloadTask[],
  dates: readonly string[],
): { readonly placed: readonly PlacedTicket[]; readonly count: number } {
  const ends: number[] = [];
  const last = dates.length - 1;
  const placed = [...tasks]
    .sort((left, right) => left.start.localeCompare(right.start))
    .flatMap((task): PlacedTicket[] => {
      const first = dates.findIndex((date) => date >= task.start);
      const final = dates.findLastIndex((date) => date <= task.due);
      const from = first === -1 ? last + 1 : first;
      const to = task.due < (dates[0] ?? '') ? 0 : final;
      if (from > last || to < from) return [];
      const lane = ends.findIndex((end) => end < from);
      const place = lane === -1 ? ends.length : lane;
      ends[place] = to;
      return [{ task, lane: place, left: (from * 100) / dates.length, width: ((to - from + 1) * 100) / dates.length }];
    });
  return { placed, count: ends.length };
}
