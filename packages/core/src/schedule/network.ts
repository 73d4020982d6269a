import { indexById, refuse, requireDay, requireId, requireList, requireObject, requireWhole } from '../check.ts';
import { ProblemError } from '../result.ts';
import { findLoop } from './loop.ts';
import type { AnchorInput, PhaseInput, ScheduleInput, TaskInput } from './types.ts';

/** How a node gets its place. */
export const FREE = 0;
export const FIXED = 1;
export const DONE = 2;
export const UNDER_WAY = 3;

/** Bits of an edge: it leaves the start (not the end) of its source; it binds the end (not the start) of its target. */
export const FROM_START = 1;
export const TO_END = 2;

/**
 * The engagement as a network in compressed sparse rows. Nodes are phase starts, phase
 * ends, then tasks. Edge e of node v says: start[v] ≥ (end or start of source) + weight,
 * where a bound on the end already has v's days taken off. `order` is topological.
 */
export interface Network {
  readonly phaseCount: number;
  readonly taskCount: number;
  readonly days: Int32Array;
  readonly mode: Uint8Array;
  readonly order: Int32Array;
  readonly firstEdge: Int32Array;
  readonly edgeSource: Int32Array;
  readonly edgeWeight: Int32Array;
  readonly edgeKind: Uint8Array;
  /** Day numbers, meaningful where `mode` is not FREE. */
  readonly startDay: Int32Array;
  readonly finishDay: Int32Array;
  readonly remaining: Int32Array;
  readonly engagementOffset: Int32Array;
  readonly late: readonly LateTask[];
}

/** A task that ends a number of open days before its phase's end or before the promise. */
export interface LateTask {
  readonly node: number;
  readonly phaseEnd: number | null;
  readonly offset: number;
  /** The edge by which it would stretch its phase; left out in the first pass. */
  readonly stretch: number;
}

const NO_OFFSET = -1_000_000_000;
const LINK_KIND: Readonly<Record<string, number>> = { FS: 0, SS: FROM_START, FF: TO_END, SF: FROM_START | TO_END };
const ANCHORS = ['phase-start', 'engagement-start', 'before-phase-end', 'before-promise'];

/** Reads phases and tasks into a network; throws a problem naming the field, the id or the loop. */
export function buildNetwork(input: ScheduleInput): Network {
  requireList(input.phases, 'phases');
  requireList(input.tasks, 'tasks');
  const builder = new NetworkBuilder(input.phases, input.tasks);
  input.phases.forEach((phase, index) => builder.addPhase(phase, index));
  input.tasks.forEach((task, index) => builder.addTask(task, index));
  return builder.finish();
}

class NetworkBuilder {
  private readonly phases: readonly PhaseInput[];
  private readonly tasks: readonly TaskInput[];
  private readonly phaseIndex: Map<string, number>;
  private readonly taskIndex: Map<string, number>;
  private readonly targets: Int32Array;
  private readonly sources: Int32Array;
  private readonly weights: Int32Array;
  private readonly kinds: Uint8Array;
  private edges = 0;
  private readonly late: LateTask[] = [];
  private readonly days: Int32Array;
  private readonly mode: Uint8Array;
  private readonly startDay: Int32Array;
  private readonly finishDay: Int32Array;
  private readonly remaining: Int32Array;
  private readonly engagementOffset: Int32Array;

  constructor(phases: readonly PhaseInput[], tasks: readonly TaskInput[]) {
    this.phases = phases;
    this.tasks = tasks;
    this.phaseIndex = indexById(phases, 'phases');
    this.taskIndex = indexById(tasks, 'tasks');
    const nodes = phases.length * 2 + tasks.length;
    const room = nodes + tasks.length + tasks.reduce((sum, task) => sum + (Array.isArray(task.after) ? task.after.length : 0), 0);
    this.targets = new Int32Array(room);
    this.sources = new Int32Array(room);
    this.weights = new Int32Array(room);
    this.kinds = new Uint8Array(room);
    this.days = new Int32Array(nodes);
    this.mode = new Uint8Array(nodes);
    this.startDay = new Int32Array(nodes);
    this.finishDay = new Int32Array(nodes);
    this.remaining = new Int32Array(nodes);
    this.engagementOffset = new Int32Array(nodes).fill(NO_OFFSET);
    tasks.forEach((task, index) => {
      this.days[this.taskNode(index)] = requireWhole(task.days, () => `tasks[${task.id}].days`, 0);
    });
  }

  private taskNode(index: number): number {
    return this.phases.length * 2 + index;
  }

  private phaseEnd(index: number): number {
    return this.phases.length + index;
  }

  /** Adds start[target] ≥ source + lag (or end[target], by kind) and returns the edge's position. */
  private edge(source: number, target: number, { lag, kind }: { readonly lag: number; readonly kind: number }): number {
    this.sources[this.edges] = source;
    this.targets[this.edges] = target;
    this.kinds[this.edges] = kind;
    this.weights[this.edges] = kind & TO_END ? lag - (this.days[target] as number) : lag;
    return this.edges++;
  }

  addPhase(phase: PhaseInput, index: number): void {
    const at = `phases[${phase.id}]`;
    this.edge(index, this.phaseEnd(index), { lag: 0, kind: 0 });
    if (phase.actual !== undefined) {
      requireObject(phase.actual, `${at}.actual`);
      const { start, finish } = phase.actual;
      this.keep(index, { start }, at);
      if (finish !== undefined) this.keep(this.phaseEnd(index), { start: finish, finish }, at);
    }
    if (phase.after === undefined || phase.after === null) return;
    requireObject(phase.after, `${at}.after`);
    const before = this.phaseIndex.get(requireId(phase.after.phase, `${at}.after.phase`));
    if (before === undefined) return refuse({ kind: 'unknown-id', at: `${at}.after.phase`, id: phase.after.phase });
    const lag = requireWhole(phase.after.lag ?? 0, `${at}.after.lag`);
    if (phase.after.edge !== 'finish' && phase.after.edge !== 'start') {
      return refuse({ kind: 'invalid-field', at: `${at}.after.edge`, expected: '"finish" or "start"' });
    }
    this.edge(phase.after.edge === 'finish' ? this.phaseEnd(before) : before, index, { lag, kind: 0 });
  }

  addTask(task: TaskInput, index: number): void {
    const at = (): string => `tasks[${task.id}]`;
    const phase = this.phaseIndex.get(requireId(task.phase, () => `${at()}.phase`));
    if (phase === undefined) return refuse({ kind: 'unknown-id', at: `${at()}.phase`, id: task.phase });
    const node = this.taskNode(index);
    this.readMode(task, node, at);
    const anchor = this.readAnchor(task, at);
    // A pinned task keeps its day: its anchor asks nothing of it any more.
    const pinned = this.mode[node] !== FREE;
    const offset = !pinned && anchor.at === 'phase-start' ? Math.max(0, anchor.offset) : 0;
    this.edge(phase, node, { lag: offset, kind: 0 });
    if (!pinned && anchor.at === 'engagement-start') this.engagementOffset[node] = anchor.offset;
    const stretch = this.edge(node, this.phaseEnd(phase), { lag: 0, kind: 0 });
    if (!pinned && anchor.at.startsWith('before-')) {
      this.late.push({ node, phaseEnd: anchor.at === 'before-phase-end' ? this.phaseEnd(phase) : null, offset: anchor.offset, stretch });
    }
    this.addLinks(task, node, at);
  }

  private addLinks(task: TaskInput, node: number, at: () => string): void {
    if (task.after === undefined) return;
    requireList(task.after, () => `${at()}.after`);
    for (const link of task.after) {
      requireObject(link, () => `${at()}.after`);
      const source = this.taskIndex.get(requireId(link.task, () => `${at()}.after.task`));
      if (source === undefined) return refuse({ kind: 'unknown-id', at: `${at()}.after`, id: link.task });
      const kind = LINK_KIND[link.type];
      if (kind === undefined) return refuse({ kind: 'invalid-field', at: `${at()}.after.type`, expected: 'FS, SS, FF or SF' });
      this.edge(this.taskNode(source), node, { lag: requireWhole(link.lag ?? 0, () => `${at()}.after.lag`), kind });
    }
  }

  private readAnchor(task: TaskInput, at: () => string): AnchorInput {
    if (task.anchor === undefined || task.anchor === null) return { at: 'phase-start', offset: 0 };
    requireObject(task.anchor, () => `${at()}.anchor`);
    if (!ANCHORS.includes(task.anchor.at)) refuse({ kind: 'invalid-field', at: `${at()}.anchor.at`, expected: ANCHORS.join(', ') });
    return { at: task.anchor.at, offset: requireWhole(task.anchor.offset ?? 0, () => `${at()}.anchor.offset`) };
  }

  private readMode(task: TaskInput, node: number, at: () => string): void {
    if (task.actual !== undefined && task.actual !== null) {
      requireObject(task.actual, () => `${at()}.actual`);
      this.keep(node, task.actual, at());
      if (task.actual.finish !== undefined) return;
      this.mode[node] = UNDER_WAY;
      this.remaining[node] = requireWhole(task.remaining ?? task.days, () => `${at()}.remaining`, 0);
    } else if (task.fixed !== undefined && task.fixed !== null) {
      this.mode[node] = FIXED;
      this.startDay[node] = requireDay(task.fixed, () => `${at()}.fixed`);
    }
  }

  /** Pins a node to a real day; with a finish it is over. */
  private keep(node: number, days: { readonly start: string; readonly finish?: string | undefined }, at: string): void {
    this.mode[node] = DONE;
    this.startDay[node] = requireDay(days.start, `${at}.actual.start`);
    this.finishDay[node] = days.finish === undefined ? (this.startDay[node] as number) : requireDay(days.finish, `${at}.actual.finish`);
    if ((this.finishDay[node] as number) < (this.startDay[node] as number)) {
      refuse({ kind: 'invalid-field', at: `${at}.actual.finish`, expected: 'on or after the actual start' });
    }
  }

  finish(): Network {
    const nodes = this.days.length;
    const { firstEdge, position } = groupByTarget(this.targets.subarray(0, this.edges), nodes);
    const edgeSource = new Int32Array(position.length);
    const edgeWeight = new Int32Array(position.length);
    const edgeKind = new Uint8Array(position.length);
    position.forEach((to, from) => {
      edgeSource[to] = this.sources[from] as number;
      edgeWeight[to] = this.weights[from] as number;
      edgeKind[to] = this.kinds[from] as number;
    });
    const graph = { firstEdge, edgeSource };
    const order = sortTopologically(graph, nodes);
    if (order === null) throw this.describeLoop(graph);
    return {
      phaseCount: this.phases.length,
      taskCount: this.tasks.length,
      days: this.days,
      mode: this.mode,
      order,
      firstEdge,
      edgeSource,
      edgeWeight,
      edgeKind,
      startDay: this.startDay,
      finishDay: this.finishDay,
      remaining: this.remaining,
      engagementOffset: this.engagementOffset,
      late: this.late.map((task) => ({ ...task, stretch: position[task.stretch] as number })),
    };
  }

  /** Loops among phases alone name the phases; every other loop names its tasks. */
  private describeLoop(graph: { firstEdge: Int32Array; edgeSource: Int32Array }): Error {
    const firstTask = this.phases.length * 2;
    const nameOf = (node: number): string =>
      node >= firstTask ? (this.tasks[node - firstTask] as TaskInput).id : (this.phases[node % this.phases.length] as PhaseInput).id;
    const loop = findLoop(graph, nameOf, (node) => node >= firstTask);
    const tasks = loop.filter((node) => node >= firstTask);
    const path = tasks.length > 0 ? tasks.map(nameOf) : [...new Set(loop.map(nameOf))];
    return new ProblemError({ kind: 'loop', at: tasks.length > 0 ? 'tasks' : 'phases', path });
  }
}

/** Counting sort of edges by target: where each node's edges begin, and where each edge went. */
function groupByTarget(targets: Int32Array, nodes: number): { firstEdge: Int32Array; position: Int32Array } {
  const firstEdge = new Int32Array(nodes + 1);
  for (const target of targets) (firstEdge[target + 1] as number)++;
  for (let node = 0; node < nodes; node++) (firstEdge[node + 1] as number) += firstEdge[node] as number;
  const next = firstEdge.slice(0, nodes);
  const position = new Int32Array(targets.length);
  targets.forEach((target, edge) => {
    position[edge] = next[target] as number;
    (next[target] as number)++;
  });
  return { firstEdge, position };
}

/** Kahn's algorithm over the outgoing view of the same rows; null when a loop is left. */
function sortTopologically(graph: { firstEdge: Int32Array; edgeSource: Int32Array }, nodes: number): Int32Array | null {
  const { firstEdge, edgeSource } = graph;
  const firstOut = new Int32Array(nodes + 1);
  for (const source of edgeSource) (firstOut[source + 1] as number)++;
  for (let node = 0; node < nodes; node++) (firstOut[node + 1] as number) += firstOut[node] as number;
  const next = firstOut.slice(0, nodes);
  const outTarget = new Int32Array(edgeSource.length);
  const open = new Int32Array(nodes);
  for (let node = 0; node < nodes; node++) {
    const end = firstEdge[node + 1] as number;
    open[node] = end - (firstEdge[node] as number);
    for (let edge = firstEdge[node] as number; edge < end; edge++) {
      const source = edgeSource[edge] as number;
      outTarget[next[source] as number] = node;
      (next[source] as number)++;
    }
  }
  const order = new Int32Array(nodes);
  let filled = 0;
  for (let node = 0; node < nodes; node++) if (open[node] === 0) order[filled++] = node;
  for (let done = 0; done < filled; done++) {
    const node = order[done] as number;
    for (let edge = firstOut[node] as number; edge < (firstOut[node + 1] as number); edge++) {
      const target = outTarget[edge] as number;
      (open[target] as number)--;
      if (open[target] === 0) order[filled++] = target;
    }
  }
  return filled === nodes ? order : null;
}
