import { leavesUnder, treeOf, type IsoDay } from '@crew/core';
import type { TaskStatus } from '@crew/contract';

/** A task as far as its place in the tree and its standing go. */
export interface StandingTask {
  readonly id: string;
  readonly parentId: string | null;
  readonly status: TaskStatus;
  readonly realStart: IsoDay | null;
  readonly doneOn: IsoDay | null;
}

/** Where a task with subtasks stands: they decide. */
export interface GroupStanding {
  readonly id: string;
  readonly status: TaskStatus;
  readonly realStart: IsoDay | null;
  readonly doneOn: IsoDay | null;
}

/**
 * The standing of every task with subtasks: dropped when all of them are, done when all the
 * others are done, not begun while none has begun, else under way. It began with the first
 * and was done with the last.
 */
export function groupStandings(tasks: readonly StandingTask[]): GroupStanding[] {
  const tree = treeOf(tasks.map((task) => ({ id: task.id, parent: task.parentId })));
  const byId = new Map(tasks.map((task) => [task.id, task]));
  return [...tree.childrenOf.keys()].map((id) => {
    const leaves = leavesUnder(tree, [id]).map((part) => byId.get(part) as StandingTask);
    return { id, ...standingOf(leaves) };
  });
}

function standingOf(leaves: readonly StandingTask[]): Omit<GroupStanding, 'id'> {
  const live = leaves.filter((leaf) => leaf.status !== 'dropped');
  const starts = live.flatMap((leaf) => (leaf.realStart === null ? [] : [leaf.realStart])).sort();
  const [realStart = null] = starts;
  if (live.length === 0) return { status: 'dropped', realStart: null, doneOn: null };
  if (live.every((leaf) => leaf.status === 'done')) {
    const ends = live.flatMap((leaf) => (leaf.doneOn === null ? [] : [leaf.doneOn])).sort();
    return { status: 'done', realStart, doneOn: ends.at(-1) ?? null };
  }
  return { status: live.every((leaf) => leaf.status === 'queued') ? 'queued' : 'active', realStart, doneOn: null };
}
