import { indexById, refuse, requireDay, requireId, requireList, requireObject, requireWhole } from '../check.ts';
import { isJoint } from '../nesting/joint.ts';
import { ProblemError } from '../result.ts';
import { findLoop, type IncomingGraph } from './loop.ts';
import { groupByTarget, sortTopologically, withPhaseDependencies } from './order.ts';
import type { AnchorInput, DependencyInput, PhaseInput, ScheduleInput, TaskInput } from './types.ts';

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
 * where a bound on the end already has v's days taken off. `order` is topological. What every
 * task has, its phase before and after it, is kept as columns: half the edges would be these.
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
  /** The start of the phase of each task node, −1 for the phases; every task also stretches that phase's end. */
  readonly phaseStart: Int32Array;
  /** How many open days after its phase begins a task begins at the earliest. */
  readonly phaseOffset: Int32Array;
  readonly late: readonly LateTask[];
  readonly notBefore: readonly NotBefore[];
  /** Marks detached tasks: the finish does not wait for them. Null when there are none. */
  readonly detached: Uint8Array | null;
}

/** A task that may not begin before a day; few have one, so they are kept apart. */
export interface NotBefore {
  readonly node: number;
  readonly day: number;
  /** A milestone stands at the end of its day; the joint before a group at the beginning. */
  readonly isAtEnd: boolean;
}

/** A task that ends a number of open days before its phase's end or before the promise. */
export interface LateTask {
  readonly node: number;
  readonly phaseEnd: number | null;
  readonly offset: number;
}

const NO_OFFSET = -1_000_000_000;
const ANCHORS = ['phase-start', 'engagement-start', 'before-phase-end', 'before-promise'];

/** Reads phases and tasks into a network; throws a problem naming the field, the id or the loop. */
export function buildNetwork(input: ScheduleInput): Network {
  requireList(input.phases, 'phases');
  requireList(input.tasks, 'tasks');
  const builder = new NetworkBuilder(input.phases, input.tasks);
  input.phases.forEach((phase, index) => builder.addPhase(phase, index));
  builder.addDetached();
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
  private readonly notBefore: NotBefore[] = [];
  private readonly days: Int32Array;
  private readonly mode: Uint8Array;
  private readonly startDay: Int32Array;
  private readonly finishDay: Int32Array;
  private readonly remaining: Int32Array;
  private readonly engagementOffset: Int32Array;
  private readonly phaseStart: Int32Array;
  private readonly phaseOffset: Int32Array;
  /** One more than are given when there are detached tasks: they are in a phase of their own that nothing follows. */
  private readonly phaseCount: number;
  private readonly detached: Uint8Array | null;

  constructor(phases: readonly PhaseInput[], tasks: readonly TaskInput[]) {
    this.phases = phases;
    this.tasks = tasks;
    this.phaseIndex = indexById(phases, 'phases');
    this.taskIndex = indexById(tasks, 'tasks');
    const isBesideAny = tasks.some((task) => task.isDetached === true);
    this.phaseCount = phases.length + (isBesideAny ? 1 : 0);
    const nodes = this.phaseCount * 2 + tasks.length;
    this.detached = isBesideAny ? new Uint8Array(nodes) : null;
    this.days = new Int32Array(nodes);
    let room = this.phaseCount * 2;
    for (let index = 0; index < tasks.length; index++) {
      const task = tasks[index] as TaskInput;
      const { days, after } = task;
      if (Array.isArray(after)) room += after.length;
      this.days[this.taskNode(index)] = Number.isSafeInteger(days) && days >= 0 ? days : requireWhole(days, `tasks[${task.id}].days`, 0);
    }
    this.targets = new Int32Array(room);
    this.sources = new Int32Array(room);
    this.weights = new Int32Array(room);
    this.kinds = new Uint8Array(room);
    this.mode = new Uint8Array(nodes);
    this.startDay = new Int32Array(nodes);
    this.finishDay = new Int32Array(nodes);
    this.remaining = new Int32Array(nodes);
    this.engagementOffset = new Int32Array(nodes).fill(NO_OFFSET);
    this.phaseStart = new Int32Array(nodes).fill(-1);
    this.phaseOffset = new Int32Array(nodes);
  }

  private taskNode(index: number): number {
    return this.phaseCount * 2 + index;
  }

  private phaseEnd(index: number): number {
    return this.phaseCount + index;
  }

  /** Adds start[target] ≥ end[source] + lag and returns the edge's position. */
  private edge(source: number, target: number, lag: number): number {
    this.sources[this.edges] = source;
    this.targets[this.edges] = target;
    this.weights[this.edges] = lag;
    return this.edges++;
  }

  /** Makes an edge leave the start of its source or bind the end of its target. */
  private turn(edge: number, kind: number): void {
    this.kinds[edge] = kind;
    if (kind & TO_END) this.weights[edge] = (this.weights[edge] as number) - (this.days[this.targets[edge] as number] as number);
  }

  addPhase(phase: PhaseInput, index: number): void {
    const at = `phases[${phase.id}]`;
    this.edge(index, this.phaseEnd(index), 0);
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
    this.edge(phase.after.edge === 'finish' ? this.phaseEnd(before) : before, index, lag);
  }

  /** The phase of detached tasks: it begins with the engagement. */
  addDetached(): void {
    const [from, until] = [this.phases.length, this.phaseEnd(this.phases.length)];
    if (this.detached === null) return;
    this.edge(from, until, 0);
    this.detached[from] = this.detached[until] = 1;
  }

  addTask(task: TaskInput, index: number): void {
    const own = this.phaseIndex.get(task.phase);
    if (own === undefined) return refusePhase(task);
    const node = this.taskNode(index);
    const isDetached = this.detached !== null && task.isDetached === true;
    if (isDetached) (this.detached as Uint8Array)[node] = 1;
    const phase = isDetached ? this.phases.length : own;
    if (!isAbsent(task.actual) || !isAbsent(task.fixed)) this.readMode(task, node, () => `tasks[${task.id}]`);
    const anchor = isAbsent(task.anchor) ? AT_PHASE_START : readAnchor(task, task.anchor);
    // A fixed task keeps its day, whatever its anchor says.
    const pinned = this.mode[node] !== FREE;
    this.phaseStart[node] = phase;
    if (!pinned && anchor.at === 'phase-start') this.phaseOffset[node] = Math.max(0, anchor.offset);
    if (!pinned && anchor.at === 'engagement-start') this.engagementOffset[node] = anchor.offset;
    if (!pinned && (anchor.at === 'before-phase-end' || anchor.at === 'before-promise')) {
      this.late.push({ node, phaseEnd: anchor.at === 'before-phase-end' ? this.phaseEnd(phase) : null, offset: anchor.offset });
    }
    if (!pinned && !isAbsent(task.notBefore))
      this.notBefore.push({
        node,
        day: requireDay(task.notBefore, () => `tasks[${task.id}].notBefore`),
        isAtEnd: task.days === 0 && !isJoint(task),
      });
    if (task.after !== undefined) this.addDependencies(task, task.after, node);
  }

  private addDependencies(task: TaskInput, dependencies: readonly DependencyInput[], node: number): void {
    requireList(dependencies, () => `tasks[${task.id}].after`);
    for (const dependency of dependencies) {
      const source = typeof dependency === 'object' && dependency !== null ? this.taskIndex.get(dependency.task) : undefined;
      if (source === undefined) return refuseDependency(task, dependency);
      const kind = kindOf(dependency.type);
      if (kind === UNKNOWN) return refuse({ kind: 'invalid-field', at: `tasks[${task.id}].after.type`, expected: 'FS, SS, FF or SF' });
      const lag = dependency.lag ?? 0;
      if (!Number.isSafeInteger(lag)) requireWhole(lag, `tasks[${task.id}].after.lag`);
      const edge = this.edge(this.taskNode(source), node, lag);
      if (kind !== 0) this.turn(edge, kind);
    }
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

  /** Fixes a node to a real day; with a finish it is over. */
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
    for (let from = 0; from < position.length; from++) {
      const to = position[from] as number;
      edgeSource[to] = this.sources[from] as number;
      edgeWeight[to] = this.weights[from] as number;
      edgeKind[to] = this.kinds[from] as number;
    }
    const dependencies = { firstEdge, edgeSource, phaseStart: this.phaseStart, phaseCount: this.phaseCount };
    const order = sortTopologically(dependencies);
    if (order === null) throw this.describeLoop(withPhaseDependencies(dependencies));
    return {
      phaseCount: this.phaseCount,
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
      phaseStart: this.phaseStart,
      phaseOffset: this.phaseOffset,
      late: this.late,
      notBefore: this.notBefore,
      detached: this.detached,
    };
  }

  /** Loops among phases alone name the phases; every other loop names its tasks. */
  private describeLoop(graph: IncomingGraph): Error {
    const firstTask = this.phaseCount * 2;
    const nameOf = (node: number): string =>
      node >= firstTask ? (this.tasks[node - firstTask] as TaskInput).id : (this.phases[node % this.phaseCount] as PhaseInput).id;
    const loop = findLoop(graph, nameOf, (node) => node >= firstTask);
    const tasks = loop.filter((node) => node >= firstTask);
    const path = tasks.length > 0 ? tasks.map(nameOf) : [...new Set(loop.map(nameOf))];
    return new ProblemError({ kind: 'loop', at: tasks.length > 0 ? 'tasks' : 'phases', path });
  }
}

const AT_PHASE_START: AnchorInput = { at: 'phase-start', offset: 0 };
const UNKNOWN = -1;

const isAbsent = (value: unknown): value is undefined | null => value === undefined || value === null;

function kindOf(type: string): number {
  if (type === 'FS') return 0;
  if (type === 'SS') return FROM_START;
  if (type === 'FF') return TO_END;
  return type === 'SF' ? FROM_START | TO_END : UNKNOWN;
}

function readAnchor(task: TaskInput, anchor: unknown): AnchorInput {
  const at = `tasks[${task.id}].anchor`;
  requireObject(anchor, at);
  if (!ANCHORS.includes(anchor['at'] as string)) refuse({ kind: 'invalid-field', at: `${at}.at`, expected: ANCHORS.join(', ') });
  return { at: anchor['at'] as AnchorInput['at'], offset: requireWhole(anchor['offset'] ?? 0, `${at}.offset`) };
}

function refusePhase(task: TaskInput): never {
  return refuse({ kind: 'unknown-id', at: `tasks[${task.id}].phase`, id: requireId(task.phase, `tasks[${task.id}].phase`) });
}

function refuseDependency(task: TaskInput, dependency: unknown): never {
  const at = `tasks[${task.id}].after`;
  requireObject(dependency, at);
  return refuse({ kind: 'unknown-id', at, id: requireId(dependency['task'], `${at}.task`) });
}
