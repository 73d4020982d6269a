import styled from 'styled-components';

/** The agency's logo, on white in both themes: it was drawn for paper. */
export const Logo = styled.img`
  max-width: 150px;
  max-height: 44px;
  padding: 3px;
  border-radius: 5px;
  background: #fff;
`;
