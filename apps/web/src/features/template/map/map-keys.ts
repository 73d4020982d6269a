import type { MapBox, ProcessMapLayout } from './layout.ts';

export type Direction = 'left' | 'right' | 'up' | 'down';

const DIRECTION: Readonly<Record<string, Direction>> = { ArrowLeft: 'left', ArrowRight: 'right', ArrowUp: 'up', ArrowDown: 'down' };
export const directionOf = (key: string): Direction | null => DIRECTION[key] ?? null;

/** A box in another row counts as further away: the next box to the right is rather in the same row. */
const ASIDE = 3;

/** The nearest box that way, or null where there is none. */
export function boxBeside(layout: ProcessMapLayout, id: string, direction: Direction): string | null {
  const from = layout.boxes.find((box) => box.id === id);
  if (from === undefined) return null;
  const isLevel = direction === 'left' || direction === 'right';
  const sign = direction === 'left' || direction === 'up' ? -1 : 1;
  const distance = (box: MapBox): number => {
    const along = (isLevel ? box.x - from.x : box.y - from.y) * sign;
    const aside = Math.abs(isLevel ? box.y - from.y : box.x - from.x);
    return along <= 0 ? Infinity : along + aside * ASIDE;
  };
  const [nearest] = layout.boxes
    .map((box) => ({ id: box.id, distance: distance(box) }))
    .filter((one) => one.distance < Infinity)
    .sort((left, right) => left.distance - right.distance);
  return nearest?.id ?? null;
}

/** The lane above or below a box, or the phase before or after it; null at the border of the map. */
export function placeBeside(
  layout: ProcessMapLayout,
  id: string,
  direction: Direction,
): { readonly laneId: string; readonly phaseId: string } | null {
  const box = layout.boxes.find((candidate) => candidate.id === id);
  if (box === undefined) return null;
  const by = direction === 'left' || direction === 'up' ? -1 : 1;
  if (direction === 'up' || direction === 'down') {
    const lane = layout.lanes[layout.lanes.findIndex((candidate) => candidate.id === box.laneId) + by];
    return lane === undefined ? null : { laneId: lane.id, phaseId: box.phaseId };
  }
  const phase = layout.phases[layout.phases.findIndex((candidate) => candidate.id === box.phaseId) + by];
  return phase === undefined ? null : { laneId: box.laneId, phaseId: phase.id };
}
