import { addDays, type IsoDay } from '@crew/core';
import { shortMonth, type EngagementState } from '@crew/contract';
import { dayScale, type Scale } from '../../ui/Track.tsx';

/** The stretch of time the tracks are drawn on. */
export interface TrackWindow {
  readonly from: IsoDay;
  readonly to: IsoDay;
  readonly scale: Scale;
}

const MOST_DAYS_BACK = 90;
const MOST_DAYS_AHEAD = 150;

/** What takes a stretch of time. */
interface Spanning {
  readonly phases: readonly { readonly start: IsoDay }[];
  readonly finish: IsoDay;
  readonly promise: IsoDay | null;
  readonly state?: EngagementState;
  readonly forecast?: { readonly likely: IsoDay } | null;
}

/** From the first start to the last finish or promise, but no further from today than reads well, unless the whole is asked for. */
export function trackWindow(tracks: readonly Spanning[], today: IsoDay, isWhole = false): TrackWindow {
  const starts = tracks.flatMap((track) => track.phases.map((phase) => phase.start)).sort();
  // An engagement that was closed without being finished has no days ahead.
  const ends = tracks
    .flatMap(({ state, finish, promise, forecast }) =>
      state === 'dropped' ? [finish] : [finish, promise ?? finish, forecast?.likely ?? finish],
    )
    .sort();
  const isFree = isWhole || (ends.at(-1) ?? today) < today;
  const first = starts[0] ?? today;
  const last = ends.at(-1) ?? today;
  const from = isFree || first > addDays(today, -MOST_DAYS_BACK) ? first : addDays(today, -MOST_DAYS_BACK);
  const to = isFree || last < addDays(today, MOST_DAYS_AHEAD) ? last : addDays(today, MOST_DAYS_AHEAD);
  return { from, to: addDays(to, 4), scale: dayScale(addDays(from, -2), addDays(to, 4)) };
}

/** The first of each month in the window, with its name; the year only in January. */
export function monthTicks(window: TrackWindow): readonly { readonly day: IsoDay; readonly name: string }[] {
  const ticks: { day: IsoDay; name: string }[] = [];
  let year = Number(window.from.slice(0, 4));
  let month = Number(window.from.slice(5, 7));
  for (;;) {
    month++;
    if (month > 12) {
      month = 1;
      year++;
    }
    const day = `${year}-${String(month).padStart(2, '0')}-01` as IsoDay;
    if (day > window.to) return ticks;
    ticks.push({ day, name: `${shortMonth(month - 1)}${month === 1 ? ` ${year}` : ''}` });
  }
}
