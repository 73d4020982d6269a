/** How long the row that was dropped is waited for: it comes with the answer of the server. */
const PATIENCE_MS = 4000;

/**
 * Puts the focus on the row of something that was dropped, as soon as it stands in its new place. Whoever has
 * gone elsewhere meanwhile is left there.
 */
export function focusRowOnceMoved(id: string): void {
  const before = rowOf(id);
  const look = (): boolean => {
    const row = rowOf(id);
    if (row === null || row === before) return false;
    if (isFree(document.activeElement)) row.focus({ preventScroll: true });
    return true;
  };
  const waiting = new MutationObserver(() => {
    if (look()) waiting.disconnect();
  });
  waiting.observe(document.body, { childList: true, subtree: true });
  setTimeout(() => waiting.disconnect(), PATIENCE_MS);
}

const rowOf = (id: string): HTMLElement | null => document.querySelector(`[role="row"][data-key="${CSS.escape(id)}"]`);

/** Nothing has the focus, or only a list or a row: where a drop leaves it. */
const isFree = (here: Element | null): boolean => here === null || here === document.body || here.matches('[role="grid"], [role="row"]');
