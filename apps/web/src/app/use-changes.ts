import { useEffect } from 'react';
import { refreshAll } from '../api/queries.ts';

/** A burst, such as an edit and the plan that follows it, is read again once. */
const QUIET_MS = 120;

/**
 * Keeps the screen as others leave it: the server says when something changed, and what is
 * shown is read again. A stream that breaks is opened again by the browser, and then
 * everything is read, because what was missed is not known.
 */
export function useChanges(refresh: () => Promise<unknown> = refreshAll): void {
  useEffect(() => {
    const stream = new EventSource('/api/changes');
    let timer: ReturnType<typeof setTimeout> | undefined;
    let wasOpen = false;
    const soon = (): void => {
      clearTimeout(timer);
      timer = setTimeout(() => void refresh(), QUIET_MS);
    };
    const opened = (): void => {
      if (wasOpen) soon();
      wasOpen = true;
    };
    stream.addEventListener('change', soon);
    stream.addEventListener('ready', opened);
    return () => {
      clearTimeout(timer);
      stream.close();
    };
  }, [refresh]);
}
