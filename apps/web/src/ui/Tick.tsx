import { Checkbox } from 'react-aria-components';
import styled from 'styled-components';

/** A box to tick, with its words. */
export const Tick = styled(Checkbox)`
  display: flex;
  align-items: center;
  gap: 9px;
  min-width: 0;
  min-height: 24px;
  cursor: pointer;
  &::before {
    content: '';
    display: grid;
    place-items: center;
    flex: none;
    width: 15px;
    height: 15px;
    border-radius: 3px;
    border: 1.5px solid var(--ink-2);
    color: var(--on-petrol);
    font-size: 11px;
    font-weight: 700;
  }
  &[data-selected]::before {
    content: '✓';
    background: var(--petrol);
    border-color: var(--petrol);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--petrol);
    outline-offset: 3px;
  }
`;
