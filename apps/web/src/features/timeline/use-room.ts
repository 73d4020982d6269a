import { useEffect, useState, type RefObject } from 'react';

/** How many pixels a frame has left for the drawing beside its column of names, if it has one: a short plan fills them too. */
export function useRoom(frame: RefObject<HTMLElement | null>, names?: RefObject<HTMLElement | null>): number {
  const [room, setRoom] = useState(0);
  useEffect(() => {
    const [outer, column] = [frame.current, names?.current];
    if (outer === null || column === null) return;
    const look = (): void => setRoom(Math.max(0, outer.clientWidth - (column?.offsetWidth ?? 0)));
    look();
    const watch = new ResizeObserver(look);
    watch.observe(outer);
    return () => watch.disconnect();
  }, [frame, names]);
  return room;
}
