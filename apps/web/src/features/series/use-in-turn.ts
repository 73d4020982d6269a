import { useCallback, useEffect, useRef } from 'react';
import { oneByOne } from '../../api/in-turn.ts';

/**
 * Runs steps that one person makes quickly on a thing one after the other: each starts from the answer
 * to the one before, not from what is shown.
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
