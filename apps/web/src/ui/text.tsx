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

/** Said beside what matters more. */
export const Quiet = styled.span`
  color: var(--ink-2);
`;

/** Beside a heading or a name, in its size. */
export const Light = styled.span`
  color: var(--ink-2);
  font-weight: 400;
`;

/** One line that ends in dots where there is no room; give it a title. */
export const Clipped = styled.span`
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
`;

/** A line or two that explain what stands there; alone in a panel with the panel's padding. */
export const Note = styled.p<{ $isSmall?: boolean; $isPanel?: boolean }>`
  color: var(--ink-2);
  margin: 4px 0 8px;
  ${({ $isPanel = false }) => ($isPanel ? 'margin: 0; padding: 12px 14px;' : '')}
  ${({ $isSmall }) => ($isSmall === true ? 'font-size: 12.5px;' : '')}
`;

const TONES = { bad: 'var(--brick)', waiting: 'var(--amber)', good: 'var(--moss)', quiet: 'var(--ink-2)' } as const;

/** What is late or over, what waits for somebody, what is done or eased; in the colour around it when it is none of these. */
export const Toned = styled.span<{ $tone: keyof typeof TONES | null }>`
  && {
    ${({ $tone }) => ($tone === null ? '' : `color: ${TONES[$tone]};`)}
  }
`;

/** An answer of before, while the next one is worked out. */
export const Earlier = styled.div<{ $isEarlier: boolean }>`
  opacity: ${({ $isEarlier }) => ($isEarlier ? 0.6 : 1)};
`;
