import { useCallback, useMemo } from 'react';
import { useShown } from './use-shown.ts';

/** The sheet that is open beside a page: one at a time. It is of a thing, by its id, or one that has only a name. */
export type OpenSheet<Thing extends string, Named extends string = never> =
  { readonly kind: Thing; readonly id: string } | { readonly kind: Named; readonly id?: never };

/** Which sheets a page has: of things, each kept in the address under the name of its kind, and named ones under `show`. */
interface SheetKinds<Thing extends string, Named extends string> {
  readonly things: readonly Thing[];
  readonly named?: readonly Named[];
}

/** What of the address says which sheet is open, and what closes all the others. */
export function addressOf<Thing extends string, Named extends string>(
  { things, named = [] }: SheetKinds<Thing, Named>,
  sheet: OpenSheet<Thing, Named> | null,
): Readonly<Record<string, string | null>> {
  const closed = Object.fromEntries([...things, ...(named.length === 0 ? [] : ['show'])].map((name) => [name, null]));
  if (sheet === null) return closed;
  return sheet.id === undefined ? { ...closed, show: sheet.kind } : { ...closed, [sheet.kind]: sheet.id };
}

/** The sheet that an address says is open; a thing goes before a named sheet, should it say two. */
export function readSheet<Thing extends string, Named extends string>(
  { things, named = [] }: SheetKinds<Thing, Named>,
  search: URLSearchParams,
): OpenSheet<Thing, Named> | null {
  for (const kind of things) {
    const id = search.get(kind);
    if (id !== null && id !== '') return { kind, id };
  }
  const kind = named.find((known) => known === search.get('show'));
  return kind === undefined ? null : { kind };
}

/** The open sheet of a page, and a way to open another in its place, or none. `kinds` is a constant of the page. */
export function useOpenSheet<Thing extends string, Named extends string = never>(
  kinds: SheetKinds<Thing, Named>,
): readonly [OpenSheet<Thing, Named> | null, (sheet: OpenSheet<Thing, Named> | null) => void] {
  const [search, show] = useShown();
  const sheet = useMemo(() => readSheet(kinds, search), [kinds, search]);
  const open = useCallback((next: OpenSheet<Thing, Named> | null): void => show(addressOf(kinds, next)), [kinds, show]);
  return [sheet, open];
}
