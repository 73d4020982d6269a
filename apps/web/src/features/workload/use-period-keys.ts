import { useEffect } from 'react';
import { isTyping } from '../../app/Shell.tsx';

/** `[` and `]` go a period earlier or later. */
export function usePeriodKeys(move: (periods: number) => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === '[') move(-1);
      if (event.key === ']') move(1);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [move]);
}
