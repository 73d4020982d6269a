/** A task as a round sees it: what it waits for, and what it is a part of. */
export interface RoundTask {
  readonly id: string;
  readonly parentId: string | null;
  /** Ids of the tasks it waits for. */
  readonly after: readonly string[];
}

/**
 * The tasks that are gone through again when a loop leads from one task back to an earlier one:
 * both, all that lies between them along the dependencies, and the parts of those. Answers ids in the
 * order of the tasks given; those that are not there are left out.
 */
export function tasksOfRound(tasks: readonly RoundTask[], { fromId, toId }: { readonly fromId: string; readonly toId: string }): string[] {
  const successors = new Map<string, string[]>();
  for (const { id, after } of tasks) for (const before of after) successors.set(before, [...(successors.get(before) ?? []), id]);
  const afterOf = new Map(tasks.map(({ id, after }) => [id, after]));
  const behind = reach(toId, (id) => successors.get(id) ?? []);
  const before = reach(fromId, (id) => afterOf.get(id) ?? []);
  const between = new Set([...behind].filter((id) => before.has(id)));
  const round = new Set([fromId, toId, ...between]);
  // Parts stand after what they are a part of or before it: go on until nothing is added.
  for (let size = 0; size < round.size;) {
    size = round.size;
    for (const { id, parentId } of tasks) if (parentId !== null && round.has(parentId)) round.add(id);
  }
  return tasks.filter(({ id }) => round.has(id)).map(({ id }) => id);
}

function reach(start: string, next: (id: string) => readonly string[]): ReadonlySet<string> {
  const seen = new Set([start]);
  const open = [start];
  for (let id = open.pop(); id !== undefined; id = open.pop())
    for (const other of next(id))
      if (!seen.has(other)) {
        seen.add(other);
        open.push(other);
      }
  return seen;
}

/**
 * What a task is estimated at once it is to be done in another round: the effort of one more round on
 * top of what was planned, or of what was logged where that is more; null without an estimate. Minutes;
 * `round` is the round that is over.
 */
export function estimateOfNextRound(task: { readonly estimate: number | null; readonly logged: number }, round: number): number | null {
  if (task.estimate === null) return null;
  return Math.max(task.estimate, task.logged) + Math.round(task.estimate / round);
}
