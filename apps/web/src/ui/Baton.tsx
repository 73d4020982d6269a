import styled from 'styled-components';
import type { Baton as BatonState } from '@crew/contract';

const BatonImage = styled.svg`
  flex: none;
  display: block;
`;

export const BATON_WORDS: Readonly<Record<BatonState, string>> = {
  'not-due': 'not due',
  'getting-ready': 'getting ready',
  'handed-off': 'handed off, not picked up',
  'picked-up': 'picked up',
  'sent-back': 'sent back',
};

function batonShape(state: BatonState) {
  switch (state) {
    case 'not-due':
      return <circle cx="8" cy="8" r="5.5" fill="var(--panel)" stroke="var(--joint)" strokeWidth="1.6" />;
    case 'getting-ready':
      return (
        <>
          <circle cx="8" cy="8" r="5.5" fill="var(--panel)" stroke="var(--petrol)" strokeWidth="1.8" />
          <circle cx="8" cy="8" r="2.2" fill="var(--petrol)" />
        </>
      );
    case 'handed-off':
      return (
        <>
          <circle cx="8" cy="8" r="6" fill="var(--amber-soft)" stroke="var(--amber)" strokeWidth="1.8" />
          <path d="M6.4 5 L11 8 L6.4 11 Z" fill="var(--amber)" />
        </>
      );
    case 'picked-up':
      return <circle cx="8" cy="8" r="6" fill="var(--petrol)" />;
    case 'sent-back':
      return (
        <>
          <circle cx="8" cy="8" r="6" fill="var(--brick-soft)" stroke="var(--brick)" strokeWidth="1.8" />
          <path d="M9.6 5 L5 8 L9.6 11 Z" fill="var(--brick)" />
        </>
      );
  }
}

/** The handoff on a joint of two phases: shape first, colour second. */
export function Baton({ state, size = 14 }: { readonly state: BatonState; readonly size?: number }) {
  return (
    <BatonImage width={size} height={size} viewBox="0 0 16 16" role="img" aria-label={`Handoff ${BATON_WORDS[state]}`}>
      {batonShape(state)}
    </BatonImage>
  );
}
