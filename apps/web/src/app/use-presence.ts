import { PRESENCE_EACH_MS, type ShowPresence, type ShownThing } from '@crew/contract';
import { useEffect } from 'react';
import { useLocation } from 'react-router';
import { call } from '../api/client.ts';

/** What an address shows of what people see each other at: the engagement of a plan, the task in a sheet. */
export function shownAt(pathname: string, search: string): readonly ShownThing[] {
  const engagement = /^\/engagements\/([\w-]{36})$/.exec(pathname)?.[1];
  const task = new URLSearchParams(search).get('task');
  return [
    ...(engagement === undefined ? [] : [{ kind: 'engagement', id: engagement } as const]),
    ...(task !== null && /^[\w-]{36}$/.test(task) ? [{ kind: 'task', id: task } as const] : []),
  ];
}

const NOTHING = '[]';
let lastSaid = NOTHING;
let saying: Promise<unknown> = Promise.resolve();

/** One after the other, so that the last one counts. Failures are not shown: it is sent again soon. */
function say(shown: string, { isAgain = false } = {}): void {
  if (shown === lastSaid && !(isAgain && shown !== NOTHING)) return;
  lastSaid = shown;
  const input: ShowPresence = { shown: JSON.parse(shown) as ShownThing[] };
  saying = saying.then(() => call('POST', '/presence', input)).catch(() => undefined);
}

/** Tells colleagues what this window shows, for as long as it is visible. */
export function usePresence(): void {
  const { pathname, search } = useLocation();
  const shown = JSON.stringify(shownAt(pathname, search));
  useEffect(() => {
    const look = (): void => say(document.visibilityState === 'hidden' ? NOTHING : shown);
    look();
    const timer = setInterval(() => document.visibilityState === 'hidden' || say(shown, { isAgain: true }), PRESENCE_EACH_MS);
    document.addEventListener('visibilitychange', look);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', look);
    };
  }, [shown]);
  useEffect(() => {
    const leave = (): void => say(NOTHING);
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, []);
}
