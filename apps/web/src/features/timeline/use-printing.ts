import { useSyncExternalStore } from 'react';

let isPrinting = false;

function subscribe(listener: () => void): () => void {
  const begin = (): void => {
    isPrinting = true;
    listener();
  };
  const end = (): void => {
    isPrinting = false;
    listener();
  };
  window.addEventListener('beforeprint', begin);
  window.addEventListener('afterprint', end);
  return () => {
    window.removeEventListener('beforeprint', begin);
    window.removeEventListener('afterprint', end);
  };
}

/** True while the page goes to paper: then everything is drawn as sheets, not only what is in view. */
export const usePrinting = (): boolean => useSyncExternalStore(subscribe, () => isPrinting);
