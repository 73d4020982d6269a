import type { EngagementTrack } from '@crew/contract';

/** A row of the list: an engagement, or all of a series in one. */
export type TrackListRow =
  | { readonly kind: 'one'; readonly track: EngagementTrack }
  | { readonly kind: 'series'; readonly series: NonNullable<EngagementTrack['series']>; readonly tracks: readonly EngagementTrack[] };

/** Those of one series become one row, with all there are of it, where the first of them stands. */
export function foldSeries(tracks: readonly EngagementTrack[], all: readonly EngagementTrack[] = tracks): readonly TrackListRow[] {
  const seen = new Set<string>();
  return tracks.flatMap((track): TrackListRow[] => {
    const { series } = track;
    if (series === null) return [{ kind: 'one', track }];
    if (seen.has(series.id)) return [];
    seen.add(series.id);
    return [{ kind: 'series', series, tracks: all.filter((other) => other.series?.id === series.id) }];
  });
}
