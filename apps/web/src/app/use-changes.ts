import { useEffect } from 'react';
import { readTopics, type ChangeNotice, type Topic } from '@crew/contract';
import { refresh } from '../api/queries.ts';
import { WINDOW } from '../api/touched.ts';

/** Changes that come together, such as an edit and the plan that follows it, are read once. */
const QUIET_MS = 120;

/** A server that stops says so and refuses new requests; by then another one, or the same again, is there. */
const REOPEN_MS = 4000;

/**
 * Keeps the screen up to date: the server says what was changed, and as far as that is shown it is
 * read again. A stream that breaks is opened again by the browser, and then everything is read,
 * because what was missed is unknown.
 */
export function useChanges(read: (topics: readonly Topic[]) => Promise<unknown> = refresh): void {
  useEffect(() => {
    let waiting: Topic[] = [];
    let stream: EventSource;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let reopening: ReturnType<typeof setTimeout> | undefined;
    let wasOpen = false;
    const soon = (topics: readonly Topic[]): void => {
      waiting.push(...topics);
      clearTimeout(timer);
      timer = setTimeout(() => {
        const topicsNow = waiting;
        waiting = [];
        void read(topicsNow);
      }, QUIET_MS);
    };
    const changed = (event: MessageEvent<string>): void => soon(readTopics((JSON.parse(event.data) as ChangeNotice).topics));
    const opened = (): void => {
      if (wasOpen) soon(['everything']);
      wasOpen = true;
    };
    const open = (): void => {
      stream = new EventSource(`/api/changes?window=${WINDOW}`);
      stream.addEventListener('change', changed);
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
  }, [read]);
}
