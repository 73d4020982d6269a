import { useEffect, useRef, useState, type ReactNode, type RefObject } from 'react';
import styled, { css } from 'styled-components';
import { Button } from './Button.tsx';
import { narrow } from './tokens.ts';

/** Over the list, below the bar; what is read stays as narrow as reads well. */
const asPage = css`
  position: fixed;
  inset: 46px 0 0 0;
  z-index: 15;
  max-height: none;
  border-radius: 0;
  border-width: 0;
  padding: 16px max(24px, calc((100vw - 860px) / 2)) 40px;
`;
/** The lower part of the screen, so that what is above goes on being chosen. */
const asDrawer = css`
  inset: auto 0 0 0;
  max-height: 46vh;
  border-top: 1px solid var(--petrol);
  box-shadow: 0 -6px 22px rgb(10 30 30 / 18%);
`;
const Side = styled.aside<{ $isWide: boolean; $isLow: boolean }>`
  position: sticky;
  top: 58px;
  max-height: calc(100vh - 122px);
  overflow: auto;
  background: var(--panel);
  border: 1px solid var(--line);
  border-radius: 8px;
  padding: 12px 16px 20px;
  min-width: 0;
  ${({ $isWide }) => ($isWide ? asPage : '')}
  ${narrow} {
    position: fixed;
    inset: 0;
    padding: 12px 16px 20px;
    z-index: 30;
    max-height: none;
    border-radius: 0;
    border: 0;
    ${({ $isLow }) => ($isLow ? asDrawer : '')}
  }
`;
/** Room below the list, so that its last rows can be seen above a drawer. */
const BehindDrawer = styled.div`
  display: none;
  ${narrow} {
    display: block;
    height: 46vh;
  }
`;
const Tools = styled.span`
  display: flex;
  gap: 2px;
`;
/** Where there is no room beside the list the sheet is as wide as it can be already. */
const WidenButton = styled(Button)`
  ${narrow} {
    display: none;
  }
`;
const Top = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  font-size: 12px;
  color: var(--ink-2);
  margin-bottom: 4px;
`;

/**
 * Opens beside the list, which stays usable; Escape closes it. No dialog: nothing behind it is
 * blocked. Widened, it is a page of its own, until it is closed.
 */
export function Sheet({
  label,
  line,
  others,
  isLow = false,
  onClose,
  children,
}: {
  readonly label: string;
  readonly line: ReactNode;
  /** Who else has it open. */
  readonly others?: ReactNode;
  /** Where there is no room beside the list, it leaves the list in sight. */
  readonly isLow?: boolean;
  readonly onClose: () => void;
  readonly children: ReactNode;
}) {
  const [isWide, setWide] = useState(false);
  const side = useAlone(isWide);
  useEffect(() => {
    const close = (event: KeyboardEvent): void => {
      if (event.key === 'Escape' && !event.defaultPrevented) onClose();
    };
    window.addEventListener('keydown', close);
    return () => window.removeEventListener('keydown', close);
  }, [onClose]);
  return (
    <>
      {isLow ? <BehindDrawer /> : null}
      <Side ref={side} aria-label={label} $isWide={isWide} $isLow={isLow} data-screen-only>
        <Top>
          <span>{line}</span>
          <Tools>
            {others}
            <WidenButton kind="quiet" aria-expanded={isWide} onPress={() => setWide(!isWide)}>
              {isWide ? 'Show beside list' : 'Open full page'}
            </WidenButton>
            <Button kind="quiet" aria-label="Close sheet" onPress={onClose}>
              ✕
            </Button>
          </Tools>
        </Top>
        {children}
      </Side>
    </>
  );
}

/** What a sheet is of. */
export const SheetTitle = styled.h2`
  font-size: 19px;
  margin-bottom: 8px;
`;
/** What lies behind a widened sheet cannot be reached by keyboard either, until the sheet is narrow again. */
function useAlone(isAlone: boolean): RefObject<HTMLElement | null> {
  const sheet = useRef<HTMLElement>(null);
  useEffect(() => {
    if (!isAlone) return;
    const behind: HTMLElement[] = [];
    for (let place: HTMLElement | null = sheet.current; place !== null && place.id !== 'content'; place = place.parentElement) {
      for (const other of place.parentElement?.children ?? [])
        if (other !== place && other instanceof HTMLElement && !other.inert) behind.push(other);
    }
    for (const other of behind) other.inert = true;
    return () => {
      for (const other of behind) other.inert = false;
    };
  }, [isAlone]);
  return sheet;
}

export const Facts = styled.dl`
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  gap: 7px 12px;
  margin: 12px 0;
  align-items: center;
  dt {
    color: var(--ink-2);
  }
  dd {
    margin: 0;
    min-width: 0;
  }
`;

/** One fact among `Facts`: what it is, and its value. */
export const Fact = ({ name, children }: { readonly name: ReactNode; readonly children: ReactNode }) => (
  <>
    <dt>{name}</dt>
    <dd>{children}</dd>
  </>
);
export const SheetPart = styled.section<{ $gap?: number }>`
  border-top: 1px solid var(--line-2);
  padding-top: 11px;
  margin-top: 13px;
  > h3 {
    margin-bottom: 7px;
  }
  ${({ $gap }) => ($gap === undefined ? '' : `display: flex; flex-direction: column; gap: ${$gap}px;`)}
`;
