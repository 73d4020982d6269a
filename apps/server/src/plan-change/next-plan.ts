import {
  addWorkingDays,
  ancestorsOf,
  compileCalendar,
  descendantsOf,
  formatDay,
  parseDay,
  readTree,
  type Calendar,
  type Tree,
} from '@crew/core';
import type { TaskChange } from '@crew/contract';
import { Refusal, unwrap } from '../platform/refusal.ts';
import type { PhaseFacts, PlanFacts, TaskFacts } from '../schedule/plan-facts.ts';
import { isOpen } from '../schedule/summarise.ts';
import { nextFields, type TaskFields } from '../task/next-fields.ts';
import type { TaskToChange } from '../task/task.repository.ts';

/** A task of a change, with what becomes of it. */
export interface NextTask {
  readonly task: TaskToChange;
  readonly change: TaskChange;
  readonly next: TaskFields;
}

/** Everything that follows from a change before anything is written. */
export interface NextPlan {
  readonly tasks: readonly NextTask[];
  /** Tasks to take out, parts before what they are a part of. */
  readonly deletedIds: readonly string[];
}

/** What a change is judged by. */
export interface ChangeFacts {
  readonly facts: PlanFacts;
  readonly tasks: ReadonlyMap<string, TaskToChange>;
  readonly today: string;
}

/**
 * What becomes of each task of a change. Refuses, naming the task: places that cannot be
 * (a part of itself, a phase that is over, another engagement's task), what subtasks
 * decide, and taking out work on which time was logged.
 */
export function nextPlan(changes: readonly TaskChange[], known: ChangeFacts): NextPlan {
  const { facts, tasks, today } = known;
  const tree = readTree(
    facts.tasks.map((task) => ({ id: task.id, parent: task.parentId })),
    'tasks',
  );
  const byId = new Map(facts.tasks.map((task) => [task.id, task]));
  const calendar = unwrap(compileCalendar(facts.calendar));
  const going = changes.filter((change) => change.isDeleted === true);
  const staying = changes.filter((change) => change.isDeleted !== true);
  const deletedIds = [...new Set(going.flatMap((change) => [change.id, ...descendantsOf(tree, change.id)]))].reverse();
  for (const id of deletedIds) refuseLosingTime(byId.get(id) as TaskFacts);
  const stayingTree = treeAfter(facts, staying, byId);
  return {
    tasks: staying.map((change) => {
      const task = tasks.get(change.id) as TaskToChange;
      const placed = placedIn(change, { byId, tree: stayingTree, phases: facts.phases });
      const shifted = change.shiftDays === undefined ? {} : shiftedBy(change.shiftDays, { task, calendar, isGroup: task.isGroup });
      const next = { ...nextFields(task, { ...change, ...shifted }, today), ...placed };
      refuseWhatPartsDecide(task, next, change);
      return { task, change, next };
    }),
    deletedIds,
  };
}

/** The tree as it will be; refuses a task that would become a part of itself. */
function treeAfter(facts: PlanFacts, changes: readonly TaskChange[], byId: ReadonlyMap<string, TaskFacts>): Tree {
  const wanted = new Map(changes.flatMap((change) => (change.parentId === undefined ? [] : [[change.id, change.parentId] as const])));
  const parentOf = new Map(facts.tasks.map((task) => [task.id, wanted.has(task.id) ? (wanted.get(task.id) ?? null) : task.parentId]));
  for (const [id, parent] of wanted) {
    for (let at = parent; at !== null; at = parentOf.get(at) ?? null) {
      if (!byId.has(at)) throw new Refusal('unknown-id', 'The task to put it under is not in this engagement.', { field: 'parentId' });
      if (at !== id) continue;
      const [own, part] = [byId.get(id)?.title, byId.get(parent as string)?.title];
      throw new Refusal(
        'invalid-input',
        `“${own}” cannot become a part of ${id === parent ? 'itself' : `its own part “${part}”`}. Choose another place.`,
        {
          field: 'parentId',
        },
      );
    }
  }
  return readTree(
    [...parentOf].map(([id, parent]) => ({ id, parent })),
    'tasks',
  );
}

interface Places {
  readonly byId: ReadonlyMap<string, TaskFacts>;
  readonly tree: Tree;
  readonly phases: readonly PhaseFacts[];
}

/** Phase and parent: a part stands in the phase of what it is a part of. */
function placedIn(change: TaskChange, { byId, tree, phases }: Places): Pick<TaskFields, 'phaseId' | 'parentId'> {
  const now = byId.get(change.id) as TaskFacts;
  const parentId = change.parentId === undefined ? keptParent(now, change) : change.parentId;
  const top = parentId === null ? null : byId.get(ancestorsOf(tree, change.id).at(-1) ?? parentId);
  const phaseId = top?.phaseId ?? change.phaseId ?? now.phaseId;
  const phase = phases.find((candidate) => candidate.id === phaseId);
  if (phase === undefined)
    throw new Refusal('unknown-id', 'This phase belongs to another engagement. Choose one of this one.', { field: 'phaseId' });
  if (phaseId !== now.phaseId && phase.state === 'over')
    throw new Refusal('wrong-moment', `${phase.name} is over; “${now.title}” cannot go there. Choose a phase that is still open.`, {
      field: 'phaseId',
    });
  return { phaseId, parentId };
}

/** Moved to another phase by itself, a part leaves what it was a part of. */
const keptParent = (now: TaskFacts, change: TaskChange): string | null =>
  change.phaseId !== undefined && change.phaseId !== now.phaseId ? null : now.parentId;

interface Shifting {
  readonly task: TaskToChange;
  readonly calendar: Calendar;
  readonly isGroup: boolean;
}

/**
 * A task moved by working days: a fixed day moves, what is under way ends later, the rest may
 * not begin before its new day. Nothing can be pulled before what it waits for.
 */
function shiftedBy(days: number, { task, calendar, isGroup }: Shifting): Partial<Pick<TaskFields, 'fixedDay' | 'notBefore' | 'days'>> {
  if (!isOpen(task)) return {};
  const moved = (day: string): string => formatDay(addWorkingDays(calendar, parseDay(day) as number, days));
  if (task.fixedDay !== null) return { fixedDay: moved(task.fixedDay) };
  if (task.realStart !== null) return isGroup ? {} : { days: Math.max(1, task.days + days) };
  if (days < 0) return task.notBefore === null ? {} : { notBefore: moved(task.notBefore) };
  return { notBefore: moved(task.startDay) };
}

function refuseWhatPartsDecide(task: TaskToChange, next: TaskFields, change: TaskChange): void {
  if (!task.isGroup) return;
  const field = (['status', 'days', 'fixedDay', 'estimateMinutes'] as const).find(
    (name) => next[name] !== task[name] && change[name] !== undefined,
  );
  if (field === undefined) return;
  const what = { status: 'status', days: 'length', fixedDay: 'day', estimateMinutes: 'effort' }[field];
  throw new Refusal('wrong-moment', `The subtasks of “${task.title}” decide its ${what}. Change it on them.`, { field });
}

function refuseLosingTime(task: TaskFacts): void {
  if (task.loggedMinutes === 0) return;
  const hours = Math.round(task.loggedMinutes / 6) / 10;
  throw new Refusal('still-used', `${hours} h are logged on “${task.title}”; taking it out would lose them. Drop it instead.`, {
    field: 'isDeleted',
  });
}
