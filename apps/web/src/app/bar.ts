import { Button, Link } from 'react-aria-components';
import styled, { css } from 'styled-components';
import { phone } from '../ui/tokens.ts';

interface Looks {
  readonly $isHere: boolean;
  readonly $isWideOnly?: boolean | undefined;
}

const looks = css<Looks>`
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 6px 11px;
  border-radius: 6px;
  text-decoration: none;
  color: ${({ $isHere }) => ($isHere ? '#fff' : 'var(--bar-ink)')};
  background: ${({ $isHere }) => ($isHere ? 'var(--bar-2)' : 'transparent')};
  font-size: 13.5px;
  white-space: nowrap;
  &[data-hovered] {
    background: var(--bar-2);
  }
  &[data-focus-visible] {
    outline-color: var(--ember);
  }
  ${phone} {
    display: ${({ $isWideOnly }) => ($isWideOnly ? 'none' : 'flex')};
    position: relative;
    flex-direction: column;
    gap: 3px;
    padding: 6px 4px;
    background: transparent;
    font-size: 11px;
    &::before {
      content: '';
      width: 22px;
      height: 4px;
      border-radius: 2px;
      background: ${({ $isHere }) => ($isHere ? 'var(--ember)' : 'var(--bar-2)')};
    }
  }
`;
/** A place in the bar. */
export const Place = styled(Link)<Looks>`
  ${looks}
`;

/** What opens the places that are not in the bar. */
export const PlaceButton = styled(Button)<Looks>`
  ${looks}
  border: 0;
  font-family: inherit;
  cursor: pointer;
`;

/** How much waits there. */
export const Count = styled.span`
  ${phone} {
    position: absolute;
    top: -7px;
    right: 2px;
  }
  min-width: 16px;
  padding: 0 4px;
  border-radius: 8px;
  background: var(--ember);
  color: #1b1208;
  font-size: 11px;
  font-weight: 700;
  text-align: center;
  line-height: 16px;
`;
