import type { ReactNode } from 'react';
import styled from 'styled-components';
import { Mark } from '../../ui/Mark.tsx';
import { Panel } from '../../ui/layout.tsx';

const Ground = styled.main`
  min-height: 100vh;
  display: grid;
  justify-content: center;
  align-content: center;
  grid-template-columns: minmax(0, 420px);
  padding: 24px 12px;
`;
/** The dark head of pages without the bar. */
export const EntryHead = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 14px 20px;
  border-radius: 8px 8px 0 0;
  background: var(--bar);
  color: #fff;
  font:
    650 19px 'Bricolage Grotesque Variable',
    sans-serif;
  h1 {
    font-size: 19px;
  }
`;
const Body = styled.div`
  padding: 18px 20px 20px;
  h1 {
    font-size: 18px;
    margin-bottom: 6px;
  }
  p {
    color: var(--ink-2);
    margin-bottom: 12px;
  }
`;

/** A page before one is signed in: the mark, and one thing to do. */
export function EntryPage({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <Ground>
      <Panel>
        <EntryHead>
          <Mark />
          Nimble Crew
        </EntryHead>
        <Body>
          <h1>{title}</h1>
          {children}
        </Body>
      </Panel>
    </Ground>
  );
}
