import { daysBetween, type IsoDay } from '@crew/core';

/** The days that are drawn against one another. */
export interface FinishDays {
  readonly today: IsoDay;
  readonly finish: IsoDay;
  readonly promise: IsoDay | null;
  readonly forecast: { readonly likely: IsoDay; readonly safe: IsoDay } | null;
}

interface Span {
  readonly from: number;
  readonly to: number;
}

/** Where each is drawn, from 0 (today) to 100 (a little after the last of them). */
export interface FinishPlaces {
  readonly planned: number;
  /** What of the plan comes after the promise. */
  readonly over: Span | null;
  readonly likely: Span | null;
  readonly promise: number | null;
}

/** Room after the last day, so that its sign is not at the edge. */
const ROOM = 1.06;

/** Places of the days on a line that begins today; what is past is at its beginning. */
export function finishPlaces({ today, finish, promise, forecast }: FinishDays): FinishPlaces {
  const all = [finish, ...(promise === null ? [] : [promise]), ...(forecast === null ? [] : [forecast.likely, forecast.safe])];
  const length = Math.max(1, ...all.map((day) => daysBetween(today, day))) * ROOM;
  const placeOf = (day: IsoDay): number => (Math.max(0, daysBetween(today, day)) * 100) / length;
  const planned = placeOf(finish);
  const promised = promise === null ? null : placeOf(promise);
  return {
    planned,
    over: promised !== null && planned > promised ? { from: promised, to: planned } : null,
    likely: forecast === null ? null : { from: placeOf(forecast.likely), to: placeOf(forecast.safe) },
    promise: promised,
  };
}
