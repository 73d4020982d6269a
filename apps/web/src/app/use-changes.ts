import { useEffect } from 'react';
import { refreshAll } from '../api/queries.ts';

/** A burst, such as an edit and the plan that follows it, is read again once. */
const QUIET_MS = 120;

/** A server that stops says so and refuses what comes; by then another one, or the same again, is there. */
const REOPEN_MS = 4000;

/**
 * Keeps the screen as others leave it: the server says when something changed, and what is
 * shown is read again. A stream that breaks is opened again by the browser, and then
 * everything is read, because what was missed is not known.
 */
export function useChanges(refresh: () => Promise<unknown> = refreshAll): void {
  useEffect(() => {
    let stream: EventSource;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let reopening: ReturnType<typeof setTimeout> | undefined;
    let wasOpen = false;
    const soon = (): void => {
      clearTimeout(timer);
      timer = setTimeout(() => void refresh(), QUIET_MS);
    };
    const opened = (): void => {
      if (wasOpen) soon();
      wasOpen = true;
    };
    const open = (): void => {
      stream = new EventSource('/api/changes');
      stream.addEventListener('change', soon);
      stream.addEventListener('ready', opened);
      // The browser opens one that broke by itself, but not one that was refused.
      stream.addEventListener('error', () => {
        if (stream.readyState === EventSource.CLOSED) reopening = setTimeout(open, REOPEN_MS);
      });
    };
    open();
    return () => {
      clearTimeout(timer);
      clearTimeout(reopening);
      stream.close();
    };
  }, [refresh]);
}
