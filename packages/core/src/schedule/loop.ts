/** Incoming edges of each node: those of node v are firstEdge[v] … firstEdge[v + 1] − 1. */
export interface IncomingGraph {
  readonly firstEdge: Int32Array;
  readonly edgeSource: Int32Array;
}

/**
 * A shortest loop through the node whose name sorts first among those on a loop, tasks
 * before phases; in the order in which the work would run. The choice depends on names
 * only, so the same engagement in another order names the same loop.
 */
export function findLoop(graph: IncomingGraph, nameOf: (node: number) => string, isTask: (node: number) => boolean): number[] {
  const nodes = [...nodesOnPossibleLoops(graph)].sort(
    (left, right) => Number(isTask(right)) - Number(isTask(left)) || compareText(nameOf(left), nameOf(right)),
  );
  for (const node of nodes) {
    const loop = loopThrough(graph, node, nameOf);
    if (loop !== null) return loop;
  }
  return [];
}

function compareText(left: string, right: string): number {
  return left < right ? -1 : left > right ? 1 : 0;
}

/** What is left when nodes without open predecessors are taken away, again and again. */
function nodesOnPossibleLoops({ firstEdge, edgeSource }: IncomingGraph): Set<number> {
  const left = new Set<number>(Array.from({ length: firstEdge.length - 1 }, (_, node) => node));
  let size = -1;
  while (size !== left.size) {
    size = left.size;
    for (const node of left) {
      let waits = false;
      for (let edge = firstEdge[node] as number; edge < (firstEdge[node + 1] as number); edge++) {
        if (left.has(edgeSource[edge] as number)) waits = true;
      }
      if (!waits) left.delete(node);
    }
  }
  return left;
}

/** Breadth-first along predecessors from `start` back to `start`; null when it lies on no loop. */
function loopThrough(graph: IncomingGraph, start: number, nameOf: (node: number) => string): number[] | null {
  const successor = new Map<number, number>();
  let frontier = [start];
  while (frontier.length > 0) {
    const found: number[] = [];
    for (const node of frontier) {
      for (const before of predecessorsOf(graph, node, nameOf)) {
        if (before === start) return walk(successor, node, start);
        if (successor.has(before)) continue;
        successor.set(before, node);
        found.push(before);
      }
    }
    frontier = found;
  }
  return null;
}

function predecessorsOf({ firstEdge, edgeSource }: IncomingGraph, node: number, nameOf: (node: number) => string): number[] {
  const before = [...edgeSource.subarray(firstEdge[node] as number, firstEdge[node + 1] as number)];
  return [...new Set(before)].sort((left, right) => compareText(nameOf(left), nameOf(right)) || left - right);
}

/** From the node after `start`, along successors, back to `start`. */
function walk(successor: ReadonlyMap<number, number>, first: number, start: number): number[] {
  const path = [start];
  for (let node = first; node !== start; node = successor.get(node) as number) path.push(node);
  return path;
}
