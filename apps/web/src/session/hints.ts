import type { Me } from '@crew/contract';
import { mutate } from 'swr';
import { call } from '../api/client.ts';
import { useWho } from './session.tsx';

/** The hints and lists of first steps, each closed once for good. */
export type HintName = 'desk' | 'setup' | 'demo' | `word-${string}`;

/** Whether a hint is still shown to whoever is signed in, and closing it. */
export function useHint(name: HintName): { readonly isOpen: boolean; readonly close: () => void } {
  const { closedHints } = useWho();
  const close = (): void => {
    void call('POST', '/account/hints', { hint: name });
    // It is gone at once; that it was closed is kept meanwhile, and if that fails it comes back with the next page.
    void mutate<Me>('/session', (me) => (me === undefined ? me : { ...me, closedHints: [...me.closedHints, name] }), { revalidate: false });
  };
  return { isOpen: !closedHints.includes(name), close };
}
