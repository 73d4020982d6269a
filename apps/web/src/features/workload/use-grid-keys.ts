import { useState, type FocusEvent, type KeyboardEvent } from 'react';
import { ROW } from './use-ticket-drag.ts';

/** What up and down stop at carries this attribute: names and, below them, tasks. */
export const STOP = { 'data-grid-stop': '' };

/** The day or week of a row that the keyboard is on. */
export interface GridCursor {
  readonly row: string;
  readonly column: number;
}

/**
 * The grid by arrow keys: up and down walk the people and the tasks opened beneath them, Home and End
 * go to the first and the last, left and right walk the days of whoever is reached.
 */
export function useGridKeys(columns: number) {
  const [cursor, setCursor] = useState<GridCursor | null>(null);
  const walk = (event: KeyboardEvent<HTMLElement>): void => {
    const stop = event.target instanceof HTMLElement ? event.target.closest<HTMLElement>('[data-grid-stop]') : null;
    if (stop === null || event.altKey || event.ctrlKey || event.metaKey) return;
    const stops = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-grid-stop]')];
    const next = nextStop(event.key, stops.indexOf(stop), stops.length);
    if (next !== null) stops[next]?.focus();
    const row = stop.closest(`[${ROW}]`)?.getAttribute(ROW) ?? null;
    const column = row === null ? null : nextColumn(event.key, cursor?.row === row ? cursor.column : null, columns);
    if (row !== null && column !== null) setCursor({ row, column });
    if (next === null && column === null) return;
    event.preventDefault();
    event.stopPropagation();
  };
  const leave = (event: FocusEvent<HTMLElement>): void => {
    if (cursor !== null && event.relatedTarget?.closest(`[${ROW}]`)?.getAttribute(ROW) !== cursor.row) setCursor(null);
  };
  return { cursor, props: { onKeyDownCapture: walk, onBlur: leave } };
}

/** Which stop a key goes to; null for other keys. */
export function nextStop(key: string, at: number, count: number): number | null {
  const to = { ArrowUp: at - 1, ArrowDown: at + 1, Home: 0, End: count - 1 }[key];
  return to === undefined ? null : Math.max(0, Math.min(count - 1, to));
}

/** Which column a key goes to, from one or from none; null for other keys. */
export function nextColumn(key: string, at: number | null, count: number): number | null {
  if (key === 'ArrowRight') return Math.min(count - 1, at === null ? 0 : at + 1);
  return key === 'ArrowLeft' ? Math.max(0, at === null ? count - 1 : at - 1) : null;
}
