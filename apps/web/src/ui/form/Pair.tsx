import styled from 'styled-components';

/** Two fields beside each other. */
export const Pair = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
`;
