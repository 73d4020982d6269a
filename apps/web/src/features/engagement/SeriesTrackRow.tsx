import styled from 'styled-components';
import type { IsoDay } from '@crew/core';
import type { EngagementTrack, StandingTone } from '@crew/contract';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import type { Scale } from '../../ui/Track.tsx';
import { count, hours } from '../../words/format.ts';
import { standingsWords, TONE_COLOUR } from '../../words/standing.ts';
import { countWords } from '../series/series-words.ts';
import { UnitTrack } from '../series/UnitTrack.tsx';
import { NameOfRow, RowLink, StandOfRow, TimeOfRow, TodayLine, TrackListRow } from './track-list.tsx';

const LowTime = styled(TimeOfRow)`
  padding-top: 0;
`;

interface RowProps {
  readonly series: NonNullable<EngagementTrack['series']>;
  readonly tracks: readonly EngagementTrack[];
  readonly today: IsoDay;
  readonly scale: Scale;
  readonly isFinished: boolean;
}

/** All of a series in one row: its units along time, and the worst of where they stand. */
export function SeriesTrackRow({ series, tracks, today, scale, isFinished }: RowProps) {
  const first = tracks[0] as EngagementTrack;
  const running = tracks.filter((track) => track.start <= today);
  const worst = worstOf(running.length === 0 ? tracks : running, today);
  const standing = standingsWords(worst.standing, today);
  const logged = tracks.reduce((sum, track) => sum + track.loggedMinutes, 0);
  const effort = tracks.reduce((sum, track) => sum + track.effortMinutes, 0);
  return (
    <TrackListRow>
      <NameOfRow>
        <HueMark $hue={first.client.hue} $height={34} />
        <div>
          <RowLink href={`/engagements/repeating/${series.id}`}>{series.name}</RowLink>
          <small>{first.client.name}</small>
        </div>
        <PersonMark person={first.lead} />
      </NameOfRow>
      <LowTime>
        <UnitTrack units={tracks} scale={scale} today={today} />
        {isFinished ? null : <TodayLine style={{ left: `${scale(today)}%` }} />}
      </LowTime>
      <StandOfRow>
        <strong style={{ color: TONE_COLOUR[standing.tone] }} title={[worst.name, standing.all].join(': ')}>
          {standing.text}
        </strong>
        <small title={`${hours(logged)} of ${hours(effort)} h used`}>
          {isFinished
            ? `${count(tracks.length, 'engagement')} · ${hours(logged)} h used`
            : countWords(running.length, tracks.length - running.length)}
        </small>
      </StandOfRow>
    </TrackListRow>
  );
}

const ORDER: readonly StandingTone[] = ['late', 'waiting', 'plain', 'on-time'];

/** The one somebody should look at first. */
function worstOf(tracks: readonly EngagementTrack[], today: IsoDay): EngagementTrack {
  const rankOf = ({ standing }: EngagementTrack): number => ORDER.indexOf(standingsWords(standing, today).tone);
  return [...tracks].sort((one, other) => rankOf(one) - rankOf(other))[0] as EngagementTrack;
}
