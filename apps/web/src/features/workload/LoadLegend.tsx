import styled from 'styled-components';
import { Legend } from '../../ui/layout.tsx';

const Key = styled.i<{ $part: 'planned' | 'full' | 'likely' | 'over' | 'away' }>`
  width: 16px;
  height: 10px;
  border-radius: 2px;
  ${({ $part }) => LOOKS[$part]}
`;

const hatched = (ground: string, line: string): string =>
  `background: repeating-linear-gradient(135deg, var(--${line}) 0 1.2px, var(--${ground}) 1.2px 4px);`;

const LOOKS = {
  planned: 'background: var(--petrol-mid);',
  full: 'background: var(--petrol);',
  likely: 'background: var(--petrol-soft); box-shadow: inset 0 0 0 1px var(--petrol-mid);',
  over: hatched('brick-soft', 'brick'),
  away: hatched('sunk', 'line'),
} as const;

/** What the bars of the load grid mean. */
export function LoadLegend() {
  return (
    <Legend aria-label="What the bars mean">
      <span>
        <Key $part="planned" /> planned
      </span>
      <span>
        <Key $part="full" /> a full day
      </span>
      <span>
        <Key $part="likely" /> likely: proposals, and repeating work not created yet
      </span>
      <span>
        <Key $part="over" /> over capacity
      </span>
      <span>
        <Key $part="away" /> away
      </span>
    </Legend>
  );
}
