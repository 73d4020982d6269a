import { BOX, GAP } from './sizes.ts';

/** A place of the drawing, in its own pixels. */
export interface Point {
  readonly x: number;
  readonly y: number;
}
interface Way {
  readonly isBack: boolean;
  /** The index of the box in its column: lines of one column keep apart. */
  readonly track: number;
  readonly boxes: readonly Point[];
}

const TRACKS = 5;
const TRACK_WIDTH = 5;
/** From a box to the line of a loop beside it, to the first line that leads on, and from the last one to the box it points to. */
const BESIDE = { loop: 4, out: 13, into: 16 } as const;
/** Half the room between boxes that stand below each other: a line fits there. */
const BETWEEN = GAP.y / 2;

/**
 * The corners of a line from one box to another. Columns of boxes have a gap between them and
 * so have rows; a line that keeps to the gaps crosses no box. Of the ways there are, the one
 * with the fewest corners that crosses none is taken. `from` and `to` are the boxes' upper
 * left corners.
 */
export function routeOf(from: Point, to: Point, { isBack, track, boxes }: Way): Point[] {
  return isBack ? routeBack(from, to) : routeOn(from, to, { track, boxes });
}

/** Out on the right and in on the left: straight, by one step, or around through the row gap at the target. */
function routeOn(from: Point, to: Point, { track, boxes }: Omit<Way, 'isBack'>): Point[] {
  const start = { x: from.x + BOX.width, y: from.y + BOX.height / 2 };
  const end = { x: to.x, y: to.y + BOX.height / 2 };
  const out = start.x + BESIDE.out + (track % TRACKS) * TRACK_WIDTH;
  const into = end.x - BESIDE.into;
  const isAbove = from.y <= to.y;
  const row = isAbove ? to.y - BETWEEN : to.y + BOX.height + BETWEEN;
  const around = [start, { x: out, y: start.y }, { x: out, y: row }, { x: into, y: row }, { x: into, y: end.y }, end];
  if (out > end.x) return around;
  const plain = [start.y === end.y ? [start, end] : [start, { x: out, y: start.y }, { x: out, y: end.y }, end]];
  if (into > out) plain.push([start, { x: into, y: start.y }, { x: into, y: end.y }, end]);
  return plain.find((points) => !crossesAny(points, boxes)) ?? around;
}

/** Out below, back through the gaps, and in from below: a loop is told from what leads on by where it touches a box. */
function routeBack(from: Point, to: Point): Point[] {
  const start = { x: from.x + BOX.width / 2, y: from.y + BOX.height };
  const end = { x: to.x + BOX.width / 2, y: to.y + BOX.height };
  const beside = to.x + BOX.width + BESIDE.loop;
  const [leave, arrive] = [start.y + BETWEEN, end.y + BETWEEN];
  if (leave === arrive) return [start, { x: start.x, y: leave }, { x: end.x, y: leave }, end];
  return [start, { x: start.x, y: leave }, { x: beside, y: leave }, { x: beside, y: arrive }, { x: end.x, y: arrive }, end];
}

/** Whether a line goes through the inside of a box. */
export function crossesAny(points: readonly Point[], boxes: readonly Point[]): boolean {
  return points.slice(1).some((end, index) => {
    const start = points[index] as Point;
    const [left, right] = [Math.min(start.x, end.x), Math.max(start.x, end.x)];
    const [top, bottom] = [Math.min(start.y, end.y), Math.max(start.y, end.y)];
    return boxes.some((box) => right > box.x && left < box.x + BOX.width && bottom > box.y && top < box.y + BOX.height);
  });
}

/** The line as the data of an SVG path, its corners rounded. */
export function pathOf(points: readonly Point[], radius = 4): string {
  return points
    .map((point, index) => {
      const [before, after] = [points[index - 1], points[index + 1]];
      if (before === undefined) return `M${point.x} ${point.y}`;
      if (after === undefined) return `L${point.x} ${point.y}`;
      const enter = towards(point, before, radius);
      const leave = towards(point, after, radius);
      return `L${enter.x} ${enter.y}Q${point.x} ${point.y} ${leave.x} ${leave.y}`;
    })
    .join('');
}

/** A place at most `distance` from a corner on the way to the next one, and never beyond its middle. */
function towards(corner: Point, next: Point, distance: number): Point {
  const length = Math.abs(next.x - corner.x) + Math.abs(next.y - corner.y);
  const share = length === 0 ? 0 : Math.min(distance, length / 2) / length;
  return { x: corner.x + (next.x - corner.x) * share, y: corner.y + (next.y - corner.y) * share };
}

/** Where the words of a line stand: over its longest level stretch. */
export function wordsAt(points: readonly Point[]): Point {
  let best = { x: points[0]?.x ?? 0, y: points[0]?.y ?? 0 };
  let most = -1;
  for (const [index, end] of points.slice(1).entries()) {
    const start = points[index] as Point;
    const length = Math.abs(end.x - start.x);
    if (start.y !== end.y || length <= most) continue;
    most = length;
    best = { x: (start.x + end.x) / 2, y: start.y };
  }
  return best;
}
