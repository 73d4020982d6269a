import { Checkbox } from 'react-aria-components';
import styled from 'styled-components';

const Box = styled(Checkbox)`
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  margin: 0 -2px;
  opacity: 0;
  cursor: pointer;
  &::before {
    content: '';
    width: 14px;
    height: 14px;
    border: 1px solid var(--joint);
    border-radius: 3px;
    background: var(--panel);
  }
  &[data-selected]::before {
    content: '✓';
    display: grid;
    place-items: center;
    border-color: var(--petrol);
    background: var(--petrol);
    color: var(--panel);
    font-size: 11px;
    font-weight: 700;
  }
  [role='row']:hover &,
  [role='row']:focus-within &,
  [data-choosing] &,
  &[data-selected],
  &[data-focus-visible] {
    opacity: 1;
  }
  @media (pointer: coarse) {
    opacity: 1;
  }
`;

/** What carries this attribute chooses a row for what follows, and opens nothing. */
export const BOX = { 'data-box': true };

/**
 * Chooses a row together with others. Shown on the row that is looked at, on all of a list with `data-choosing`,
 * and always where there is no pointer to hover with.
 */
export const ChooseBox = ({ title }: { readonly title: string }) => <Box {...BOX} slot="selection" aria-label={`Choose ${title}`} />;
