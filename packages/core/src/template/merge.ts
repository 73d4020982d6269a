/** Three states of one list: as the template had it, as it has it now, and as the engagement has it. */
export interface ThreeStates<Item> {
  readonly before: readonly Item[];
  readonly after: readonly Item[];
  readonly here: readonly Item[];
}

/**
 * A list of a running engagement with what changed in its template since. Changes made in the
 * engagement win: what was added here stays, what was changed here stays as it is, what was removed
 * here stays out unless the template changed it. Parts are known by `keyOf`, compared by `isSame`. The
 * order is that of the engagement, then new parts in the order of the template.
 */
export function mergeLists<Item>(
  { before, after, here }: ThreeStates<Item>,
  { keyOf, isSame }: { readonly keyOf: (item: Item) => string; readonly isSame: (left: Item, right: Item) => boolean },
): Item[] {
  const byKey = (items: readonly Item[]): Map<string, Item> => new Map(items.map((item) => [keyOf(item), item]));
  const [then, now, mine] = [byKey(before), byKey(after), byKey(here)];
  const kept = here.flatMap((item) => {
    const [old, next] = [then.get(keyOf(item)), now.get(keyOf(item))];
    // Added here, or changed here.
    if (old === undefined || !isSame(old, item)) return [item];
    return next === undefined ? [] : [next];
  });
  const came = after.filter((item) => {
    const old = then.get(keyOf(item));
    return !mine.has(keyOf(item)) && (old === undefined || !isSame(old, item));
  });
  return [...kept, ...came];
}
