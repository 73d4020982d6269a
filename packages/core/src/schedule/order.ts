import type { IncomingGraph } from './loop.ts';

/**
 * What waits for what: dependencies as rows, and what every task has without a dependency of its own, after
 * the start of its phase and before the phase's end. Nodes are phase starts, phase ends, tasks.
 */
export interface Dependencies extends IncomingGraph {
  readonly phaseCount: number;
  /** The start of the phase of each task node; −1 for the phases themselves. */
  readonly phaseStart: Int32Array;
}

/** Counting sort of edges by target: where each node's edges begin, and where each edge went. */
export function groupByTarget(targets: Int32Array, nodes: number): { firstEdge: Int32Array; position: Int32Array } {
  const firstEdge = new Int32Array(nodes + 1);
  for (const target of targets) (firstEdge[target + 1] as number)++;
  for (let node = 0; node < nodes; node++) (firstEdge[node + 1] as number) += firstEdge[node] as number;
  const next = firstEdge.slice(0, nodes);
  const position = new Int32Array(targets.length);
  for (let edge = 0; edge < targets.length; edge++) {
    const target = targets[edge] as number;
    position[edge] = next[target] as number;
    (next[target] as number)++;
  }
  return { firstEdge, position };
}

/** Kahn's algorithm; null when a loop is left. Linear in nodes + dependencies. */
export function sortTopologically(dependencies: Dependencies): Int32Array | null {
  const { firstEdge, phaseStart, phaseCount } = dependencies;
  const nodes = phaseStart.length;
  const out = outgoing(dependencies);
  const open = new Int32Array(nodes);
  for (let node = 0; node < nodes; node++) {
    open[node] = (open[node] as number) + (firstEdge[node + 1] as number) - (firstEdge[node] as number);
    if (node < phaseCount * 2) continue;
    (open[node] as number)++;
    (open[(phaseStart[node] as number) + phaseCount] as number)++;
  }
  const order = new Int32Array(nodes);
  let filled = 0;
  for (let node = 0; node < nodes; node++) if (open[node] === 0) order[filled++] = node;
  const release = (node: number): void => {
    (open[node] as number)--;
    if (open[node] === 0) order[filled++] = node;
  };
  for (let done = 0; done < filled; done++) {
    const node = order[done] as number;
    for (let edge = out.first[node] as number; edge < (out.first[node + 1] as number); edge++) release(out.target[edge] as number);
    if (node >= phaseCount * 2) release((phaseStart[node] as number) + phaseCount);
  }
  return filled === nodes ? order : null;
}

/** The same dependencies by source; a phase start also leads to its tasks. */
function outgoing({ firstEdge, edgeSource, phaseStart, phaseCount }: Dependencies): {
  readonly first: Int32Array;
  readonly target: Int32Array;
} {
  const nodes = phaseStart.length;
  const firstTask = phaseCount * 2;
  const first = new Int32Array(nodes + 1);
  for (const source of edgeSource) (first[source + 1] as number)++;
  for (let node = firstTask; node < nodes; node++) (first[(phaseStart[node] as number) + 1] as number)++;
  for (let node = 0; node < nodes; node++) (first[node + 1] as number) += first[node] as number;
  const next = first.slice(0, nodes);
  const target = new Int32Array(edgeSource.length + nodes - firstTask);
  const put = (source: number, node: number): void => {
    target[next[source] as number] = node;
    (next[source] as number)++;
  };
  for (let node = 0; node < nodes; node++) {
    if (node >= firstTask) put(phaseStart[node] as number, node);
    for (let edge = firstEdge[node] as number; edge < (firstEdge[node + 1] as number); edge++) put(edgeSource[edge] as number, node);
  }
  return { first, target };
}

/** Every dependency written out, for naming a loop. */
export function withPhaseDependencies({ firstEdge, edgeSource, phaseStart, phaseCount }: Dependencies): IncomingGraph {
  const nodes = phaseStart.length;
  const targets: number[] = [];
  const sources: number[] = [];
  for (let node = 0; node < nodes; node++) {
    for (let edge = firstEdge[node] as number; edge < (firstEdge[node + 1] as number); edge++) {
      targets.push(node);
      sources.push(edgeSource[edge] as number);
    }
    if (node < phaseCount * 2) continue;
    targets.push(node, (phaseStart[node] as number) + phaseCount);
    sources.push(phaseStart[node] as number, node);
  }
  const grouped = groupByTarget(Int32Array.from(targets), nodes);
  const all = new Int32Array(sources.length);
  sources.forEach((source, edge) => (all[grouped.position[edge] as number] = source));
  return { firstEdge: grouped.firstEdge, edgeSource: all };
}
