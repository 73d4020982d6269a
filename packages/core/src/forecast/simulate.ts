import { boundaryOf, type Axis } from '../schedule/passes.ts';
import { DONE, FIXED, FREE, FROM_START, TO_END, UNDER_WAY, type Network } from '../schedule/network.ts';
import type { SeededRandom } from './random.ts';
import { afterRunning, beforeRunning, whenItRuns, type Stretches } from './standstill.ts';

/** Runs of one chunk: the boundary at which each ended, and how often each node was on its longest chain. */
export interface ChunkOfRuns {
  readonly finishes: Float64Array;
  readonly onChain: Int32Array;
}

/** What a simulation knows of each node of the network. */
export interface OfNodes {
  readonly tables: readonly (Float64Array | null)[];
  readonly still: readonly (Stretches | null)[];
}

const NEVER = -1e9;
const NOBODY = -1;

/** What a chunk works on: for each node the runs beside each other, run `r` of node `n` at `n * runs + r`. */
interface Columns {
  readonly runs: number;
  readonly days: Float64Array;
  readonly start: Float64Array;
  readonly end: Float64Array;
  /** The node that decided when a node starts; a phase end is decided by the task that stretched it. */
  readonly because: Int32Array;
  /** Of each phase, how far its tasks reach and which reaches furthest. */
  readonly reach: Float64Array;
  readonly reachedBy: Int32Array;
  /** Of each run, its end and the node that ends last. */
  readonly finish: Float64Array;
  readonly last: Int32Array;
}

/**
 * The forward pass of the schedule with lengths drawn anew in every run. Boundaries are
 * fractions of working days here: a length of 1.3 days is 1.3 days, and only the finish is
 * rounded up to a day. With every ratio 1 it places everything as `schedule` does. All runs
 * of a chunk are placed node by node: what a node is and waits for is looked up once for all.
 */
export class Simulation {
  private readonly network: Network;
  private readonly axis: Axis;
  private readonly tables: readonly (Float64Array | null)[];
  private readonly still: readonly (Stretches | null)[];
  /** Before which boundary a node cannot start, whatever its predecessors ask. */
  private readonly lower: Float64Array;
  /** Of late anchors, the same in each run of the chunk; empty until the first pass has told where they end. */
  private readonly lateLower = new Map<number, Float64Array>();
  private readonly isLate: Uint8Array;
  private columns: Columns | null = null;

  /** `tables` holds the ratios to draw from for every node, null where nothing is left to draw; `still` when its people are away. */
  constructor(network: Network, axis: Axis, { tables, still }: OfNodes) {
    this.network = network;
    this.axis = axis;
    this.tables = tables;
    this.still = still;
    this.lower = lowerBounds(network, axis);
    this.isLate = new Uint8Array(network.days.length);
    for (const { node } of network.late) this.isLate[node] = 1;
  }

  /** Simulates `runs` runs with the next numbers of `random`. */
  run(runs: number, random: SeededRandom): ChunkOfRuns {
    const columns = this.columnsFor(runs);
    this.draw(columns, random);
    this.place(columns);
    const onChain = new Int32Array(this.network.days.length);
    for (let run = 0; run < runs; run++) {
      for (let node = columns.last[run] as number; node !== NOBODY; node = columns.because[node * runs + run] as number)
        onChain[node] = (onChain[node] as number) + 1;
    }
    return { finishes: columns.finish.slice(), onChain };
  }

  private columnsFor(runs: number): Columns {
    if (this.columns?.runs === runs) return this.columns;
    const [cells, ends] = [this.network.days.length * runs, this.network.phaseCount * 2 * runs];
    this.columns = {
      ...{ runs, days: new Float64Array(cells), start: new Float64Array(cells), end: new Float64Array(cells) },
      ...{ because: new Int32Array(cells), reach: new Float64Array(ends), reachedBy: new Int32Array(ends) },
      ...{ finish: new Float64Array(runs), last: new Int32Array(runs) },
    };
    return this.columns;
  }

  private draw({ runs, days: drawn }: Columns, random: SeededRandom): void {
    const { days, mode, remaining, phaseCount } = this.network;
    for (let node = phaseCount * 2; node < days.length; node++) {
      const table = this.tables[node];
      const planned = (mode[node] === UNDER_WAY ? remaining[node] : days[node]) as number;
      const [from, until] = [node * runs, (node + 1) * runs];
      if (table === null || table === undefined) {
        drawn.fill(planned, from, until);
        continue;
      }
      random.fill(drawn, from, until);
      const ratios = table.length;
      for (let cell = from; cell < until; cell++) drawn[cell] = planned * (table[((drawn[cell] as number) * ratios) | 0] as number);
    }
  }

  /** Places every node; late anchors in a second pass, as the schedule does. */
  private place(columns: Columns): void {
    const { network, axis, lateLower } = this;
    lateLower.clear();
    if (network.late.length > 0) {
      this.pass(columns, false);
      const rest = this.finishOfTheRest(columns);
      const { runs, days, end } = columns;
      for (const { node, phaseEnd, offset } of network.late) {
        const lower = new Float64Array(runs);
        for (let run = 0; run < runs; run++) {
          const target = phaseEnd !== null ? (end[phaseEnd * runs + run] as number) : (axis.promise ?? (rest[run] as number));
          lower[run] = Math.max(0, this.startFor(node, target - offset, days[node * runs + run] as number));
        }
        lateLower.set(node, lower);
      }
      for (const { node, bound } of dayBounds(network, axis)) {
        const lower = lateLower.get(node);
        if (lower !== undefined) for (let run = 0; run < runs; run++) lower[run] = Math.max(lower[run] as number, bound);
      }
    }
    this.pass(columns, true);
  }

  private finishOfTheRest({ runs, end }: Columns): Float64Array {
    const rest = new Float64Array(runs);
    for (let node = this.network.phaseCount; node < this.network.days.length; node++) {
      if (this.isLate[node] === 1 || this.network.detached?.[node] === 1) continue;
      for (let run = 0; run < runs; run++) rest[run] = Math.max(rest[run] as number, end[node * runs + run] as number);
    }
    return rest;
  }

  private pass(columns: Columns, areLatePlaced: boolean): void {
    const { order, mode, phaseStart, phaseCount, detached } = this.network;
    columns.reach.fill(NEVER);
    columns.reachedBy.fill(NOBODY);
    columns.finish.fill(0);
    columns.last.fill(NOBODY);
    for (let index = 0; index < order.length; index++) {
      const node = order[index] as number;
      if (mode[node] === FREE) this.placeFree(columns, node);
      else this.placeKept(columns, node);
      if (node >= phaseCount && (detached === null || detached[node] === 0))
        keepFurthest(columns, { node, ends: columns.finish, by: columns.last });
      const phase = phaseStart[node] as number;
      const isHeldBack = this.isLate[node] === 1 && !areLatePlaced;
      if (phase < 0 || isHeldBack) continue;
      const [from, until] = [(phase + phaseCount) * columns.runs, (phase + phaseCount + 1) * columns.runs];
      keepFurthest(columns, { node, ends: columns.reach.subarray(from, until), by: columns.reachedBy.subarray(from, until) });
    }
  }

  /** As early as what it waits for allows, in every run. */
  private placeFree(columns: Columns, node: number): void {
    const { runs, days, start, end, because, reach, reachedBy } = columns;
    const { firstEdge, edgeSource, edgeKind, edgeWeight, phaseStart, phaseOffset, days: planned } = this.network;
    const [phase, at] = [phaseStart[node] as number, node * runs];
    if (phase >= 0) {
      const [from, offset] = [phase * runs, phaseOffset[node] as number];
      for (let run = 0; run < runs; run++) start[at + run] = (end[from + run] as number) + offset;
      because.fill(phase, at, at + runs);
    } else {
      for (let run = 0; run < runs; run++) {
        start[at + run] = reach[at + run] as number;
        because[at + run] = reachedBy[at + run] as number;
      }
    }
    const until = firstEdge[node + 1] as number;
    for (let edge = firstEdge[node] as number; edge < until; edge++) {
      const [source, kind, weight] = [edgeSource[edge] as number, edgeKind[edge] as number, edgeWeight[edge] as number];
      const [ends, from] = [kind & FROM_START ? start : end, source * runs];
      // A bound on the end was given with the planned length subtracted; here the length drawn counts instead.
      const [isToEnd, length] = [(kind & TO_END) !== 0, planned[node] as number];
      for (let run = 0; run < runs; run++) {
        const needed = (ends[from + run] as number) + weight;
        const bound = isToEnd ? this.startFor(node, needed + length, days[at + run] as number) : needed;
        if (bound <= (start[at + run] as number)) continue;
        start[at + run] = bound;
        because[at + run] = source;
      }
    }
    const [lateLower, lower] = [this.lateLower.get(node), this.lower[node] as number];
    for (let run = 0; run < runs; run++) {
      const least = lateLower === undefined ? lower : (lateLower[run] as number);
      if (least > (start[at + run] as number)) {
        start[at + run] = least;
        because[at + run] = NOBODY;
      }
      end[at + run] = (start[at + run] as number) + (days[at + run] as number);
    }
    const still = this.still[node];
    if (still !== null && still !== undefined) this.waitForPeople(columns, { node, still });
  }

  /** Where a node that has to end at `end` begins. */
  private startFor(node: number, end: number, days: number): number {
    const still = this.still[node];
    return still === null || still === undefined ? end - days : beforeRunning(still, end, days);
  }

  /** Work does not begin while everybody who does it is away, and the days they are away do not count. */
  private waitForPeople(columns: Columns, { node, still }: { readonly node: number; readonly still: Stretches }): void {
    const { runs, days, start, end } = columns;
    for (let cell = node * runs; cell < (node + 1) * runs; cell++) {
      const length = days[cell] as number;
      if (length > 0) start[cell] = whenItRuns(still, start[cell] as number);
      end[cell] = afterRunning(still, start[cell] as number, length);
    }
    this.stretch(columns, node);
  }

  private endOf(node: number, start: number, days: number): number {
    const still = this.still[node];
    return still === null || still === undefined ? start + days : afterRunning(still, start, days);
  }

  /** Fixed, done or under way: placed as the schedule places them; no predecessor decides their start. */
  private placeKept(columns: Columns, node: number): void {
    const { network, axis } = this;
    const { runs, days, start, end, because } = columns;
    const from = boundaryOf(axis, network.startDay[node] as number);
    const at = node * runs;
    because.fill(NOBODY, at, at + runs);
    if (network.mode[node] === FIXED) {
      const fixed = network.days[node] === 0 ? from + 1 : from;
      start.fill(fixed, at, at + runs);
      for (let cell = at; cell < at + runs; cell++) end[cell] = this.endOf(node, fixed, days[cell] as number);
    } else if (network.mode[node] === DONE) {
      const over = boundaryOf(axis, (network.finishDay[node] as number) + 1);
      const isPhase = node < network.phaseCount * 2;
      const began = isPhase && node >= network.phaseCount ? over : from;
      start.fill(began, at, at + runs);
      end.fill(isPhase ? began : Math.max(over, from), at, at + runs);
    } else {
      start.fill(from, at, at + runs);
      for (let cell = at; cell < at + runs; cell++) end[cell] = Math.max(from, this.endOf(node, axis.today ?? from, days[cell] as number));
      this.stretch(columns, node);
    }
  }

  /** What finish-finish and start-finish dependencies ask of the end of a task whose start does not follow from it. */
  private stretch({ runs, start, end, because }: Columns, node: number): void {
    const { firstEdge, edgeKind, edgeSource, edgeWeight, days: planned } = this.network;
    for (let edge = firstEdge[node] as number; edge < (firstEdge[node + 1] as number); edge++) {
      const kind = edgeKind[edge] as number;
      if (!(kind & TO_END)) continue;
      const [source, at] = [edgeSource[edge] as number, node * runs];
      const ends = kind & FROM_START ? start : end;
      for (let run = 0; run < runs; run++) {
        const needed = (ends[source * runs + run] as number) + (edgeWeight[edge] as number) + (planned[node] as number);
        if (needed <= (end[at + run] as number)) continue;
        end[at + run] = needed;
        because[at + run] = source;
      }
    }
  }
}

/** Of each run the furthest end so far and whose it is, a node taken in. */
function keepFurthest(
  { runs, end }: Columns,
  { node, ends, by }: { readonly node: number; readonly ends: Float64Array; readonly by: Int32Array },
): void {
  const at = node * runs;
  for (let run = 0; run < runs; run++) {
    if ((end[at + run] as number) <= (ends[run] as number)) continue;
    ends[run] = end[at + run] as number;
    by[run] = node;
  }
}

/** The boundaries before which nodes may not begin because somebody set an earliest day. */
const dayBounds = (network: Network, axis: Axis): { readonly node: number; readonly bound: number }[] =>
  network.notBefore.map(({ node, day, isAtEnd }) => ({ node, bound: boundaryOf(axis, day) + (isAtEnd ? 1 : 0) }));

function lowerBounds(network: Network, axis: Axis): Float64Array {
  const { phaseCount, engagementOffset } = network;
  const floor = Math.max(0, axis.today ?? 0);
  const lower = Float64Array.from({ length: network.days.length }, (_, node) => {
    if (node >= phaseCount && node < phaseCount * 2) return 0;
    return Math.max(floor, node < phaseCount ? 0 : (engagementOffset[node] as number));
  });
  for (const { node, bound } of dayBounds(network, axis)) lower[node] = Math.max(lower[node] as number, bound);
  return lower;
}
