import type { Occurrence, IsoDay } from '@crew/core';
import styled from 'styled-components';
import { PhaseBar, PhaseFill } from '../../ui/PhaseBar.tsx';
import type { Scale } from '../../ui/Track.tsx';
import { laneUnits, type UnitInLane } from './unit-lanes.ts';

const Line = styled.div`
  position: relative;
`;
const Bar = styled(PhaseBar)`
  position: absolute;
  min-width: 5px;
  overflow: hidden;
`;
const Coming = styled.span`
  position: absolute;
  bottom: 0;
  width: 2px;
  background: var(--joint);
`;
const Overrun = styled.span`
  position: absolute;
  height: 3px;
  background: var(--brick);
`;

/** What is to come is a hint of how it goes on, not a fence. */
const SHOWN_COMING = 6;

const stateOf = (unit: UnitInLane['unit'], today: IsoDay): 'over' | 'running' | 'ahead' =>
  unit.state === 'finished' ? 'over' : unit.start > today ? 'ahead' : 'running';

/** The units of a series along time, under each other where they overlap; what is not created yet is a stroke on its day. */
export function UnitTrack({
  units,
  coming = [],
  scale,
  today,
}: {
  readonly units: readonly UnitInLane['unit'][];
  readonly coming?: readonly Occurrence[];
  readonly scale: Scale;
  readonly today: IsoDay;
}) {
  const { placed, lanes } = laneUnits(units);
  const height = lanes === 1 ? 14 : lanes === 2 ? 9 : 7;
  const pitch = height + 3;
  const visible = (percent: number): number => Math.min(100, Math.max(0, percent));
  return (
    <Line style={{ height: lanes * pitch }}>
      {placed.map(({ unit, lane }) => {
        const [left, right] = [visible(scale(unit.start)), visible(scale(unit.finish, 'end'))];
        if (right <= 0 || left >= 100) return null;
        const top = lane * pitch;
        const isLate = unit.promise !== null && unit.finish > unit.promise;
        const end = isLate ? visible(scale(unit.promise ?? unit.finish, 'end')) : right;
        return (
          <span key={unit.id}>
            <Bar
              $state={stateOf(unit, today)}
              title={unit.name}
              style={{ left: `calc(${left}% + 1px)`, width: `calc(${right - left}% - 2px)`, top, height }}
            >
              {stateOf(unit, today) === 'running' ? <PhaseFill style={{ width: `${unit.percent}%` }} /> : null}
            </Bar>
            {isLate ? (
              <Overrun style={{ left: `${end}%`, width: `${right - end}%`, top: top + height }} title="beyond the promise" />
            ) : null}
          </span>
        );
      })}
      {coming.slice(0, SHOWN_COMING).map(({ day, on }) => {
        const percent = scale(on);
        return percent <= 0 || percent >= 100 ? null : (
          <Coming key={day} style={{ left: `${percent}%`, height: Math.min(14, lanes * pitch - 3) }} title="not created yet" />
        );
      })}
    </Line>
  );
}
