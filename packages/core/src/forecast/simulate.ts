import { boundaryOf, type Axis } from '../schedule/passes.ts';
import { DONE, FIXED, FREE, FROM_START, TO_END, UNDER_WAY, type Network } from '../schedule/network.ts';

/** Runs of one chunk: the boundary at which each ended, and how often each node was on its longest chain. */
export interface ChunkOfRuns {
  readonly finishes: Float64Array;
  readonly onChain: Int32Array;
}

const NEVER = -1e9;
const NOBODY = -1;

/**
 * The forward pass of the schedule with lengths drawn anew in every run. Boundaries are
 * fractions of working days here: a length of 1.3 days is 1.3 days, and only the finish is
 * rounded up to a day. With every ratio 1 it places everything as `schedule` does.
 */
export class Simulation {
  private readonly network: Network;
  private readonly axis: Axis;
  private readonly tables: readonly (Float64Array | null)[];
  /** Before which boundary a node cannot start, predecessors left aside. */
  private readonly lower: Float64Array;
  private readonly earliest: Float64Array;
  private readonly isLate: Uint8Array;
  private readonly days: Float64Array;
  private readonly start: Float64Array;
  private readonly end: Float64Array;
  /** The node that decided when a node starts; a phase end is decided by the task that stretched it. */
  private readonly because: Int32Array;
  private readonly reach: Float64Array;
  private readonly reachedBy: Int32Array;

  /** `tables` holds the ratios to draw from for every node, null where nothing is left to draw. */
  constructor(network: Network, axis: Axis, tables: readonly (Float64Array | null)[]) {
    const nodes = network.days.length;
    this.network = network;
    this.axis = axis;
    this.tables = tables;
    this.lower = new Float64Array(nodes);
    this.isLate = new Uint8Array(nodes);
    for (const { node } of network.late) this.isLate[node] = 1;
    this.days = new Float64Array(nodes);
    this.start = new Float64Array(nodes);
    this.end = new Float64Array(nodes);
    this.because = new Int32Array(nodes);
    this.reach = new Float64Array(network.phaseCount * 2);
    this.reachedBy = new Int32Array(network.phaseCount * 2);
    this.layLowerBounds();
    this.earliest = this.lower.slice();
  }

  /** Simulates `runs` runs with the numbers that `random` gives. */
  run(runs: number, random: () => number): ChunkOfRuns {
    const finishes = new Float64Array(runs);
    const onChain = new Int32Array(this.days.length);
    for (let run = 0; run < runs; run++) {
      this.draw(random);
      const last = this.place();
      finishes[run] = last === NOBODY ? 0 : (this.end[last] as number);
      this.countChain(last, onChain);
    }
    return { finishes, onChain };
  }

  private draw(random: () => number): void {
    const { days, mode, remaining } = this.network;
    for (let node = this.network.phaseCount * 2; node < days.length; node++) {
      const table = this.tables[node];
      const planned = (mode[node] === UNDER_WAY ? remaining[node] : days[node]) as number;
      const ratio = table === null || table === undefined ? 1 : (table[(random() * table.length) | 0] as number);
      this.days[node] = planned * ratio;
    }
  }

  /** Places every node; late anchors in a second pass, as the schedule does. Answers the node that ends last. */
  private place(): number {
    const { network, axis, lower } = this;
    if (network.late.length === 0) return this.pass(true);
    // The run before left its own places here.
    for (const { node } of network.late) lower[node] = this.earliest[node] as number;
    this.pass(false);
    const rest = this.finishOfTheRest();
    for (const { node, phaseEnd, offset } of network.late) {
      const target = phaseEnd !== null ? (this.end[phaseEnd] as number) : (axis.promise ?? rest);
      lower[node] = Math.max(0, target - offset - (this.days[node] as number));
    }
    this.raiseToDays();
    return this.pass(true);
  }

  private finishOfTheRest(): number {
    let finish = 0;
    for (let node = this.network.phaseCount; node < this.end.length; node++) {
      if (this.isLate[node] === 0 && this.network.aside?.[node] !== 1) finish = Math.max(finish, this.end[node] as number);
    }
    return finish;
  }

  private layLowerBounds(): void {
    const { phaseCount, engagementOffset } = this.network;
    const floor = Math.max(0, this.axis.today ?? 0);
    for (let node = 0; node < this.lower.length; node++) {
      const isPhaseEnd = node >= phaseCount && node < phaseCount * 2;
      const offset = node < phaseCount * 2 ? 0 : (engagementOffset[node] as number);
      this.lower[node] = isPhaseEnd ? 0 : Math.max(floor, offset);
    }
    this.raiseToDays();
  }

  private raiseToDays(): void {
    for (const { node, day, isAtEnd } of this.network.notBefore) {
      const at = boundaryOf(this.axis, day) + (isAtEnd ? 1 : 0);
      if (at > (this.lower[node] as number)) this.lower[node] = at;
    }
  }

  private pass(areLatePlaced: boolean): number {
    const { network, start, end, days, because, reach, reachedBy } = this;
    const { order, firstEdge, edgeSource, edgeKind, edgeWeight, mode, phaseStart, phaseOffset, phaseCount, aside } = network;
    reach.fill(NEVER);
    reachedBy.fill(NOBODY);
    let last = NOBODY;
    let finish = 0;
    for (let place = 0; place < order.length; place++) {
      const node = order[place] as number;
      const phase = phaseStart[node] as number;
      let needed = (phase >= 0 ? (end[phase] as number) + (phaseOffset[node] as number) : reach[node]) as number;
      let by = (phase >= 0 ? phase : reachedBy[node]) as number;
      const until = firstEdge[node + 1] as number;
      for (let edge = firstEdge[node] as number; edge < until; edge++) {
        const source = edgeSource[edge] as number;
        const kind = edgeKind[edge] as number;
        let bound = ((kind & FROM_START ? start[source] : end[source]) as number) + (edgeWeight[edge] as number);
        // A bound on the end had the planned length taken off: what counts is the one drawn.
        if (kind & TO_END) bound += (network.days[node] as number) - (days[node] as number);
        if (bound > needed) {
          needed = bound;
          by = source;
        }
      }
      if (mode[node] === FREE) {
        const least = this.lower[node] as number;
        start[node] = needed > least ? needed : least;
        end[node] = (start[node] as number) + (days[node] as number);
        because[node] = needed >= least ? by : NOBODY;
      } else {
        this.placeKept(node);
      }
      const ends = end[node] as number;
      if (node >= phaseCount && ends > finish && (aside === null || aside[node] === 0)) {
        finish = ends;
        last = node;
      }
      const isHeldBack = this.isLate[node] === 1 && !areLatePlaced;
      if (phase >= 0 && ends > (reach[phase + phaseCount] as number) && !isHeldBack) {
        reach[phase + phaseCount] = ends;
        reachedBy[phase + phaseCount] = node;
      }
    }
    return last;
  }

  /** Fixed, done or under way: as the schedule places them, and nothing before them decides. */
  private placeKept(node: number): void {
    const { network, axis, start, end, days } = this;
    const from = boundaryOf(axis, network.startDay[node] as number);
    this.because[node] = NOBODY;
    if (network.mode[node] === FIXED) {
      start[node] = network.days[node] === 0 ? from + 1 : from;
      end[node] = (start[node] as number) + (days[node] as number);
    } else if (network.mode[node] === DONE) {
      const over = boundaryOf(axis, (network.finishDay[node] as number) + 1);
      const isPhase = node < network.phaseCount * 2;
      start[node] = isPhase && node >= network.phaseCount ? over : from;
      end[node] = isPhase ? (start[node] as number) : Math.max(over, from);
    } else {
      start[node] = from;
      end[node] = Math.max(from, (axis.today ?? from) + (days[node] as number));
      this.stretch(node);
    }
  }

  /** What finish-finish and start-finish ties ask of the end of a task under way. */
  private stretch(node: number): void {
    const { firstEdge, edgeKind, edgeSource, edgeWeight, days } = this.network;
    for (let edge = firstEdge[node] as number; edge < (firstEdge[node + 1] as number); edge++) {
      const kind = edgeKind[edge] as number;
      if (!(kind & TO_END)) continue;
      const source = edgeSource[edge] as number;
      const from = (kind & FROM_START ? this.start[source] : this.end[source]) as number;
      const needed = from + (edgeWeight[edge] as number) + (days[node] as number);
      if (needed <= (this.end[node] as number)) continue;
      this.end[node] = needed;
      this.because[node] = source;
    }
  }

  private countChain(last: number, onChain: Int32Array): void {
    for (let node = last; node !== NOBODY; node = this.because[node] as number) onChain[node] = (onChain[node] as number) + 1;
  }
}
