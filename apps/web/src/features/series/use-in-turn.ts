import { useCallback, useEffect, useRef } from 'react';

/**
 * What one person does to a thing in quick succession, one step after the other: each goes on
 * from what the one before has left, so that nobody meets a change of their own. A step that
 * is refused is thrown to whoever asked for it, and the next goes on from what was there.
 */
export function useInTurn<Item extends { readonly version: number }>(item: Item): (step: (now: Item) => Promise<Item>) => Promise<Item> {
  const latest = useRef(item);
  const last = useRef<Promise<unknown>>(Promise.resolve());
  useEffect(() => {
    if (item.version >= latest.current.version) latest.current = item;
  }, [item]);
  return useCallback((step) => {
    const run = last.current
      .catch(() => undefined)
      .then(async () => {
        latest.current = await step(latest.current);
        return latest.current;
      });
    last.current = run;
    return run;
  }, []);
}
