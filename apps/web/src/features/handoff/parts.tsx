import styled from 'styled-components';

/** A row of things with what is told of each at its right. */
export const List = styled.ul`
  > li {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 5px 0;
    border-top: 1px solid var(--line-2);
    &:first-child {
      border-top: 0;
    }
  }
  > li > span:last-of-type:not(:first-child) {
    margin-left: auto;
    color: var(--ink-2);
    font-size: 12px;
    text-align: right;
  }
`;

export const Line = styled.p`
  color: var(--ink-2);
  font-size: 12.5px;
  margin-top: 3px;
`;
