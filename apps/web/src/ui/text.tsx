import type { ReactNode } from 'react';
import styled from 'styled-components';

const TroubleText = styled.p`
  margin-top: 8px;
  color: var(--brick);
`;

/** What went wrong, where it went wrong; nothing while all is well. */
export const Trouble = ({ words }: { readonly words: string | null | undefined }) =>
  words === null || words === undefined ? null : <TroubleText role="alert">{words}</TroubleText>;

const Column = styled.div<{ $gap: number }>`
  display: flex;
  flex-direction: column;
  gap: ${({ $gap }) => $gap}px;
`;

/** Things one below the other, as in a form. */
export const Stack = ({ gap = 9, children }: { readonly gap?: number; readonly children: ReactNode }) => (
  <Column $gap={gap}>{children}</Column>
);
