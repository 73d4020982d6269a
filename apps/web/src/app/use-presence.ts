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

/** Nobody is told when it does not get through: it is said again soon. */
const say = (shown: readonly ShownThing[]): void => {
  const input: ShowPresence = { shown: [...shown] };
  call('POST', '/presence', input).catch(() => undefined);
};

/** Says to colleagues what this window shows, for as long as it is in sight. */
export function usePresence(): void {
  const { pathname, search } = useLocation();
  const key = JSON.stringify(shownAt(pathname, search));
  useEffect(() => {
    const shown = JSON.parse(key) as readonly ShownThing[];
    if (shown.length === 0) return;
    const again = (): void => say(document.visibilityState === 'hidden' ? [] : shown);
    const leave = (): void => say([]);
    again();
    const timer = setInterval(() => document.visibilityState === 'hidden' || say(shown), PRESENCE_EACH_MS);
    document.addEventListener('visibilitychange', again);
    window.addEventListener('pagehide', leave);
    return () => {
      clearInterval(timer);
      document.removeEventListener('visibilitychange', again);
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [key]);
}
