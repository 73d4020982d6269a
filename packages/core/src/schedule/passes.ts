import { rank, type Calendar } from '../calendar/calendar.ts';
import type { DayNumber } from '../calendar/day.ts';
import { DONE, FIXED, FREE, FROM_START, TO_END, UNDER_WAY, type Network } from './network.ts';

/** The calendar with the rank of boundary 0, the first working day of the engagement. */
export interface Axis {
  readonly calendar: Calendar;
  readonly base: number;
  /** Boundary of today for a running engagement, else null. */
  readonly today: number | null;
  /** Boundary at the end of the promised day, or null. */
  readonly promise: number | null;
}

/** Boundaries of every node, and by how much fixed days and late anchors are missed. */
export interface Placement {
  readonly start: Int32Array;
  readonly end: Int32Array;
  readonly missed: Int32Array;
  /** Boundary at which everything has ended. */
  readonly finish: number;
}

const NEVER = -1_000_000_000;

/** The boundary before the first open day on or after `day`. */
export function boundaryOf(axis: Pick<Axis, 'calendar' | 'base'>, day: DayNumber): number {
  return rank(axis.calendar, day) - axis.base;
}

/** Places every node as early as possible, late anchors in a second pass (core-spec, section 2). */
export function placeForward(network: Network, axis: Axis): Placement {
  const lower = lowerBounds(network, axis);
  if (network.late.length === 0) return runForward(network, axis, { lower, late: null, areLatePlaced: true });
  const late = new Uint8Array(network.days.length);
  for (const task of network.late) late[task.node] = 1;
  const first = runForward(network, axis, { lower, late, areLatePlaced: false });
  const rest = finishWithout(network, first);
  for (const task of network.late) {
    const target = task.phaseEnd !== null ? (first.end[task.phaseEnd] as number) : (axis.promise ?? rest);
    lower[task.node] = Math.max(0, target - task.offset - (network.days[task.node] as number));
  }
  raiseToDays(network, axis, lower);
  return runForward(network, axis, { lower, late, areLatePlaced: true });
}

/** Earliest boundary of each node before its predecessors are considered. */
function lowerBounds(network: Network, axis: Axis): Int32Array {
  const floor = Math.max(0, axis.today ?? 0);
  const lower = new Int32Array(network.days.length).fill(floor);
  for (let phase = 0; phase < network.phaseCount; phase++) lower[network.phaseCount + phase] = 0;
  for (let node = network.phaseCount * 2; node < lower.length; node++) {
    const offset = network.engagementOffset[node] as number;
    if (offset > (lower[node] as number)) lower[node] = offset;
  }
  raiseToDays(network, axis, lower);
  return lower;
}

/** Days before which a task may not begin. */
function raiseToDays(network: Network, axis: Axis, lower: Int32Array): void {
  for (const { node, day, isAtEnd } of network.notBefore) {
    const at = boundaryOf(axis, day) + (isAtEnd ? 1 : 0);
    if (at > (lower[node] as number)) lower[node] = at;
  }
}

/** The end of everything but the late-anchored tasks. */
function finishWithout(network: Network, placement: Placement): number {
  const late = new Set(network.late.map((task) => task.node));
  let finish = 0;
  for (let node = network.phaseCount; node < placement.end.length; node++) {
    if (!late.has(node) && network.detached?.[node] !== 1) finish = Math.max(finish, placement.end[node] as number);
  }
  return finish;
}

interface Pass {
  readonly lower: Int32Array;
  /** Marks late-anchored tasks; null when there are none. */
  readonly late: Uint8Array | null;
  /** False while the phase ends they are placed before are still being computed: then they do not extend their phase. */
  readonly areLatePlaced: boolean;
}

function runForward(network: Network, axis: Axis, pass: Pass): Placement {
  const { order, firstEdge, edgeSource, edgeKind, edgeWeight, days, mode, phaseStart, phaseOffset, phaseCount, detached } = network;
  const { lower, late, areLatePlaced } = pass;
  const start = new Int32Array(days.length);
  const end = new Int32Array(days.length);
  const missed = new Int32Array(days.length);
  const reach = new Int32Array(phaseCount * 2).fill(NEVER);
  let finish = 0;
  for (let index = 0; index < order.length; index++) {
    const node = order[index] as number;
    const phase = phaseStart[node] as number;
    let needed = phase >= 0 ? (end[phase] as number) + (phaseOffset[node] as number) : (reach[node] as number);
    // A detached task's day does not follow from the phases or the finish: only its own dependencies hold it.
    if (detached !== null && detached[node] === 1) needed = NEVER;
    const last = firstEdge[node + 1] as number;
    for (let edge = firstEdge[node] as number; edge < last; edge++) {
      const source = edgeSource[edge] as number;
      const from = ((edgeKind[edge] as number) & FROM_START ? start[source] : end[source]) as number;
      const bound = from + (edgeWeight[edge] as number);
      if (bound > needed) needed = bound;
    }
    const least = lower[node] as number;
    const isLate = late !== null && late[node] === 1;
    if (mode[node] === FREE) {
      const at = needed > least ? needed : least;
      start[node] = at;
      end[node] = at + (days[node] as number);
      if (isLate && areLatePlaced && needed > least) missed[node] = needed - least;
    } else {
      placeKept(network, axis, { node, needed, start, end, missed });
    }
    const until = end[node] as number;
    if (node >= phaseCount && until > finish && (detached === null || detached[node] === 0)) finish = until;
    if (phase >= 0 && until > (reach[phase + phaseCount] as number) && (!isLate || areLatePlaced)) reach[phase + phaseCount] = until;
  }
  return { start, end, missed, finish };
}

interface KeptNode {
  readonly node: number;
  readonly needed: number;
  readonly start: Int32Array;
  readonly end: Int32Array;
  readonly missed: Int32Array;
}

/** A node whose day is given: fixed, done, or under way. */
function placeKept(network: Network, axis: Axis, kept: KeptNode): void {
  const { node, needed, start, end, missed } = kept;
  const days = network.days[node] as number;
  const from = boundaryOf(axis, network.startDay[node] as number);
  if (network.mode[node] === FIXED) {
    // A milestone stands at the end of its day, so its boundary is the one after it.
    start[node] = days === 0 ? from + 1 : from;
    end[node] = (start[node] as number) + days;
    if (needed > (start[node] as number)) missed[node] = needed - (start[node] as number);
  } else if (network.mode[node] === DONE) {
    const over = boundaryOf(axis, (network.finishDay[node] as number) + 1);
    const isPhase = node < network.phaseCount * 2;
    start[node] = isPhase && node >= network.phaseCount ? over : from;
    end[node] = isPhase ? (start[node] as number) : Math.max(over, from);
  } else {
    start[node] = from;
    end[node] = Math.max(from, (axis.today ?? from) + (network.remaining[node] as number), endNeeded(network, kept, days));
  }
}

/** What finish-finish and start-finish dependencies ask of the end of a task under way. */
function endNeeded(network: Network, kept: KeptNode, days: number): number {
  let needed = NEVER;
  for (let edge = network.firstEdge[kept.node] as number; edge < (network.firstEdge[kept.node + 1] as number); edge++) {
    const kind = network.edgeKind[edge] as number;
    if (!(kind & TO_END)) continue;
    const source = network.edgeSource[edge] as number;
    const from = (kind & FROM_START ? kept.start[source] : kept.end[source]) as number;
    needed = Math.max(needed, from + (network.edgeWeight[edge] as number) + days);
  }
  return needed;
}

/**
 * Latest start of every node so that `horizon` and every fixed day are kept: the backward pass of the
 * critical path method. What has begun cannot move earlier because of what follows.
 */
export function placeBackward(network: Network, placement: Placement, horizon: number): Int32Array {
  const { order, firstEdge, edgeSource, edgeKind, edgeWeight, mode, phaseStart, phaseOffset, phaseCount } = network;
  const { start, end } = placement;
  const lateEnd = new Int32Array(start.length).fill(horizon);
  const lateStart = new Int32Array(start.length).fill(horizon);
  for (let index = order.length - 1; index >= 0; index--) {
    const node = order[index] as number;
    const length = (end[node] as number) - (start[node] as number);
    const phase = phaseStart[node] as number;
    let limitOfEnd = lateEnd[node] as number;
    // A phase that is over sets no limit for its tasks any more.
    if (phase >= 0 && mode[phase + phaseCount] !== DONE) limitOfEnd = Math.min(limitOfEnd, lateStart[phase + phaseCount] as number);
    let latest = Math.min(lateStart[node] as number, limitOfEnd - length);
    if (mode[node] === FIXED) latest = start[node] as number;
    lateStart[node] = latest;
    if (mode[node] === DONE) continue;
    if (phase >= 0 && mode[node] !== UNDER_WAY) {
      const bound = latest - (phaseOffset[node] as number);
      if (bound < (lateEnd[phase] as number)) lateEnd[phase] = bound;
    }
    const last = firstEdge[node + 1] as number;
    for (let edge = firstEdge[node] as number; edge < last; edge++) {
      const kind = edgeKind[edge] as number;
      if (mode[node] === UNDER_WAY && !(kind & TO_END)) continue;
      const limit = mode[node] === UNDER_WAY ? latest + length - (network.days[node] as number) : latest;
      const source = edgeSource[edge] as number;
      const bound = limit - (edgeWeight[edge] as number);
      const side = kind & FROM_START ? lateStart : lateEnd;
      if (bound < (side[source] as number)) side[source] = bound;
    }
  }
  return lateStart;
}
