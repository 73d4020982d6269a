import { daysBetween, type IsoDay } from '@crew/core';
import type { TrackPhase } from '@crew/contract';
import styled from 'styled-components';
import { Baton } from '../../ui/Baton.tsx';
import { PhaseBar, PhaseFill } from '../../ui/PhaseBar.tsx';
import { dayWords } from '../../words/format.ts';

const Scroll = styled.div`
  overflow-x: auto;
  padding-bottom: 2px;
`;
const Row = styled.ol`
  display: flex;
  align-items: end;
  min-width: max-content;
`;
const Part = styled.li`
  position: relative;
  min-width: max-content;
`;
const Name = styled.span<{ $state: TrackPhase['state'] }>`
  display: block;
  padding-right: 12px;
  font-size: 12px;
  font-weight: ${({ $state }) => ($state === 'running' ? 700 : 500)};
  color: ${({ $state }) => ($state === 'ahead' ? 'var(--ink-2)' : 'var(--ink)')};
`;
const Line = styled.span`
  display: flex;
  align-items: center;
  height: 20px;
`;
const Bar = styled(PhaseBar)`
  flex: 1;
  height: 16px;
  margin-right: 1px;
`;
const Today = styled.span`
  position: absolute;
  top: 17px;
  bottom: -2px;
  border-left: 2px dotted var(--ink);
`;

const daysOf = (phase: TrackPhase): number => Math.max(1, daysBetween(phase.start, phase.finish));

/** The engagement's phases along the head: wide ones are long, and every name can be read. */
export function PlanTrack({ phases, today }: { readonly phases: readonly TrackPhase[]; readonly today: IsoDay }) {
  return (
    <Scroll tabIndex={0} role="group" aria-label="Phases">
      <Row>
        {phases.map((phase, index) => (
          <Part
            key={phase.id}
            style={{ flex: `${Math.sqrt(daysOf(phase))} 1 0` }}
            title={`${phase.stateLine} · ${dayWords(phase.start, today)} – ${dayWords(phase.finish, today)}`}
          >
            <Name $state={phase.state}>{phase.name}</Name>
            <Line>
              <Bar $state={phase.state}>{phase.state === 'running' ? <PhaseFill style={{ width: `${phase.percent}%` }} /> : null}</Bar>
              {index === phases.length - 1 ? null : <Baton state={phase.baton} />}
            </Line>
            {phase.state === 'running' && today >= phase.start ? (
              <Today style={{ left: `${todayShare(phase, today)}%` }} title="today" />
            ) : null}
          </Part>
        ))}
      </Row>
    </Scroll>
  );
}

function todayShare(phase: TrackPhase, today: IsoDay): number {
  const length = Date.parse(phase.finish) - Date.parse(phase.start) + 86_400_000;
  return Math.min(96, ((Date.parse(today) - Date.parse(phase.start) + 43_200_000) * 100) / length);
}
