import { useEffect, useRef } from 'react';

/**
 * After a change of page its heading gets the focus: a screen reader says where one is, and Tab goes
 * on from there. A field that somebody has entered meanwhile keeps the focus.
 */
export function useHeadingFocus(pathname: string): void {
  const seen = useRef(pathname);
  useEffect(() => {
    if (seen.current === pathname) return;
    seen.current = pathname;
    const content = document.getElementById('content');
    if (content === null || focusHeading(content)) return;
    // The heading of some pages comes with what they read.
    const waiting = new MutationObserver(() => {
      if (focusHeading(content)) waiting.disconnect();
    });
    waiting.observe(content, { childList: true, subtree: true });
    return () => waiting.disconnect();
  }, [pathname]);
}

/** Whether there is nothing more to wait for. */
function focusHeading(content: HTMLElement): boolean {
  const here = document.activeElement;
  if (here !== content && content.contains(here)) return true;
  const heading = content.querySelector('h1');
  if (heading === null) return false;
  heading.tabIndex = -1;
  heading.focus({ preventScroll: true });
  return true;
}
