import type { EngagementTrack, RoleStand } from '@crew/contract';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { HueMark, PersonMark } from '../../ui/marks.tsx';
import { phone } from '../../ui/tokens.ts';
import { SmallTrack, Track, type Scale } from '../../ui/Track.tsx';
import { count, hours, shortDay } from '../../words/format.ts';
import { standingWords, TONE_COLOUR } from '../../words/standing.ts';

/** The columns of the list, those of its head too. */
export const COLUMNS = '268px minmax(0, 1fr) 176px';

const Row = styled.li`
  display: grid;
  grid-template-columns: ${COLUMNS};
  align-items: center;
  min-height: 60px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  position: relative;
  &:last-child {
    border-bottom: 0;
  }
  &:hover {
    background: var(--sunk);
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
    gap: 7px;
    padding: 12px;
  }
`;
const Name = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  padding-right: 12px;
  min-width: 0;
  > div {
    flex: 1;
    min-width: 0;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
/** The whole row is the link; its text is only the name. */
const RowLink = styled(Link)`
  display: block;
  font-weight: 600;
  text-decoration: none;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  &::after {
    content: '';
    position: absolute;
    inset: 0;
  }
`;
const Time = styled.div`
  position: relative;
  height: 100%;
  display: flex;
  flex-direction: column;
  justify-content: center;
  padding-top: 12px;
  ${phone} {
    display: none;
  }
`;
const TodayLine = styled.span`
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 2px dotted var(--ink-2);
  pointer-events: none;
`;
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
const Stand = styled.div`
  padding-left: 14px;
  font-size: 12.5px;
  line-height: 1.3;
  strong {
    font-weight: 650;
  }
  small {
    display: block;
    font-size: 11.5px;
    color: var(--ink-2);
  }
  ${phone} {
    padding: 0;
  }
`;

interface RowProps {
  readonly track: EngagementTrack;
  readonly today: string;
  readonly scale: Scale;
  readonly isFinished: boolean;
}

/** One engagement along time with its standing; asked for roles, with what is theirs in it. */
export function TrackRow({ track, today, scale, isFinished }: RowProps) {
  const standing = standingWords(track.standing, today);
  const { stands } = track;
  const running = track.phases.find((phase) => phase.state === 'running') ?? track.phases.find((phase) => phase.state === 'ahead');
  return (
    <Row>
      <Name>
        <HueMark $hue={track.client.hue} style={{ minHeight: 34 }} />
        <div>
          <RowLink href={`/engagements/${track.id}`}>{track.name}</RowLink>
          <small>{track.client.name}</small>
        </div>
        <PersonMark person={track.lead} />
      </Name>
      <Time>
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
          {...(stands === null ? {} : { own: stands.phaseIds })}
        />
        {isFinished ? null : <TodayLine style={{ left: `${scale(today)}%` }} />}
      </Time>
      <PhoneTrack>
        <SmallTrack phases={track.phases} />
      </PhoneTrack>
      {stands === null ? (
        <Stand>
          <strong style={{ color: TONE_COLOUR[standing.tone] }} title={standing.reason}>
            {standing.text}
          </strong>
          <small>
            {hours(track.loggedMinutes)} of {hours(track.effortMinutes)} h used
          </small>
        </Stand>
      ) : (
        <Turn stands={stands} today={today} />
      )}
    </Row>
  );
}

/** What is the role's to do, and until when; hours and the rest of it are not its concern. */
function Turn({ stands, today }: { readonly stands: RoleStand; readonly today: string }) {
  const { isComing, openTasks, nextDue, until } = stands;
  const isLate = nextDue !== null && nextDue < today;
  return (
    <Stand>
      <strong style={isComing ? { color: 'var(--petrol)' } : undefined}>
        {isComing ? 'Waiting to be picked up' : openTasks === 0 ? 'Nothing left to do' : `${count(openTasks, 'task')} to do`}
      </strong>
      <small style={isLate && !isComing ? { color: 'var(--brick)' } : undefined}>
        {nextDue === null || isComing
          ? `until ${shortDay(until, today)}`
          : `${isLate ? 'was due' : 'next due'} ${shortDay(nextDue, today)}`}
      </small>
    </Stand>
  );
}

/** Near the right edge the word is written to the left, so that it is never cut off. */
function wordPlace(place: number): { left?: string; right?: string } {
  return place > 78 ? { right: `${Math.max(0, 100 - place)}%` } : { left: `${Math.max(0, place)}%` };
}
