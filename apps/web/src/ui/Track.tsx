import type { IsoDay } from '@crew/core';
import type { TrackPhase } from '@crew/contract';
import styled from 'styled-components';
import { Baton } from './Baton.tsx';
import { PhaseBar, PhaseFill } from './PhaseBar.tsx';

/** Turns a day into a place from 0 to 100 along the track; `end` means the end of that day. */
export type Scale = (day: IsoDay, edge?: 'start' | 'end') => number;

/** A linear scale over whole days, both included. */
export function dayScale(from: IsoDay, to: IsoDay): Scale {
  const first = Date.parse(from);
  const length = Date.parse(to) - first + 86_400_000;
  return (day, edge = 'start') => ((Date.parse(day) - first + (edge === 'end' ? 86_400_000 : 0)) * 100) / length;
}

const Line = styled.div`
  position: relative;
  height: 16px;
`;
const Bar = styled(PhaseBar)`
  position: absolute;
  top: 1px;
  min-width: 3px;
`;
const Joint = styled.span`
  position: absolute;
  top: 1px;
  margin-left: -7px;
`;
const Promise = styled.span`
  position: absolute;
  top: -4px;
  height: 24px;
  width: 2px;
  margin-left: -1px;
  background: var(--ink);
`;
const Overrun = styled.span<{ $isLikely: boolean }>`
  position: absolute;
  top: 18px;
  height: 3px;
  background: ${({ $isLikely }) =>
    $isLikely ? 'repeating-linear-gradient(90deg, var(--brick) 0 3px, transparent 3px 6px)' : 'var(--brick)'};
`;

/** An engagement as a row of phases along time, with its batons, promise and overrun. */
export function Track({
  phases,
  scale,
  promise,
  finish,
  likely,
  own,
}: {
  readonly phases: readonly TrackPhase[];
  readonly scale: Scale;
  readonly promise?: IsoDay | null;
  readonly finish?: IsoDay;
  /** When it will likely be finished, by its forecast. */
  readonly likely?: IsoDay | null;
  /** The phases that matter to whoever looks; the others step back. */
  readonly own?: readonly string[];
}) {
  return (
    <Line>
      {phases.map((phase) => {
        const left = visible(scale(phase.start));
        const right = visible(scale(phase.finish, 'end'));
        if (right <= 0 || left >= 100 || right - left < 0.05) return null;
        return (
          <Bar
            key={phase.id}
            $state={phase.state}
            title={`${phase.name}: ${phase.stateLine}`}
            style={{
              left: `calc(${left}% + 4px)`,
              width: `calc(${right - left}% - 8px)`,
              ...(own === undefined || own.includes(phase.id) ? {} : { opacity: 0.38 }),
            }}
          >
            {phase.state === 'running' ? <PhaseFill style={{ width: `${phase.percent}%` }} /> : null}
          </Bar>
        );
      })}
      {phases.slice(0, -1).map((phase) => {
        const percent = scale(phase.finish, 'end');
        return percent <= 0 || percent >= 100 ? null : (
          <Joint key={phase.id} style={{ left: `${percent}%` }}>
            <Baton state={phase.baton} />
          </Joint>
        );
      })}
      {promise ? <Promise style={{ left: `${visible(scale(promise, 'end'))}%` }} title="promised date" /> : null}
      {promise && finish && finish > promise ? (
        <Beyond {...{ from: promise, to: finish, scale }} title="planned past the promised date" />
      ) : null}
      {promise && finish && likely && likely > promise && likely > finish ? (
        <Beyond {...{ from: finish > promise ? finish : promise, to: likely, scale }} isLikely title="likely, by the forecast" />
      ) : null}
    </Line>
  );
}

/** What lies beyond the promise: planned, or only likely. */
function Beyond({
  from,
  to,
  scale,
  isLikely = false,
  title,
}: {
  readonly from: IsoDay;
  readonly to: IsoDay;
  readonly scale: Scale;
  readonly isLikely?: boolean;
  readonly title: string;
}) {
  const left = visible(scale(from, 'end'));
  return <Overrun $isLikely={isLikely} style={{ left: `${left}%`, width: `${visible(scale(to, 'end')) - left}%` }} title={title} />;
}

const visible = (place: number): number => Math.min(100, Math.max(0, place));

const Segments = styled.span`
  display: flex;
  align-items: center;
  gap: 1px;
`;
const Segment = styled(PhaseBar)`
  flex: 1;
  height: 11px;
`;

/** The same track where time has no room: one equal segment a phase. */
export function SmallTrack({ phases }: { readonly phases: readonly TrackPhase[] }) {
  return (
    <Segments>
      {phases.map((phase, index) => (
        <SegmentWithJoint key={phase.id} phase={phase} isLast={index === phases.length - 1} />
      ))}
    </Segments>
  );
}

function SegmentWithJoint({ phase, isLast }: { readonly phase: TrackPhase; readonly isLast: boolean }) {
  return (
    <>
      <Segment $state={phase.state} title={phase.name}>
        {phase.state === 'running' ? <PhaseFill style={{ width: `${phase.percent}%` }} /> : null}
      </Segment>
      {isLast ? null : <Baton state={phase.baton} size={10} />}
    </>
  );
}
