import { MenuItem } from 'react-aria-components';
import styled from 'styled-components';

/** One thing that can be done or chosen in a menu. */
export const MenuChoice = styled(MenuItem)`
  padding: 6px 10px;
  border-radius: 5px;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: var(--petrol-soft);
  }
`;
