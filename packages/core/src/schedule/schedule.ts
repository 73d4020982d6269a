import { readCalendar, rank, select } from '../calendar/calendar.ts';
import { formatDay, type IsoDay } from '../calendar/day.ts';
import { refuse, requireDay, requireList, requireObject } from '../check.ts';
import { unfoldTasks } from '../nesting/unfold.ts';
import { attempt, ProblemError, type Result } from '../result.ts';
import { buildNetwork, DONE, FREE, type Network } from './network.ts';
import { placeBackward, placeForward, type Axis, type Placement } from './passes.ts';
import type { Schedule, ScheduleConflict, ScheduledPhase, ScheduledTask, ScheduleInput } from './types.ts';

/**
 * Dates, slack and longest chain of an engagement. Working days of the agency; everything as early as
 * possible; linear in tasks + dependencies. Source: critical path method with generalised precedence,
 * as written in core-spec section 2.
 */
export function schedule(input: ScheduleInput): Result<Schedule> {
  return attempt(() => {
    requireObject(input, 'input');
    return withDepth(input, (flat) => {
      const network = buildNetwork(flat);
      return render(flat, network, solve(network, readAxis(flat)));
    });
  });
}

/** Computes the flattened plan and puts the answer back into the tree; a loop names tasks of the tree. */
function withDepth<Input extends Pick<ScheduleInput, 'tasks'>, Plan extends Schedule>(input: Input, compute: (flat: Input) => Plan): Plan {
  requireList(input.tasks, 'tasks');
  const unfolded = unfoldTasks(input.tasks);
  if (unfolded === null) return compute(input);
  try {
    const plan = compute({ ...input, tasks: unfolded.tasks });
    return { ...plan, tasks: unfolded.fold(plan.tasks) };
  } catch (error) {
    if (!(error instanceof ProblemError) || error.problem.kind !== 'loop') throw error;
    const path = error.problem.path.map(unfolded.nameOf);
    throw new ProblemError({ ...error.problem, path: path.filter((id, index) => id !== path[index - 1] || path.length === 1) });
  }
}

/**
 * The plan that starts as late as it can and still finishes by `promise` (planning back).
 * Problem `promise-too-early` when a fixed day or real work already lies beyond it.
 */
export function scheduleBack(input: Omit<ScheduleInput, 'start'>): Result<Schedule & { readonly start: IsoDay }> {
  return attempt(() => {
    requireObject(input, 'input');
    const promise = requireDay(input.promise, 'promise');
    return withDepth(input, (flat) => {
      const network = buildNetwork({ ...flat, start: flat.promise as IsoDay });
      const start = latestStart(flat, network, promise);
      const dated = { ...flat, start };
      return { ...render(dated, network, solve(network, readAxis(dated))), start };
    });
  });
}

/** The latest start whose finish is on or before the promise; the finish never moves earlier when the start moves later. */
function latestStart(input: Omit<ScheduleInput, 'start'>, network: Network, promise: number): IsoDay {
  const calendar = readCalendar(input.calendar, 'calendar');
  const last = rank(calendar, promise + 1);
  const keeps = (base: number): boolean => {
    const axis = readAxis({ ...input, start: formatDay(select(calendar, base)) });
    return placeForward(network, axis).finish <= (axis.promise as number);
  };
  let reach = 1;
  while (!keeps(last - reach)) {
    reach *= 2;
    if (reach > MAX_REACH) refuse({ kind: 'promise-too-early', at: 'promise', promise: input.promise as string });
  }
  let low = last - reach;
  let high = reach === 1 ? last : last - reach / 2;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (keeps(middle)) low = middle;
    else high = middle;
  }
  return formatDay(select(calendar, low));
}

const MAX_REACH = 1 << 16; // about 250 years of working days

interface Solution {
  readonly axis: Axis;
  readonly placement: Placement;
  readonly lateStart: Int32Array;
}

/** The calendar with the boundaries of start, today and promise. */
export function readAxis(input: ScheduleInput): Axis {
  const calendar = readCalendar(input.calendar, 'calendar');
  const base = rank(calendar, requireDay(input.start, 'start'));
  const today = input.today === undefined ? null : rank(calendar, requireDay(input.today, 'today')) - base;
  const promise = input.promise === undefined ? null : rank(calendar, requireDay(input.promise, 'promise') + 1) - base;
  return { calendar, base, today, promise };
}

function solve(network: Network, axis: Axis): Solution {
  const placement = placeForward(network, axis);
  const lateStart = placeBackward(network, placement, axis.promise ?? placement.finish);
  return { axis, placement, lateStart };
}

function render(input: ScheduleInput, network: Network, solution: Solution): Schedule {
  const { axis, placement } = solution;
  const dayAt = dayFormatter(axis, placement);
  const firstTask = network.phaseCount * 2;
  const taskOf = taskRenderer(network, solution, dayAt);
  const tasks: ScheduledTask[] = new Array<ScheduledTask>(network.taskCount);
  const conflicts: ScheduleConflict[] = [];
  for (let index = 0; index < network.taskCount; index++) {
    const node = firstTask + index;
    const id = (input.tasks[index] as { id: string }).id;
    tasks[index] = taskOf(id, node);
    if ((placement.missed[node] as number) > 0) conflicts.push({ task: id, days: placement.missed[node] as number });
  }
  const phases = input.phases.map((phase, index): ScheduledPhase => renderPhase(network, placement, { id: phase.id, index, dayAt }));
  return { tasks, phases, conflicts, finish: dayAt(Math.max(0, placement.finish - 1)) };
}

interface Rendering {
  readonly dayAt: (boundary: number) => IsoDay;
}

/** Makes the answer of one task after the other; a milestone shows the day it stands at the end of. */
function taskRenderer(network: Network, solution: Solution, dayAt: Rendering['dayAt']): (id: string, node: number) => ScheduledTask {
  const { mode, startDay, finishDay } = network;
  const { start, end } = solution.placement;
  const { lateStart } = solution;
  return (id, node) => {
    const from = start[node] as number;
    const until = end[node] as number;
    if (mode[node] === DONE) {
      const kept = { start: formatDay(startDay[node] as number), finish: formatDay(finishDay[node] as number) };
      return { id, start: kept.start, finish: kept.finish, slack: 0, critical: false };
    }
    const slack = (lateStart[node] as number) - from;
    const isMilestone = until === from;
    const first = dayAt(isMilestone && (from > 0 || mode[node] !== FREE) ? from - 1 : from);
    return {
      id,
      start: first,
      finish: isMilestone ? first : dayAt(until - 1),
      slack,
      critical: slack <= 0 && network.detached?.[node] !== 1,
    };
  };
}

function renderPhase(
  network: Network,
  placement: Placement,
  what: Rendering & { readonly id: string; readonly index: number },
): ScheduledPhase {
  const end = network.phaseCount + what.index;
  const from = placement.start[what.index] as number;
  const until = placement.end[end] as number;
  const start = network.mode[what.index] === DONE ? formatDay(network.startDay[what.index] as number) : what.dayAt(from);
  const finish = network.mode[end] === DONE ? formatDay(network.finishDay[end] as number) : what.dayAt(Math.max(from, until - 1));
  return { id: what.id, start, finish: finish < start ? start : finish };
}

/** Formats boundaries as days, each day once. */
function dayFormatter(axis: Axis, placement: Placement): (boundary: number) => IsoDay {
  const known = new Array<IsoDay | undefined>(Math.max(0, placement.finish + 1));
  return (boundary) => {
    if (boundary < 0 || boundary >= known.length) return formatDay(select(axis.calendar, axis.base + boundary));
    return (known[boundary] ??= formatDay(select(axis.calendar, axis.base + boundary)));
  };
}
