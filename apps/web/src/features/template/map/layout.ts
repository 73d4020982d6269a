import type { TemplateContent, TemplateTask, TemplateWay } from '@crew/core';
import { CLIENT_LANE, laneOf, NOBODY_LANE, removeWay, removeDependency, type Edit } from '../content.ts';
import { routeOf, type Point } from './routes.ts';
import { BOX, GAP } from './sizes.ts';

const LANE_PAD = 16;
const NAME_WIDTH = 132;
const HEAD = 58;
/** A small map fills its window anyway. */
const LEAST_WIDTH = 1380;

export interface MapLane {
  /** The role, or the lane of the client or of nobody. */
  readonly id: string;
  readonly name: string;
  readonly y: number;
  readonly height: number;
}
export interface MapPhase {
  readonly id: string;
  readonly name: string;
  readonly x: number;
  readonly width: number;
}
export interface MapBox {
  readonly id: string;
  readonly title: string;
  readonly kind: 'step' | 'client' | 'ending';
  readonly laneId: string;
  readonly phaseId: string;
  readonly x: number;
  readonly y: number;
  /** How many subtasks stand behind it. */
  readonly parts: number;
}
export interface MapArrow {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  readonly kind: 'next' | 'back' | 'ending';
  readonly label: string;
  /** The corners of its line, from box to box; it crosses no box. */
  readonly points: readonly Point[];
}
/** The map of a template: boxes in lanes by role, phases above them as columns, arrows with their reasons. */
export interface ProcessMapLayout {
  readonly lanes: readonly MapLane[];
  readonly phases: readonly MapPhase[];
  readonly boxes: readonly MapBox[];
  readonly arrows: readonly MapArrow[];
  readonly width: number;
  readonly height: number;
}

export const endingId = (way: Pick<TemplateWay, 'id'>): string => `ending ${way.id}`;

interface Placed {
  readonly id: string;
  readonly title: string;
  readonly kind: MapBox['kind'];
  readonly laneId: string;
  readonly phaseId: string;
  readonly rank: number;
  readonly parts: number;
}

/**
 * Lays the map out: phases side by side, within a phase every step right of what it waits for,
 * lanes in the order in which their roles come in, the client's lane last. Only what stands
 * by itself is a box; its subtasks are the work behind it. Nothing is stored: the same
 * template always looks the same.
 */
export function layOutMap(content: TemplateContent, roleName: (id: string) => string): ProcessMapLayout {
  const boxes = placeBoxes(content);
  const lanes = laneOrder(boxes);
  const phases = placePhases(content, boxes);
  const stacked = stack(boxes);
  let y = HEAD;
  const placed = lanes.map((id): MapLane => {
    const deepest = Math.max(1, ...boxes.filter((box) => box.laneId === id).map((box) => (stacked.get(box.id) ?? 0) + 1));
    const height = deepest * (BOX.height + GAP.y) - GAP.y + LANE_PAD * 2;
    const lane = { id, name: id === CLIENT_LANE ? 'Client' : id === NOBODY_LANE ? 'Unassigned' : roleName(id), y, height };
    y += height;
    return lane;
  });
  const laneY = new Map(placed.map((lane) => [lane.id, lane.y]));
  const phaseX = new Map(phases.map((phase) => [phase.id, phase.x]));
  const drawn = boxes.map(({ rank, ...box }) => ({
    ...box,
    x: (phaseX.get(box.phaseId) ?? 0) + GAP.x / 2 + rank * (BOX.width + GAP.x),
    y: (laneY.get(box.laneId) ?? 0) + LANE_PAD + (stacked.get(box.id) ?? 0) * (BOX.height + GAP.y),
  }));
  return {
    lanes: placed,
    phases,
    boxes: drawn,
    arrows: draw(arrowsOf(content), drawn),
    width: Math.max(LEAST_WIDTH, (phases.at(-1)?.x ?? NAME_WIDTH) + (phases.at(-1)?.width ?? 0)),
    height: y,
  };
}

/** Without an arrow: the one step no longer waits for the other, or the way out is not there. */
export const removeArrow = (arrow: Pick<MapArrow, 'id' | 'from' | 'to' | 'kind'>): Edit =>
  arrow.kind === 'next' ? removeDependency(arrow.from, arrow.to) : removeWay(arrow.id);

/** Where a box was let go: the lane and the phase under its middle. */
export function placeUnder(
  layout: ProcessMapLayout,
  at: { readonly x: number; readonly y: number },
): { readonly laneId: string; readonly phaseId: string } | null {
  const [x, y] = [at.x + BOX.width / 2, at.y + BOX.height / 2];
  const lane = layout.lanes.find((candidate) => y >= candidate.y && y < candidate.y + candidate.height);
  const phase = layout.phases.find((candidate) => x >= candidate.x && x < candidate.x + candidate.width);
  return lane === undefined || phase === undefined ? null : { laneId: lane.id, phaseId: phase.id };
}

function placeBoxes(content: TemplateContent): Placed[] {
  const steps = content.tasks.filter((task) => task.parentId === null);
  const rankOf = ranks(steps);
  const boxes = steps.map((task): Placed => ({
    ...{ id: task.id, title: task.title, kind: task.kind === 'client' ? 'client' : 'step', laneId: laneOf(task), phaseId: task.phaseId },
    rank: rankOf.get(task.id) ?? 0,
    parts: content.tasks.filter((other) => other.parentId === task.id).length,
  }));
  const byId = new Map(boxes.map((box) => [box.id, box]));
  const endings = content.ways.flatMap((way): Placed[] => {
    const from = byId.get(way.fromId);
    if (way.toId !== null || from === undefined) return [];
    return [{ ...from, id: endingId(way), title: way.ending ?? '', kind: 'ending', rank: from.rank + 1, parts: 0 }];
  });
  return [...boxes, ...endings];
}

/** How many steps of its own phase lead to each, by the longest way. */
function ranks(steps: readonly TemplateTask[]): ReadonlyMap<string, number> {
  const byId = new Map(steps.map((task) => [task.id, task]));
  const known = new Map<string, number>();
  const rankOf = (task: TemplateTask, path: ReadonlySet<string>): number => {
    const rank = known.get(task.id);
    if (rank !== undefined) return rank;
    const before = task.after.flatMap((dependency) => {
      const other = byId.get(dependency.taskId);
      return other === undefined || other.phaseId !== task.phaseId || path.has(other.id) ? [] : [other];
    });
    const found = before.reduce((most, other) => Math.max(most, rankOf(other, new Set([...path, task.id])) + 1), 0);
    known.set(task.id, found);
    return found;
  };
  for (const task of steps) rankOf(task, new Set());
  return known;
}

function laneOrder(boxes: readonly Placed[]): string[] {
  const roles = [...new Set(boxes.map((box) => box.laneId))].filter((id) => id !== CLIENT_LANE);
  return [...roles, CLIENT_LANE];
}

function placePhases(content: TemplateContent, boxes: readonly Placed[]): MapPhase[] {
  let x: number = NAME_WIDTH;
  return content.phases.map((phase) => {
    const columns = Math.max(1, ...boxes.filter((box) => box.phaseId === phase.id).map((box) => box.rank + 1));
    const placed = { id: phase.id, name: phase.name, x, width: columns * (BOX.width + GAP.x) };
    x += placed.width;
    return placed;
  });
}

/** Boxes that would lie on each other stand below each other. */
function stack(boxes: readonly Placed[]): ReadonlyMap<string, number> {
  const taken = new Map<string, number>();
  return new Map(
    boxes.map((box) => {
      const place = `${box.phaseId} ${box.rank} ${box.laneId}`;
      const row = taken.get(place) ?? 0;
      taken.set(place, row + 1);
      return [box.id, row];
    }),
  );
}

/** Lines that leave a column of boxes go down or up beside it in rows of their own, so that they can be told apart. */
function draw(arrows: readonly Omit<MapArrow, 'points'>[], boxes: readonly MapBox[]): MapArrow[] {
  const byId = new Map(boxes.map((box) => [box.id, box]));
  const columns = new Map<number, MapBox[]>();
  for (const box of boxes)
    columns.set(
      box.x,
      [...(columns.get(box.x) ?? []), box].sort((left, right) => left.y - right.y),
    );
  return arrows.flatMap((arrow) => {
    const [from, to] = [byId.get(arrow.from), byId.get(arrow.to)];
    if (from === undefined || to === undefined) return [];
    const track = columns.get(from.x)?.indexOf(from) ?? 0;
    return [{ ...arrow, points: routeOf(from, to, { isBack: arrow.kind === 'back', track, boxes }) }];
  });
}

/** Dependencies between boxes, ways out, and from the last steps of a phase to the first of the next, which its handoff carries. */
function arrowsOf(content: TemplateContent): Omit<MapArrow, 'points'>[] {
  const steps = new Map(content.tasks.filter((task) => task.parentId === null).map((task) => [task.id, task]));
  const rounds = new Map(content.phases.map((phase) => [phase.id, phase.rounds]));
  const dependencies = [...steps.values()].flatMap((task) =>
    task.after.flatMap((dependency): Omit<MapArrow, 'points'>[] => {
      if (!steps.has(dependency.taskId)) return [];
      const lag = dependency.lag === 0 ? '' : `${dependency.lag > 0 ? '+' : '−'}${Math.abs(dependency.lag)} d`;
      return [{ id: `${dependency.taskId} ${task.id}`, from: dependency.taskId, to: task.id, kind: 'next', label: lag }];
    }),
  );
  const ways = content.ways.map((way): Omit<MapArrow, 'points'> => {
    const agreed = rounds.get(steps.get(way.fromId)?.phaseId ?? '') ?? null;
    if (way.toId === null) return { id: way.id, from: way.fromId, to: endingId(way), kind: 'ending', label: way.reason };
    return {
      id: way.id,
      from: way.fromId,
      to: way.toId,
      kind: 'back',
      label: agreed === null ? way.reason : `${way.reason} · ${agreed} rounds agreed`,
    };
  });
  return [...dependencies, ...ways];
}
