import { select } from '../calendar/calendar.ts';
import { formatDay, type IsoDay } from '../calendar/day.ts';
import { refuse, requireId, requireObject, requireWhole } from '../check.ts';
import { unfoldTasks, type Unfolded } from '../nesting/unfold.ts';
import { attempt, type Result } from '../result.ts';
import { buildNetwork, DONE, type Network } from '../schedule/network.ts';
import type { Axis } from '../schedule/passes.ts';
import { readAxis } from '../schedule/schedule.ts';
import type { ScheduleInput, TaskInput } from '../schedule/types.ts';
import type { PersonInput } from '../calendar/capacity.ts';
import { SeededRandom, seedOfChunk } from './random.ts';
import { readRatios, type FinishedTask } from './ratios.ts';
import { Standstill, type Stretches } from './standstill.ts';
import { Simulation, type ChunkOfRuns } from './simulate.ts';

/** A task with the role whose record its length is drawn from, and the people who do it. */
export interface ForecastTask extends TaskInput {
  readonly role?: string | null;
  /** Its clock stops on open days on which all of them are away the whole day. */
  readonly who?: readonly string[];
}

/** An engagement as it stands, the agency's finished work, and how often to simulate (10 000 runs, seed 1). */
export interface ForecastInput extends Omit<ScheduleInput, 'tasks'> {
  readonly tasks: readonly ForecastTask[];
  /** Everybody who is named in `who`. */
  readonly people?: readonly PersonInput[];
  readonly record?: readonly FinishedTask[];
  readonly runs?: number;
  readonly seed?: number;
}

/** Days by which 50, 80 and 95 % of the runs had finished; shares in percent. */
export interface Forecast {
  readonly runs: number;
  readonly dates: { readonly p50: IsoDay; readonly p80: IsoDay; readonly p95: IsoDay };
  /** Share of runs that kept the promise, rounded; null without a promise. */
  readonly chance: number | null;
  /** How often each open task was on the longest chain, in percent of the runs, rounded. */
  readonly tasks: readonly { readonly id: string; readonly onChain: number }[];
  /** How many runs finished on each day, days in order, none left out between the first and the last that counts. */
  readonly spread: readonly { readonly date: IsoDay; readonly runs: number }[];
}

const DEFAULT_RUNS = 10_000;
const MOST_RUNS = 1_000_000;
/** Runs that share one seed: a chunk gives the same wherever it is computed. */
const CHUNK = 500;
/** Boundaries are sums of fractions: this much above a whole day is noise. */
const NOISE = 1e-6;

/**
 * The finish forecast: the rest of the engagement simulated with lengths drawn from the agency's own
 * record (core-spec, section 6: Monte Carlo on the critical path network). Deterministic for a seed.
 * Problems as for `schedule`.
 */
export function forecast(input: ForecastInput): Result<Forecast> {
  return attempt(() => {
    const plan = openForecast(input);
    for (let chunk = 0; chunk < plan.chunks; chunk++) plan.simulate(chunk);
    return plan.answer();
  });
}

/** A forecast computed chunk by chunk, so that progress can be shown, the run stopped, or the chunks computed elsewhere. */
export interface OpenForecast {
  readonly chunks: number;
  /** Simulates one chunk; each once, in any order. */
  readonly simulate: (chunk: number) => void;
  /** Adds a chunk that was simulated elsewhere. */
  readonly add: (runs: ChunkOfRuns) => void;
  /** Simulates one chunk for somebody else to add. */
  readonly chunkOf: (chunk: number) => ChunkOfRuns;
  readonly answer: () => Forecast;
}

/** Reads the input once; throws a problem for unusable input (for use inside `attempt`). */
export function openForecast(input: ForecastInput): OpenForecast {
  requireObject(input, 'input');
  const runs = input.runs === undefined ? DEFAULT_RUNS : requireWhole(input.runs, 'runs', 1);
  if (runs > MOST_RUNS) refuse({ kind: 'invalid-field', at: 'runs', expected: `at most ${MOST_RUNS} runs` });
  const seed = input.seed === undefined ? 1 : requireWhole(input.seed, 'seed', 0);
  const unfolded = unfoldTasks(input.tasks);
  const flat: ScheduleInput = unfolded === null ? input : { ...input, tasks: unfolded.tasks };
  const network = buildNetwork(flat);
  const axis = readAxis(flat);
  const simulation = new Simulation(network, axis, {
    tables: tablesOf(input, flat, network),
    still: stillOf({ input, flat, network, axis }),
  });
  const finishes = new Float64Array(runs);
  const onChain = new Int32Array(network.days.length);
  let done = 0;
  const chunkOf = (chunk: number): ChunkOfRuns =>
    simulation.run(Math.min(CHUNK, runs - chunk * CHUNK), new SeededRandom(seedOfChunk(seed, chunk)));
  const add = (part: ChunkOfRuns): void => {
    finishes.set(part.finishes, done);
    done += part.finishes.length;
    part.onChain.forEach((times, node) => (onChain[node] = (onChain[node] as number) + times));
  };
  return {
    chunks: Math.ceil(runs / CHUNK),
    chunkOf,
    add,
    simulate: (chunk) => add(chunkOf(chunk)),
    answer: () => render({ input, flat, network, axis, unfolded, finishes, onChain }),
  };
}

function tablesOf(input: ForecastInput, flat: ScheduleInput, network: Network): (Float64Array | null)[] {
  const roleOf = new Map(
    input.tasks.map((task) => {
      const isNone = task.role === undefined || task.role === null;
      return [task.id, isNone ? null : requireId(task.role, `tasks[${task.id}].role`)];
    }),
  );
  const pools = readRatios(input.record ?? []);
  const first = network.phaseCount * 2;
  return Array.from({ length: network.days.length }, (_, node) => {
    if (node < first || network.mode[node] === DONE || network.days[node] === 0) return null;
    return pools.ofRole(roleOf.get((flat.tasks[node - first] as TaskInput).id) ?? null);
  });
}

/** The times each node waits because its people are away. A task with subtasks is done by those who do its parts. */
function stillOf({ input, flat, network, axis }: Pick<Simulated, 'input' | 'flat' | 'network' | 'axis'>): (Stretches | null)[] {
  const standstill = new Standstill(input.people ?? [], axis);
  const ofTasks = flat.tasks.map((task: ForecastTask) => standstill.of(task.who, `tasks[${task.id}].who`));
  return [...new Array<null>(network.phaseCount * 2).fill(null), ...ofTasks];
}

interface Simulated {
  readonly input: ForecastInput;
  readonly flat: ScheduleInput;
  readonly network: Network;
  readonly axis: Axis;
  readonly unfolded: Unfolded | null;
  readonly finishes: Float64Array;
  readonly onChain: Int32Array;
}

function render({ input, flat, network, axis, unfolded, finishes, onChain }: Simulated): Forecast {
  const runs = finishes.length;
  const boundaries = Int32Array.from(finishes, (finish) => Math.ceil(finish - NOISE)).sort();
  const dayAt = (boundary: number): IsoDay => formatDay(select(axis.calendar, axis.base + Math.max(0, boundary - 1)));
  const at = (percent: number): IsoDay => dayAt(boundaries[Math.max(0, Math.ceil((percent * runs) / 100) - 1)] as number);
  const { promise } = axis;
  const times = timesOnChain({ flat, network, unfolded, onChain });
  return {
    runs,
    dates: { p50: at(50), p80: at(80), p95: at(95) },
    chance: promise === null ? null : Math.round((boundaries.filter((finish) => finish <= promise).length * 100) / runs),
    tasks: input.tasks.flatMap((task) => {
      if ((task.actual?.finish ?? null) !== null) return [];
      return [{ id: task.id, onChain: Math.round(((times.get(task.id) ?? 0) * 100) / runs) }];
    }),
    spread: spreadOf(boundaries, dayAt),
  };
}

/** A group was on the chain as often as that of its joints which was there most. */
function timesOnChain(what: Pick<Simulated, 'flat' | 'network' | 'unfolded' | 'onChain'>): ReadonlyMap<string, number> {
  const times = new Map<string, number>();
  what.flat.tasks.forEach((task, index) => {
    const name = what.unfolded?.nameOf(task.id) ?? task.id;
    times.set(name, Math.max(times.get(name) ?? 0, what.onChain[what.network.phaseCount * 2 + index] as number));
  });
  return times;
}

function spreadOf(sorted: Int32Array, dayAt: (boundary: number) => IsoDay): Forecast['spread'] {
  const spread: { date: IsoDay; runs: number }[] = [];
  let index = 0;
  const last = sorted.at(-1) as number;
  for (let boundary = sorted[0] as number; boundary <= last; boundary++) {
    let runs = 0;
    for (; sorted[index] === boundary; index++) runs++;
    spread.push({ date: dayAt(boundary), runs });
  }
  return spread;
}
