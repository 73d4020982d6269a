import { troubleWords } from '../api/client.ts';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { narrow, phone } from './tokens.ts';

export const Page = styled.div`
  padding: 18px 20px 40px;
  ${phone} {
    padding: 14px 12px 84px;
  }
  @media print {
    padding: 8px 0 0;
  }
`;
export const PageHead = styled.header`
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 8px 12px;
  min-height: 30px;
  margin-bottom: 12px;
`;
export const Push = styled.span`
  flex: 1;
`;
/** Things side by side: in further lines where there is no room, or shrinking in one line. */
export const Inline = styled.div<{ $gap?: number; $isOneLine?: boolean }>`
  display: flex;
  flex-wrap: ${({ $isOneLine = false }) => ($isOneLine ? 'nowrap' : 'wrap')};
  align-items: center;
  gap: ${({ $gap = 8 }) => $gap}px;
`;
/** A control as wide as what it says needs, in pixels, whatever is chosen. */
export const Fixed = styled.div<{ $width: number }>`
  width: ${({ $width }) => $width}px;
`;
export const Muted = styled.span`
  color: var(--ink-2);
  font-size: 12.5px;
  font-weight: 400;
`;
/** Padded: without head or body of its own. Space: to what stands above or below it. */
export const Panel = styled.section<{ $isPadded?: boolean; $space?: 'above' | 'below' }>`
  background: var(--panel);
  border: 1px solid var(--line);
  border-radius: 8px;
  min-width: 0;
  ${({ $isPadded = false }) => ($isPadded ? 'padding: 12px 14px;' : '')}
  ${({ $space }) => ($space === undefined ? '' : `margin-${$space === 'above' ? 'top' : 'bottom'}: 12px;`)}
`;
/** The heading of a panel without a head. */
export const PanelTitle = styled.h2`
  display: flex;
  align-items: baseline;
  gap: 8px;
  font-size: 15px;
`;
/** Plain: without a line below, where what follows has its own. */
export const PanelHead = styled.header<{ $isPlain?: boolean }>`
  display: flex;
  align-items: baseline;
  gap: 8px;
  padding: 12px 14px ${({ $isPlain = false }) => ($isPlain ? 6 : 10)}px;
  border-bottom: ${({ $isPlain = false }) => ($isPlain ? '0' : '1px solid var(--line-2)')};
  h2 {
    font-size: 15px;
  }
  ${phone} {
    flex-wrap: wrap;
  }
`;
/** What stands in a panel below its head, or alone in it. */
export const PanelBody = styled.div`
  padding: 10px 14px 12px;
`;
/** A list with a sheet beside it: the list keeps its place and stays usable. */
export const WithSheet = styled.div<{ $isOpen: boolean; $sheet?: string }>`
  display: grid;
  grid-template-columns: ${({ $isOpen, $sheet = '400px' }) => ($isOpen ? `minmax(0, 1fr) ${$sheet}` : 'minmax(0, 1fr)')};
  gap: 14px;
  align-items: start;
  > * {
    min-width: 0;
  }
  ${narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
  /* A sheet stays on the screen. */
  @media print {
    display: block;
  }
`;

const Nothing = styled.div`
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 8px;
  padding: 26px 18px;
  color: var(--ink-2);
  max-width: 62ch;
  strong {
    color: var(--ink);
  }
`;

/** What belongs here and the first step towards it. */
export function Empty({ title, children }: { readonly title: string; readonly children?: ReactNode }) {
  return (
    <Nothing>
      <strong>{title}</strong>
      {children}
    </Nothing>
  );
}

const Trouble = styled.div`
  padding: 12px 14px;
  border: 1px solid var(--brick);
  border-radius: 7px;
  background: var(--brick-soft);
  color: var(--ink);
  max-width: 70ch;
`;

/** What happened and what to do. */
export function ErrorNote({ error }: { readonly error: unknown }) {
  return <Trouble role="alert">{troubleWords(error)}</Trouble>;
}

const Still = styled.div<{ $rows: number }>`
  height: ${({ $rows }) => $rows * 40}px;
  border-radius: 8px;
  background: var(--panel);
  border: 1px solid var(--line);
  opacity: 0.6;
`;

/** Holds the layout while something loads. */
export function Loading({ rows = 8 }: { readonly rows?: number }) {
  return <Still $rows={rows} role="status" aria-label="Loading" />;
}

/** Hours worked against hours planned, in percent; of what is over, the part beyond stands in brick. */
export const Meter = styled.span<{ $part: number; $isOver?: boolean }>`
  display: block;
  height: 5px;
  border-radius: 3px;
  background: ${({ $part, $isOver = false }) =>
    $isOver && $part > 100
      ? `linear-gradient(to right, var(--petrol) ${10_000 / $part}%, var(--brick) 0)`
      : `linear-gradient(to right, ${$isOver ? 'var(--brick)' : 'var(--petrol-mid)'} ${Math.min(100, $part)}%, var(--line-2) 0)`};
`;

/** What the marks of a drawing mean, below it. */
export const Legend = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  margin: 12px 2px;
  font-size: 12px;
  color: var(--ink-2);
  span {
    display: inline-flex;
    align-items: center;
    gap: 6px;
  }
`;

/** The buttons at the end of something long, in view while it scrolls. */
export const StickyFoot = styled(Inline)`
  position: sticky;
  bottom: 0;
  padding: 10px 0;
  background: var(--panel);
  border-top: 1px solid var(--line-2);
  ${phone} {
    bottom: 58px;
  }
`;
