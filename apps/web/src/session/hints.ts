import type { Me } from '@crew/contract';
import { mutate } from 'swr';
import { call, troubleWords } from '../api/client.ts';
import { notify } from '../ui/toasts.tsx';
import { useWho } from './session.tsx';

/** The hints and lists of first steps, each closed once for good. */
export type HintName = 'desk' | 'setup' | 'demo' | `word-${string}`;

/** Whether a hint is still shown to whoever is signed in, and closing it. */
export function useHint(name: HintName): { readonly isOpen: boolean; readonly close: () => void } {
  const { closedHints } = useWho();
  const close = (): void => {
    // It is gone at once; where keeping that fails, that is said, and it comes back.
    call('POST', '/account/hints', { hint: name }).catch((error: unknown) => {
      notify(troubleWords(error), { tone: 'trouble' });
      return mutate('/session');
    });
    void mutate<Me>('/session', (me) => (me === undefined ? me : { ...me, closedHints: [...me.closedHints, name] }), { revalidate: false });
  };
  return { isOpen: !closedHints.includes(name), close };
}
