import type { IsoDay } from '@crew/core';
import type { EngagementTrack, RoleStand } from '@crew/contract';
import { Toned } from '../../ui/text.tsx';
import styled from 'styled-components';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { SmallTrack, Track, type Scale } from '../../ui/Track.tsx';
import { count, hours, shortDay } from '../../words/format.ts';
import { forecastSentence, likelyWords } from '../../words/forecast.ts';
import { standingsWords, TONE_COLOUR } from '../../words/standing.ts';
import { NameOfRow, RowLink, StandOfRow, TimeOfRow, TodayLine, TrackListRow } from './track-list.tsx';

const PhaseWord = styled.span`
  position: absolute;
  top: 4px;
  padding-right: 4px;
  font-size: 11px;
  white-space: nowrap;
  background: var(--panel);
  z-index: 1;
  strong {
    font-weight: 650;
  }
  color: var(--ink-2);
`;
const PhoneTrack = styled.div`
  display: none;
  ${phone} {
    display: block;
  }
`;
interface RowProps {
  readonly track: EngagementTrack;
  readonly today: IsoDay;
  readonly scale: Scale;
  readonly isFinished: boolean;
}

/** One engagement along time with its standing; asked for roles, with what is theirs in it. */
export function TrackRow({ track, today, scale, isFinished }: RowProps) {
  const { stands } = track;
  const running = track.phases.find((phase) => phase.state === 'running') ?? track.phases.find((phase) => phase.state === 'ahead');
  return (
    <TrackListRow>
      <NameOfRow>
        <HueMark $hue={track.client.hue} $height={34} />
        <div>
          <RowLink href={`/engagements/${track.id}`}>{track.name}</RowLink>
          <small>{track.client.name}</small>
        </div>
        <PersonMark person={track.lead} />
      </NameOfRow>
      <TimeOfRow>
        {stands !== null ? (
          <PhaseWord
            style={wordPlace(
              scale(track.phases.find((phase) => stands.phaseIds.includes(phase.id) && phase.name === stands.phase)?.start ?? today),
            )}
          >
            <strong>{stands.phase}</strong> {stands.stateLine}
          </PhaseWord>
        ) : running === undefined || isFinished ? null : (
          <PhaseWord style={wordPlace(scale(running.start))}>
            <strong>{running.name}</strong> {running.state === 'running' ? `${running.percent} % of its effort` : 'next'}
          </PhaseWord>
        )}
        <Track
          phases={track.phases}
          scale={scale}
          promise={track.promise}
          finish={track.finish}
          likely={track.forecast?.likely ?? null}
          {...(stands === null ? {} : { own: stands.phaseIds })}
        />
        {isFinished ? null : <TodayLine style={{ left: `${scale(today)}%` }} />}
      </TimeOfRow>
      <PhoneTrack>
        <SmallTrack phases={track.phases} />
      </PhoneTrack>
      {stands === null ? <WhereItStands track={track} today={today} /> : <Turn stands={stands} today={today} />}
    </TrackListRow>
  );
}

/** Every reason for where it stands, hours, and when it will likely be finished. */
function WhereItStands({ track, today }: { readonly track: EngagementTrack; readonly today: IsoDay }) {
  const { tone, text, reason, others, all } = standingsWords(track.standing, today);
  return (
    <StandOfRow title={[all, reason, forecastSentence(track, today)].filter((words) => words !== undefined && words !== '').join('. ')}>
      <strong style={{ color: TONE_COLOUR[tone] }}>{text}</strong>
      {others === '' ? null : <small>{others}</small>}
      {track.state === 'dropped' && reason !== undefined ? <small>{reason}</small> : null}
      <small>
        {hours(track.loggedMinutes)} of {hours(track.effortMinutes)} h used{likelyWords(track)}
      </small>
    </StandOfRow>
  );
}

/** The role's part of it, and until when; hours and the rest are left out. */
function Turn({ stands, today }: { readonly stands: RoleStand; readonly today: IsoDay }) {
  const { isComing, openTasks, nextDue, until } = stands;
  const isLate = nextDue !== null && nextDue < today;
  return (
    <StandOfRow>
      <strong style={isComing ? { color: 'var(--petrol)' } : undefined}>
        {isComing ? 'Waiting to be picked up' : openTasks === 0 ? 'Nothing left to do' : `${count(openTasks, 'task')} to do`}
      </strong>
      <Toned as="small" $tone={isLate && !isComing ? 'bad' : null}>
        {nextDue === null || isComing
          ? `until ${shortDay(until, today)}`
          : `${isLate ? 'was due' : 'next due'} ${shortDay(nextDue, today)}`}
      </Toned>
    </StandOfRow>
  );
}

/** Near the right edge the word is written to the left, so that it is never cut off. */
function wordPlace(percent: number): { left?: string; right?: string } {
  return percent > 78 ? { right: `${Math.max(0, 100 - percent)}%` } : { left: `${Math.max(0, percent)}%` };
}
