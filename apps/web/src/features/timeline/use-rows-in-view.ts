import { useEffect, useMemo, useState, type RefObject } from 'react';
import { HEAD, ROW } from './geometry.ts';

/** Rows drawn above and below what is in view, so that quick scrolling finds them there. */
const AROUND = 14;
/** Steps in which the view counts as having moved: the drawing is made anew once a step, not once a pixel. */
const STEP = 7;

/** The rows of a scrolling frame that are worth drawing: all have one height, so it is a division. */
export function useRowsInView(frame: RefObject<HTMLElement | null>, count: number): readonly number[] {
  const [view, setView] = useState({ first: 0, rows: 40 });
  useEffect(() => {
    const element = frame.current;
    if (element === null) return;
    const look = (): void => {
      const first = Math.floor(Math.floor(element.scrollTop / ROW) / STEP) * STEP;
      const rows = Math.ceil((element.clientHeight - HEAD) / ROW) + STEP;
      setView((before) => (before.first === first && before.rows === rows ? before : { first, rows }));
    };
    look();
    element.addEventListener('scroll', look, { passive: true });
    const watch = new ResizeObserver(look);
    watch.observe(element);
    return () => {
      element.removeEventListener('scroll', look);
      watch.disconnect();
    };
  }, [frame]);
  return useMemo(() => {
    const first = Math.max(0, view.first - AROUND);
    const last = Math.min(count, view.first + Math.max(view.rows, 12) + AROUND);
    return Array.from({ length: Math.max(0, last - first) }, (_, index) => first + index);
  }, [view, count]);
}
