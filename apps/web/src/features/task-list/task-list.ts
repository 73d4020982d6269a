import { leavesUnder as leavesIn, topsAmong, treeOf, type Tree } from '@crew/core';

/** What a list knows of a task: what it is a part of. */
export interface ListedTask {
  readonly id: string;
  readonly parentId: string | null;
}

/** Tasks in their order, with what is a part of what. One whose parent is not in the list stands at the top. */
export interface TaskList<Task extends ListedTask> {
  readonly tasks: readonly Task[];
  readonly byId: ReadonlyMap<string, Task>;
  readonly tree: Tree;
}

export function taskListOf<Task extends ListedTask>(tasks: readonly Task[]): TaskList<Task> {
  const tree = treeOf(tasks.map(({ id, parentId }) => ({ id, parent: parentId })));
  return { tasks, byId: new Map(tasks.map((task) => [task.id, task])), tree };
}

const named = <Task extends ListedTask>({ byId }: TaskList<Task>, ids: readonly string[]): Task[] =>
  ids.flatMap((id) => byId.get(id) ?? []);
const idsOf = (tasks: readonly ListedTask[]): string[] => tasks.map(({ id }) => id);

/** Tasks that are parts of nothing in the list. */
export const topsOf = <Task extends ListedTask>({ tasks, tree }: TaskList<Task>): Task[] =>
  tasks.filter(({ id }) => !tree.parentOf.has(id));

/** The parts of a task, one level down. */
export const partsOf = <Task extends ListedTask>(list: TaskList<Task>, id: string): Task[] =>
  named(list, list.tree.childrenOf.get(id) ?? []);

/** Of some tasks, and of all below them, those without parts, each once. */
export const leavesUnder = <Task extends ListedTask>(list: TaskList<Task>, tasks: readonly ListedTask[]): Task[] =>
  named(list, leavesIn(list.tree, idsOf(tasks)));

/** Of some chosen tasks those that are not below another of them: what is done to that one reaches them. */
export const topsChosen = <Task extends ListedTask>(list: TaskList<Task>, tasks: readonly ListedTask[]): Task[] =>
  named(list, topsAmong(list.tree, idsOf(tasks)));

/** A line of a list: a task and how deep below others it stands. */
export interface TaskLine<Task> {
  readonly task: Task;
  readonly depth: number;
  readonly isFolded: boolean;
}

const NOTHING: ReadonlySet<string> = new Set();

/** Some tasks and all below them as lines, parts behind what they are parts of; what is folded keeps its parts to itself. */
export function linesOf<Task extends ListedTask>(
  list: TaskList<Task>,
  tops: readonly Task[],
  folded: ReadonlySet<string> = NOTHING,
): TaskLine<Task>[] {
  const lines: TaskLine<Task>[] = [];
  const add = (tasks: readonly Task[], depth: number): void => {
    for (const task of tasks) {
      const isFolded = folded.has(task.id);
      lines.push({ task, depth, isFolded });
      if (!isFolded) add(partsOf(list, task.id), depth + 1);
    }
  };
  add(tops, 0);
  return lines;
}

/** A heading with the tasks below it. */
export interface TaskGroup<Task> {
  readonly id: string;
  readonly name: string;
  readonly tasks: readonly Task[];
}

/** Tasks by something they have in common, in the order of the headings; those of none come last under `other`, if there are any. */
export function groupTasks<Task>(
  tasks: readonly Task[],
  headings: readonly { readonly id: string; readonly name: string }[],
  by: { readonly keyOf: (task: Task) => string | null; readonly other?: string },
): TaskGroup<Task>[] {
  const known = new Set(headings.map(({ id }) => id));
  const rest = tasks.filter((task) => !known.has(by.keyOf(task) ?? ''));
  return [
    ...headings.map(({ id, name }) => ({ id, name, tasks: tasks.filter((task) => by.keyOf(task) === id) })),
    ...(rest.length === 0 || by.other === undefined ? [] : [{ id: 'none', name: by.other, tasks: rest }]),
  ];
}
