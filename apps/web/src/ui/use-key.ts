import { useEffect } from 'react';

/** Whether a key press belongs to a field. A list that is searched by typing hands keys on to its rows: the field still has the focus. */
export const isTyping = (event: KeyboardEvent): boolean => [event.target, document.activeElement].some(isField);

const isField = (element: EventTarget | null): boolean =>
  element instanceof HTMLElement && (element.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(element.tagName));

/** One of our few shortcuts: a single key, never while somebody types, never with a modifier. */
export function useKey(key: string, act: () => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== key || event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || isTyping(event)) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [key, act]);
}
