import { refuse } from '../check.ts';
import { beginOf, endOf, groupOf, isJoint } from './joint.ts';
import type { DependencyInput, ScheduledTask, TaskInput } from '../schedule/types.ts';
import { leavesUnder, readTree, type Tree } from './tree.ts';

/** Tasks without nesting, as the network takes them, and the way back to the tree. */
export interface Unfolded {
  readonly tasks: readonly TaskInput[];
  /** The task of the input behind a task of the network: a group stands behind its two joints. */
  readonly nameOf: (id: string) => string;
  /** The dates of every task of the input from those of the network. */
  readonly fold: (scheduled: readonly ScheduledTask[]) => ScheduledTask[];
}

/**
 * Flattens a plan: a task with subtasks has no length of its own, it begins with the first and ends
 * with the last of them. It becomes two joints without length, one before all of its parts and one
 * after them, so that whatever it waits for holds all parts, and whatever waits for it waits for all
 * parts, at m + n dependencies instead of m × n. Null when no task has a parent. Problems: `unknown-
 * id`, `loop` of parents, `invalid-field` for a group with a late anchor or a fixed day: its parts
 * decide when it is.
 */
export function unfoldTasks(tasks: readonly TaskInput[]): Unfolded | null {
  if (!tasks.some((task) => task.parent !== undefined && task.parent !== null)) return null;
  return new Unfolding(tasks).run();
}

interface GroupFacts {
  readonly leaves: readonly TaskInput[];
  /** The part that really began first: once one has, nothing holds back the group as a whole any more. */
  readonly firstBegun: TaskInput | null;
  /** The part that ended last, when all of them are over. */
  readonly lastOver: TaskInput | null;
}

class Unfolding {
  private readonly tasks: readonly TaskInput[];
  private readonly tree: Tree;
  private readonly byId: ReadonlyMap<string, TaskInput>;
  private readonly facts = new Map<string, GroupFacts>();

  constructor(tasks: readonly TaskInput[]) {
    this.tasks = tasks;
    this.tree = readTree(tasks, 'tasks');
    this.byId = new Map(tasks.map((task) => [task.id, task]));
  }

  run(): Unfolded {
    const flat = this.tasks.flatMap((task) => (this.isGroup(task.id) ? this.joints(task) : [this.leaf(task)]));
    return {
      tasks: flat,
      nameOf: (id) => (isJoint({ id }) ? groupOf(id) : id),
      fold: (scheduled) => this.fold(scheduled),
    };
  }

  private isGroup(id: string): boolean {
    return this.tree.childrenOf.has(id);
  }

  /** What counts of a group, looked up once: it is asked for by every part. */
  private factsOf(id: string): GroupFacts {
    const known = this.facts.get(id);
    if (known !== undefined) return known;
    const leaves = leavesUnder(this.tree, [id]).map((part) => this.byId.get(part) as TaskInput);
    const facts = { leaves, firstBegun: firstBegunOf(leaves), lastOver: lastOverOf(leaves) };
    this.facts.set(id, facts);
    return facts;
  }

  private leaf(task: TaskInput): TaskInput {
    const { parent, ...rest } = task;
    return { ...rest, after: [...this.dependenciesOf(task), ...this.heldBy(parent ?? null)] };
  }

  private joints(group: TaskInput): TaskInput[] {
    refuseOwnPlace(group);
    const { id, phase } = group;
    const [atStart, atEnd] = [
      this.dependenciesOf(group).filter(bindsStart),
      this.dependenciesOf(group).filter((dependency) => !bindsStart(dependency)),
    ];
    const begin = this.factsOf(id).firstBegun === null ? [this.begin(group, atStart)] : [];
    if (this.factsOf(id).lastOver !== null) return begin;
    const parts = (this.tree.childrenOf.get(id) ?? []).map((part) => this.after(part, 'FS', 0));
    return [...begin, { id: endOf(id), phase, days: 0, after: [...parts, ...atEnd], ...detachedOf(group) }];
  }

  private begin(group: TaskInput, atStart: readonly DependencyInput[]): TaskInput {
    const { id, phase, parent, anchor, notBefore } = group;
    return {
      ...{ id: beginOf(id), phase, days: 0, after: [...atStart, ...this.heldBy(parent ?? null)] },
      ...(anchor === undefined ? {} : { anchor }),
      ...(notBefore === undefined ? {} : { notBefore }),
      ...detachedOf(group),
    };
  }

  /** What holds a part back because of the group it is in: nothing once the group has begun. */
  private heldBy(parent: string | null): DependencyInput[] {
    return parent === null || this.factsOf(parent).firstBegun !== null ? [] : [{ task: beginOf(parent), type: 'FS' }];
  }

  private dependenciesOf(task: TaskInput): DependencyInput[] {
    return (task.after ?? []).map((dependency) =>
      this.isGroup(dependency?.task) ? this.after(dependency.task, dependency.type, dependency.lag ?? 0) : dependency,
    );
  }

  /** A dependency to a task that may be a group: then to the joint, or the part that stands for it. */
  private after(id: string, type: DependencyInput['type'], lag: number): DependencyInput {
    if (!this.isGroup(id)) return { task: id, type, lag };
    if (type === 'FS' || type === 'FF') return { task: this.factsOf(id).lastOver?.id ?? endOf(id), type, lag };
    return { task: this.factsOf(id).firstBegun?.id ?? beginOf(id), type, lag };
  }

  /** A group spans its parts; it has the least slack of what is not over. */
  private fold(scheduled: readonly ScheduledTask[]): ScheduledTask[] {
    const dates = new Map(scheduled.map((task) => [task.id, task]));
    return this.tasks.map((task) => {
      const own = dates.get(task.id);
      if (own !== undefined) return own;
      const parts = this.factsOf(task.id).leaves;
      const spans = parts.map((part) => dates.get(part.id) as ScheduledTask);
      const open = spans.filter((_, index) => (parts[index]?.actual?.finish ?? null) === null);
      const slack = open.length === 0 ? 0 : Math.min(...open.map((span) => span.slack));
      return {
        id: task.id,
        start: spans.reduce((first, span) => (span.start < first ? span.start : first), (spans[0] as ScheduledTask).start),
        finish: spans.reduce((last, span) => (span.finish > last ? span.finish : last), (spans[0] as ScheduledTask).finish),
        slack,
        critical: open.some((span) => span.critical),
      };
    });
  }
}

const detachedOf = ({ isDetached }: TaskInput): Pick<TaskInput, 'isDetached'> => (isDetached === undefined ? {} : { isDetached });

const bindsStart = (dependency: DependencyInput): boolean => dependency.type === 'FS' || dependency.type === 'SS';

function firstBegunOf(leaves: readonly TaskInput[]): TaskInput | null {
  return leaves.reduce<TaskInput | null>((first, part) => {
    if (part.actual === undefined || part.actual === null) return first;
    return first === null || part.actual.start < (first.actual?.start ?? '') ? part : first;
  }, null);
}

function lastOverOf(leaves: readonly TaskInput[]): TaskInput | null {
  if (leaves.some((part) => (part.actual?.finish ?? null) === null)) return null;
  return leaves.reduce((last, part) => ((part.actual?.finish ?? '') > (last.actual?.finish ?? '') ? part : last));
}

function refuseOwnPlace(group: TaskInput): void {
  const at = group.anchor?.at;
  if (at === 'before-phase-end' || at === 'before-promise')
    refuse({ kind: 'invalid-field', at: `tasks[${group.id}].anchor`, expected: 'a start, as its subtasks decide when it ends' });
  if (group.fixed !== undefined && group.fixed !== null)
    refuse({ kind: 'invalid-field', at: `tasks[${group.id}].fixed`, expected: 'left out, as its subtasks decide when it is' });
}
