import type { DependencyType, PlanTask } from '@crew/contract';
import { addWorkingDays, formatDay, parseDay, type Calendar, type IsoDay } from '@crew/core';
import type { TimeScale } from './scale.ts';

/** Heights of the drawing in pixels. */
export const ROW = 29;
export const HEAD = 26;
export const BAR_TOP = 7;
export const BAR = 15;

/** Where a task is drawn. */
export interface BarPlace {
  readonly x: number;
  readonly width: number;
}

/** A span of days as a bar; never so narrow that it cannot be seen. */
export function placeOf(scale: TimeScale, span: { readonly start: IsoDay; readonly due: IsoDay }): BarPlace {
  const x = scale.x(span.start);
  return { x, width: Math.max(3, scale.right(span.due) - x) };
}

/** The end of a task's slack in pixels, or null when there is none to draw. */
export function slackEnd(
  scale: TimeScale,
  task: Pick<PlanTask, 'slack' | 'due' | 'expected' | 'status'>,
  calendar: Calendar,
): number | null {
  if (task.slack <= 0 || task.status === 'done' || task.status === 'dropped') return null;
  const from = task.expected > task.due ? task.expected : task.due;
  return scale.right(formatDay(addWorkingDays(calendar, parseDay(from) as number, Math.min(task.slack, 400))));
}

/** A dependency as a path of right angles from one bar to another: out of the end or start, across, into the end or start. */
export function dependencyPath(
  from: BarPlace & { readonly row: number },
  to: BarPlace & { readonly row: number },
  type: DependencyType,
): string {
  const y1 = from.row * ROW + BAR_TOP + BAR / 2;
  const y2 = to.row * ROW + BAR_TOP + BAR / 2;
  const isFromEnd = type === 'FS' || type === 'FF';
  const isToEnd = type === 'FF' || type === 'SF';
  const x1 = isFromEnd ? from.x + from.width : from.x;
  const x2 = isToEnd ? to.x + to.width : to.x;
  const gap = 6;
  if (isFromEnd && !isToEnd && x2 >= x1 - 1) {
    // Straight down into the top of the bar behind, as long as there is some of it below.
    const x = Math.max(x1 + 3, Math.min(x2 + 4, x1 + gap));
    const edge = y2 > y1 ? to.row * ROW + BAR_TOP : to.row * ROW + BAR_TOP + BAR;
    if (x >= x2 && x <= to.x + to.width) return `M${x1} ${y1} H${x} V${edge}`;
    return `M${x1} ${y1} H${x} V${y2} H${x2}`;
  }
  const out = isFromEnd ? x1 + gap : x1 - gap;
  const into = isToEnd ? x2 + gap : x2 - gap;
  const between = y2 > y1 ? to.row * ROW + 1 : (to.row + 1) * ROW - 1;
  return `M${x1} ${y1} H${out} V${between} H${into} V${y2} H${x2}`;
}
