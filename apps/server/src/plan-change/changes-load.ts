import { isDeepStrictEqual } from 'node:util';
import { rowChanges } from '../task/task-fields.ts';
import type { PlanImage } from './plan-image.ts';

/** Whether a change can overload anybody: what cannot is answered without reading the whole load. */
export function changesLoad(before: PlanImage, after: PlanImage): boolean {
  const was = new Map(before.tasks.map((image) => [image.id, image]));
  return after.tasks.some((image) => {
    const first = was.get(image.id);
    if (first === undefined) return image.assignees.length > 0;
    if (first === image) return false;
    return (
      rowChanges(first.row, image.row).some(({ field }) => LOADING.has(field)) ||
      !isDeepStrictEqual([first.assignees, first.after], [image.assignees, image.after])
    );
  });
}

const LOADING = new Set(['days', 'fixedDay', 'notBefore', 'estimateMinutes', 'phaseId', 'parentId', 'status']);
