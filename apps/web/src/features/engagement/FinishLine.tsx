import type { IsoDay } from '@crew/core';
import styled from 'styled-components';
import { phone } from '../../ui/tokens.ts';
import { shortDay } from '../../words/format.ts';
import { finishPlaces, type FinishDays } from './finish-places.ts';

const Line = styled.span`
  position: relative;
  flex: 0 1 300px;
  min-width: 160px;
  height: 16px;
  &::before {
    content: '';
    position: absolute;
    inset: 7px 0 auto;
    height: 1px;
    background: var(--line);
  }
  i {
    position: absolute;
    border-radius: 1.5px;
  }
  ${phone} {
    flex-basis: 100%;
  }
`;
const HATCH = 'repeating-linear-gradient(90deg, var(--petrol-mid) 0 2px, transparent 2px 5px)';
/** Planned work from today on; what of it comes after the promise is over. */
const Planned = styled.i<{ $isOver?: boolean }>`
  top: 5px;
  height: 5px;
  background: ${({ $isOver = false }) => ($isOver ? 'var(--brick)' : 'var(--petrol)')};
`;
const Likely = styled.i`
  top: 11px;
  height: 4px;
  min-width: 4px;
  background: ${HATCH};
`;
const Promised = styled.i`
  top: 0;
  width: 2px;
  height: 16px;
  margin-left: -1px;
  background: var(--ink);
`;

/** The same signs beside the words that say their days. */
export const FinishKey = styled.span<{ $of: 'plan' | 'likely' | 'promise' }>`
  display: inline-block;
  vertical-align: middle;
  margin-right: 6px;
  ${({ $of }) =>
    $of === 'promise'
      ? 'width: 2px; height: 12px; background: var(--ink);'
      : `width: 14px; height: ${$of === 'plan' ? 5 : 4}px; border-radius: 1.5px; background: ${$of === 'plan' ? 'var(--petrol)' : HATCH};`}
`;

/** From today to the end: the plan against what is promised, and between what days the forecast expects it. */
export function FinishLine(days: FinishDays) {
  const { planned, over, likely, promise } = finishPlaces(days);
  return (
    <Line role="img" aria-label={lineWords(days)}>
      <Planned style={{ left: 0, width: `${planned}%` }} />
      {over === null ? null : <Planned $isOver style={{ left: `${over.from}%`, width: `${over.to - over.from}%` }} />}
      {likely === null ? null : <Likely style={{ left: `${likely.from}%`, width: `${likely.to - likely.from}%` }} />}
      {promise === null ? null : <Promised style={{ left: `${promise}%` }} />}
    </Line>
  );
}

function lineWords({ today, finish, promise, forecast }: FinishDays): string {
  const day = (one: IsoDay): string => shortDay(one, today);
  return [
    `Plan to ${day(finish)}`,
    ...(promise === null ? [] : [`promised ${day(promise)}`]),
    ...(forecast === null ? [] : [`likely ${day(forecast.likely)} to ${day(forecast.safe)}`]),
  ].join(', ');
}
