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

/** Things of a list, one below the other. */
export const ListRows = styled.ul`
  > li:first-child {
    border-top: 0;
  }
`;

/** A name to be edited, what can be done with it, and below where it is used. */
export const ListRow = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  gap: 0 10px;
  min-height: 46px;
  padding: 5px 0;
  border-top: 1px solid var(--line-2);
  font-weight: 600;
  small {
    grid-column: 1 / -1;
    color: var(--ink-2);
    font-size: 12px;
    font-weight: 400;
  }
`;

/** A glyph and what it means. */
export const MeaningRow = styled.li`
  display: flex;
  gap: 12px;
  padding: 7px 0;
  border-top: 1px solid var(--line-2);
  > :first-child {
    margin-top: 4px;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12.5px;
  }
`;

/** A form of one line above a list. */
export const NewLine = styled.form`
  display: flex;
  flex-direction: column;
  gap: 4px;
  margin-bottom: 8px;
  padding-bottom: 10px;
  border-bottom: 1px solid var(--line-2);
  > div:last-child {
    display: flex;
    gap: 8px;
  }
`;
