import type { WorkloadTask } from '@crew/contract';
import { useRef, useState, type PointerEvent } from 'react';
import { dayWords } from '../../words/format.ts';
import { dayMoved, type Column } from './columns.ts';
import type { GridLayout } from './grid-layout.ts';
import type { Shift } from './use-shift.ts';

/** A ticket on its way: from whom, how far along, and whose row it is over. */
export interface TicketDrag {
  readonly task: WorkloadTask;
  readonly from: string | null;
  readonly dx: number;
  readonly dy: number;
  readonly over: string | null;
}

export interface TicketDragging {
  readonly drag: TicketDrag | null;
  readonly grab: (event: PointerEvent<HTMLElement>, task: WorkloadTask, from: string | null) => void;
  /** Whether a click is one: the one that the browser sends after a drag is none. */
  readonly isClick: () => boolean;
}

/** The row of somebody, or of nobody, carries this attribute. */
export const ROW = 'data-row-of';
export const NOBODY = 'nobody';
const SLIP_PX = 4;

/** Drags tickets between days and people. Letting go proposes; the proposal shows what would follow. */
export function useTicketDrag({
  columns,
  columnPx,
  onShift,
}: {
  readonly columns: readonly Column[];
  readonly columnPx: number;
  readonly onShift: (shift: Shift) => void;
}): TicketDragging {
  const [drag, setDrag] = useState<TicketDrag | null>(null);
  const hasDragged = useRef(false);
  const at = useRef<{ x: number; y: number } | null>(null);
  const grab: TicketDragging['grab'] = (event, task, from) => {
    if (event.button !== 0) return;
    const ticket = event.currentTarget;
    at.current = { x: event.clientX, y: event.clientY };
    let last: TicketDrag | null = null;
    const move = (moving: globalThis.PointerEvent): void => {
      const [dx, dy] = [moving.clientX - (at.current?.x ?? 0), moving.clientY - (at.current?.y ?? 0)];
      if (last === null && Math.hypot(dx, dy) < SLIP_PX) return;
      if (last === null) ticket.setPointerCapture(event.pointerId);
      last = { task, from, dx: task.isBegun ? 0 : Math.round(dx / columnPx) * columnPx, dy, over: rowUnder(moving) };
      setDrag(last);
    };
    const end = (ending: globalThis.PointerEvent): void => {
      ticket.removeEventListener('pointermove', move);
      ticket.removeEventListener('pointerup', end);
      ticket.removeEventListener('pointercancel', end);
      if (last !== null && ending.type === 'pointerup') {
        hasDragged.current = true;
        setTimeout(() => (hasDragged.current = false));
        const shift = shiftOf(last, columns, columnPx);
        if (shift !== null) onShift(shift);
      }
      setDrag(null);
    };
    ticket.addEventListener('pointermove', move);
    ticket.addEventListener('pointerup', end);
    ticket.addEventListener('pointercancel', end);
  };
  return { drag, grab, isClick: () => !hasDragged.current };
}

const rowUnder = ({ clientX, clientY }: { readonly clientX: number; readonly clientY: number }): string | null =>
  document
    .elementsFromPoint(clientX, clientY)
    .map((element) => element.closest(`[${ROW}]`)?.getAttribute(ROW))
    .find((row) => row !== undefined && row !== null) ?? null;

/** What letting go means: another day, other people, both, or nothing. */
export function shiftOf({ task, from, dx, over }: TicketDrag, columns: readonly Column[], columnPx: number): Shift | null {
  const start = dayMoved(task, columns, Math.round(dx / columnPx));
  const assigneeIds = peopleAfter(task, from, over);
  return start === null && assigneeIds === null ? null : { task, start, assigneeIds };
}

/** Where letting go would put it, in words: its first day, and whose row it is. */
export function landingWords(drag: TicketDrag, { columns, columnPx, today, nameOf }: Omit<GridLayout, 'dragging' | 'onShift'>): string {
  const start = dayMoved(drag.task, columns, Math.round(drag.dx / columnPx)) ?? drag.task.start;
  return `${dayWords(start, today)}, ${nameOf(drag.over ?? drag.from ?? NOBODY)}`;
}

/** Who has it once it is dropped on a row: it changes hands, and others who share it keep it. */
function peopleAfter({ assigneeIds }: WorkloadTask, from: string | null, over: string | null): readonly string[] | null {
  if (over === null || over === from || (over === NOBODY && from === null)) return null;
  const without = assigneeIds.filter((id) => id !== from && id !== over);
  if (over === NOBODY) return without;
  const index = from === null ? without.length : Math.max(0, assigneeIds.indexOf(from));
  return [...without.slice(0, index), over, ...without.slice(index)];
}
