import { phone } from '../../ui/tokens.ts';
import type { Scale } from '../../ui/Track.tsx';
import type { IsoDay } from '@crew/core';
import styled from 'styled-components';
import type { TemplateEditor } from './use-template-editor.ts';

/** The columns of the outline, of its head too. */
export const Grid = styled.div`
  display: grid;
  grid-template-columns: minmax(180px, 1.1fr) 146px 66px minmax(150px, 1fr) minmax(180px, 1.7fr);
  align-items: center;
  gap: 0 12px;
  padding: 0 14px;
  ${phone} {
    grid-template-columns: minmax(0, 1fr) auto;
    > .wide {
      display: none;
    }
  }
`;
const Bars = styled.span`
  position: relative;
  height: 14px;
  overflow: visible !important;
`;
const Bar = styled.i<{ $tone: 'phase' | 'task' | 'client' }>`
  position: absolute;
  top: 2px;
  height: 10px;
  min-width: 5px;
  border-radius: 2.5px;
  background: ${({ $tone }) => ($tone === 'phase' ? 'var(--petrol)' : $tone === 'client' ? 'var(--amber-soft)' : 'var(--petrol-soft)')};
  border: 1px solid ${({ $tone }) => ($tone === 'client' ? 'var(--amber)' : $tone === 'phase' ? 'var(--petrol)' : 'var(--petrol-mid)')};
`;

/** What each line of the outline is drawn by. */
export interface LineProps {
  readonly scale: Scale;
  readonly today: IsoDay;
  readonly editor: TemplateEditor | null;
  readonly isOpen: boolean;
  readonly onOpen: (id: string) => void;
}

interface PlaceBarProps {
  readonly scale: Scale;
  readonly start: IsoDay;
  readonly finish: IsoDay;
  readonly tone: 'phase' | 'task' | 'client';
  readonly title: string;
}

/** Where something lies in the dry run. */
export function PlaceBar({ scale, start, finish, tone, title }: PlaceBarProps) {
  const left = scale(start);
  return (
    <Bars className="wide" title={title}>
      <Bar $tone={tone} style={{ left: `${left}%`, width: `${scale(finish, 'end') - left}%` }} />
    </Bars>
  );
}
