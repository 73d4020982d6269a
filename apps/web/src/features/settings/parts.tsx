import styled from 'styled-components';
import { phone } from '../../ui/tokens.ts';

/** Panels beside each other, one below the other where there is no room. */
export const Columns = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 14px;
  align-items: start;
  > div {
    display: grid;
    gap: 14px;
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
  }
`;

/** A form of a few fields in a panel. */
export const PanelForm = styled.form`
  display: flex;
  flex-direction: column;
  gap: 4px;
  max-width: 360px;
`;
