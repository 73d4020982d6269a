import { useEffect, type ReactNode } from 'react';
import styled from 'styled-components';
import { Button } from './Button.tsx';
import { narrow } from './tokens.ts';

const Side = styled.aside`
  position: sticky;
  top: 58px;
  max-height: calc(100vh - 70px);
  overflow: auto;
  background: var(--panel);
  border: 1px solid var(--line);
  border-radius: 8px;
  padding: 12px 16px 20px;
  min-width: 0;
  ${narrow} {
    position: fixed;
    inset: 0;
    z-index: 30;
    max-height: none;
    border-radius: 0;
    border: 0;
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

/** Opens beside the list, which stays usable; Escape closes it. No dialog: nothing behind it is blocked. */
export function Sheet({
  label,
  line,
  onClose,
  children,
}: {
  readonly label: string;
  readonly line: ReactNode;
  readonly onClose: () => void;
  readonly children: ReactNode;
}) {
  useEffect(() => {
    const close = (event: KeyboardEvent): void => {
      if (event.key === 'Escape' && !event.defaultPrevented) onClose();
    };
    window.addEventListener('keydown', close);
    return () => window.removeEventListener('keydown', close);
  }, [onClose]);
  return (
    <Side aria-label={label}>
      <Top>
        <span>{line}</span>
        <Button kind="quiet" aria-label="Close sheet" onPress={onClose}>
          ✕
        </Button>
      </Top>
      {children}
    </Side>
  );
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
export const SheetPart = styled.section`
  border-top: 1px solid var(--line-2);
  padding-top: 11px;
  margin-top: 13px;
  > h3 {
    margin-bottom: 7px;
  }
`;
