/** Minutes of some days added up. Over and free count each day for itself: room on Friday does not help on Monday. */
export interface DaySums {
  readonly capacity: number;
  readonly load: number;
  /** Load above capacity, and on how many days. */
  readonly over: number;
  readonly overDays: number;
  readonly free: number;
}

/** Adds up the days at `first … end − 1` of two lists of minutes, one place for each day; a place that is not there counts nothing. */
export function sumDays(
  { capacity, load }: { readonly capacity: ArrayLike<number>; readonly load: ArrayLike<number> },
  { first, end }: { readonly first: number; readonly end: number },
): DaySums {
  const sums = { capacity: 0, load: 0, over: 0, overDays: 0, free: 0 };
  for (let day = first; day < end; day++) {
    const [room, work] = [capacity[day] ?? 0, load[day] ?? 0];
    sums.capacity += room;
    sums.load += work;
    if (work > room) {
      sums.over += work - room;
      sums.overDays++;
    } else sums.free += room - work;
  }
  return sums;
}
