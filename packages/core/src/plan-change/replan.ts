import type { IsoDay } from '../calendar/day.ts';
import { success, type Result } from '../result.ts';
import { schedule } from '../schedule/schedule.ts';
import type { Schedule, ScheduleInput } from '../schedule/types.ts';

/** The days a task has in the plan people work to. */
export interface PresentDates {
  readonly id: string;
  readonly start: IsoDay;
  readonly due: IsoDay;
}

/** A task whose days differ. */
export interface Move {
  readonly id: string;
  readonly from: { readonly start: IsoDay; readonly due: IsoDay };
  readonly to: { readonly start: IsoDay; readonly due: IsoDay };
}

/** What a change does: the whole computed schedule, and the tasks whose days in the plan change. */
export interface Replan {
  readonly schedule: Schedule;
  readonly moves: readonly Move[];
}

/**
 * What moves if this moves. `input` is the engagement with the change made, `present` the
 * plan as it stands, `changed` the tasks touched. Only those and what follows them (by dependencies
 * or by phase order) take the computed days; the rest keeps its own, so that overdue work
 * stays overdue until somebody decides. Nothing is changed by asking.
 */
export function replan(input: ScheduleInput, present: readonly PresentDates[], changed: readonly string[]): Result<Replan> {
  const computed = schedule(input);
  if (!computed.ok) return computed;
  const affected = followersOf(input, changed);
  const planned = new Map(present.map((task) => [task.id, task]));
  const over = new Set(input.tasks.filter((task) => task.actual?.finish !== undefined).map((task) => task.id));
  const moves = computed.value.tasks.flatMap((task): Move[] => {
    const before = planned.get(task.id);
    if (before === undefined || over.has(task.id) || !affected.has(task.id)) return [];
    if (before.start === task.start && before.due === task.finish) return [];
    return [{ id: task.id, from: { start: before.start, due: before.due }, to: { start: task.start, due: task.finish } }];
  });
  return success({ schedule: computed.value, moves });
}

/**
 * The tasks themselves and all that can be pushed by them: successors, the tasks of later
 * phases, subtasks, and whatever waits for a task they are a part of.
 */
export function followersOf(input: Pick<ScheduleInput, 'phases' | 'tasks'>, changed: readonly string[]): ReadonlySet<string> {
  const phaseOf = new Map(input.tasks.map((task) => [task.id, task.phase]));
  const parentOf = new Map(input.tasks.map((task) => [task.id, task.parent ?? null]));
  const parts = groupBy(input.tasks.flatMap((task) => (task.parent ? [[task.parent, task.id] as const] : [])));
  const successors = groupBy(input.tasks.flatMap((task) => (task.after ?? []).map((dependency) => [dependency.task, task.id] as const)));
  const laterPhases = groupBy(input.phases.flatMap((phase) => (phase.after ? [[phase.after.phase, phase.id] as const] : [])));
  const tasksIn = groupBy(input.tasks.map((task) => [task.phase, task.id] as const));
  const found = new Set<string>();
  /** Groups that get longer or shorter with one of their parts, while their other parts stay. */
  const stretched = new Set<string>();
  const phases = new Set<string>();
  const open = [...changed];
  const enter = (phase: string): void => {
    if (phases.has(phase)) return;
    phases.add(phase);
    for (const later of laterPhases.get(phase) ?? []) {
      open.push(...(tasksIn.get(later) ?? []));
      enter(later);
    }
  };
  const rise = (parent: string | null): void => {
    if (parent === null || stretched.has(parent)) return;
    stretched.add(parent);
    open.push(...(successors.get(parent) ?? []));
    rise(parentOf.get(parent) ?? null);
  };
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    if (found.has(id)) continue;
    found.add(id);
    open.push(...(successors.get(id) ?? []), ...(parts.get(id) ?? []));
    rise(parentOf.get(id) ?? null);
    enter(phaseOf.get(id) ?? '');
  }
  return new Set([...found, ...stretched]);
}

function groupBy(pairs: readonly (readonly [string, string])[]): Map<string, string[]> {
  const groups = new Map<string, string[]>();
  for (const [key, value] of pairs) {
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [value]);
    else group.push(value);
  }
  return groups;
}
