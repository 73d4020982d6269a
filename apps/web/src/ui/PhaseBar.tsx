import type { PhaseState } from '@crew/contract';
import styled from 'styled-components';

/** A phase drawn as a bar: full when over, an outline before it begins. Lay it out with `style` or by extending it. */
export const PhaseBar = styled.span<{ $state: PhaseState }>`
  position: relative;
  display: block;
  height: 14px;
  border-radius: 3px;
  overflow: hidden;
  border: 1.5px solid ${({ $state }) => ($state === 'ahead' ? 'var(--joint)' : 'var(--petrol)')};
  background: ${({ $state }) => ($state === 'over' ? 'var(--petrol)' : 'var(--panel)')};
`;

/** How much of a running phase's effort is done, inside its bar. */
export const PhaseFill = styled.span`
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--petrol);
  opacity: 0.86;
`;
