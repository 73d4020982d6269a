import { Button } from 'react-aria-components';
import styled from 'styled-components';

/** Opens the whole row it stands in, which has `position: relative`; its text is only the name. */
export const RowButton = styled(Button)`
  padding: 0;
  border: 0;
  background: transparent;
  font-weight: 600;
  text-align: left;
  cursor: pointer;
  &::after {
    content: '';
    position: absolute;
    inset: 0;
  }
`;
