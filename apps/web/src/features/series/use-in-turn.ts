import { useCallback, useEffect, useRef } from 'react';
import { oneByOne } from '../../api/in-turn.ts';

/**
 * What one person does to a thing in quick succession, one step after the other: each is made of
 * what the one before has left, as its answer told it, and not of what is shown yet.
 */
export function useInTurn<Item extends { readonly version: number }>(
  thing: string,
  item: Item,
): (step: (now: Item) => Promise<Item>) => Promise<Item> {
  const latest = useRef(item);
  useEffect(() => {
    if (item.version >= latest.current.version) latest.current = item;
  }, [item]);
  return useCallback(
    (step) =>
      // A line of its own: the changes themselves are in the line of the thing.
      oneByOne(`${thing} steps`, async () => {
        latest.current = await step(latest.current);
        return latest.current;
      }),
    [thing],
  );
}
