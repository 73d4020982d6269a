import { useCallback } from 'react';
import { useKey } from './use-key.ts';

/** `[` and `]` go a period earlier or later. */
export function usePeriodKeys(move: (periods: number) => void): void {
  useKey(
    '[',
    useCallback(() => move(-1), [move]),
  );
  useKey(
    ']',
    useCallback(() => move(1), [move]),
  );
}
