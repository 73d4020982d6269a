import { useCallback } from 'react';
import { useSearchParams } from 'react-router';

/** What of a page is shown, as its address says: the parameters there are, and a way to set some and take others (null) away. */
export function useShown(): readonly [URLSearchParams, (next: Readonly<Record<string, string | null>>) => void] {
  const [search, setSearch] = useSearchParams();
  const show = useCallback(
    (next: Readonly<Record<string, string | null>>): void =>
      setSearch(
        (before) => {
          const kept = new URLSearchParams(before);
          for (const [name, value] of Object.entries(next)) {
            if (value === null) kept.delete(name);
            else kept.set(name, value);
          }
          return kept;
        },
        { replace: true },
      ),
    [setSearch],
  );
  return [search, show];
}
