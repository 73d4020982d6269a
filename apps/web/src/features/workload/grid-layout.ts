import type { IsoDay } from '@crew/core';
import type { Column } from './columns.ts';
import type { Shift } from './use-shift.ts';
import type { TicketDragging } from './use-ticket-drag.ts';

/** Width of the names at the left and of the sums at the right. */
export const NAME_PX = 196;
export const SUM_PX = 84;

/** What all rows are drawn by. */
export interface GridLayout {
  readonly columns: readonly Column[];
  readonly columnPx: number;
  readonly today: IsoDay;
  readonly dragging: TicketDragging;
  /** Whose row it is, in words. */
  readonly nameOf: (row: string) => string;
  readonly onShift: (shift: Shift) => void;
}
