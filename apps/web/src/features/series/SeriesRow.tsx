import styled from 'styled-components';
import { Toned } from '../../ui/text.tsx';
import type { IsoDay } from '@crew/core';
import type { SeriesView } from '@crew/contract';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { MonthTicks, NameOfRow, RowLink, StandOfRow, TimeOfRow, TodayLine, TrackHead, TrackListRow } from '../engagement/track-list.tsx';
import { trackWindow, type TrackWindow } from '../engagement/window.ts';
import { balanceWords, leftWords, nextWords, openUnits, openWords, rhythmOn, rhythmWords } from './series-words.ts';
import { UnitTrack } from './UnitTrack.tsx';

const Indented = styled.span`
  padding-left: 14px;
`;

const LowTime = styled(TimeOfRow)`
  padding-top: 0;
`;

/** The time all series are drawn on. */
export function seriesWindow(all: readonly SeriesView[], today: IsoDay): TrackWindow {
  const spans = all.flatMap((series) => [
    ...series.units.map(({ start, finish, promise }) => ({ phases: [{ start }], finish, promise })),
    ...series.coming.slice(0, 6).map(({ on }) => ({ phases: [{ start: on }], finish: on, promise: null })),
  ]);
  return trackWindow(spans, today);
}

/** The head of a list along time, with its months and today. */
export function MonthHead({ window, today }: { readonly window: TrackWindow; readonly today: IsoDay }) {
  return (
    <TrackHead aria-hidden="true">
      <span>client · series · lead</span>
      <MonthTicks window={window} today={today} />
      <Indented>how it goes</Indented>
    </TrackHead>
  );
}

/** One series as a row: its units along time, how often, what is left of what was agreed. */
export function SeriesRow({
  series,
  window,
  today,
}: {
  readonly series: SeriesView;
  readonly window: TrackWindow;
  readonly today: IsoDay;
}) {
  const rhythm = rhythmOn(series.rhythms, today);
  const current = openUnits(series, today).running.at(-1) ?? series.units.at(-1);
  return (
    <TrackListRow as="li">
      <NameOfRow>
        <HueMark $hue={series.client.hue} $height={34} />
        <div>
          <RowLink href={`/engagements/repeating/${series.id}`}>{series.name}</RowLink>
          <small>{series.client.name}</small>
        </div>
        <PersonMark person={series.lead} />
      </NameOfRow>
      <LowTime>
        <UnitTrack units={series.units} coming={series.coming} scale={window.scale} today={today} />
        <TodayLine style={{ left: `${window.scale(today)}%` }} />
      </LowTime>
      <StandOfRow>
        <Toned title={current === undefined ? undefined : balanceWords(current)} as="strong" $tone={current?.balance?.over ? 'bad' : null}>
          {current === undefined || current.balance === null ? openWords(series, today) : leftWords(current.balance)}
        </Toned>
        <small>{rhythm === undefined || series.stoppedOn !== null ? nextWords(series, today) : rhythmWords(rhythm, today)}</small>
      </StandOfRow>
    </TrackListRow>
  );
}
