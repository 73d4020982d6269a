/**
 * One ring for each group of nodes that lead to each other, as the nodes of a shortest way round in order,
 * beginning with the first of them; a node that leads to itself is a ring of one.
 */
export function findRings(next: readonly (readonly number[])[]): number[][] {
  const rings: number[][] = [];
  const taken = new Set<number>();
  for (let start = 0; start < next.length; start++) {
    if (taken.has(start)) continue;
    const ring = shortestRound(start, next);
    if (ring === null) continue;
    rings.push(ring);
    for (const node of ring) taken.add(node);
  }
  return rings;
}

/** The shortest way from a node back to itself, without the end. */
function shortestRound(start: number, next: readonly (readonly number[])[]): number[] | null {
  const before = new Map<number, number>();
  const queue = [start];
  for (const node of queue) {
    for (const to of next[node] ?? []) {
      if (to === start) return wayTo(node, { start, before });
      if (before.has(to)) continue;
      before.set(to, node);
      queue.push(to);
    }
  }
  return null;
}

function wayTo(end: number, { start, before }: { readonly start: number; readonly before: ReadonlyMap<number, number> }): number[] {
  const way = [end];
  while (way[0] !== start) way.unshift(before.get(way[0] as number) as number);
  return way;
}
