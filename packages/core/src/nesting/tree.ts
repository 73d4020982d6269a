import { refuse } from '../check.ts';

/** Something that may be a part of another of the same list. */
export interface TreeItem {
  readonly id: string;
  readonly parent?: string | null;
}

/** Who belongs to whom, in the order of the list. */
export interface Tree {
  readonly childrenOf: ReadonlyMap<string, readonly string[]>;
  readonly parentOf: ReadonlyMap<string, string>;
}

/**
 * Reads parents into a tree. Problems: `unknown-id` for a parent that is not in the list,
 * `loop` naming the items that would each be a part of the next.
 */
export function readTree(items: readonly TreeItem[], list: string): Tree {
  const ids = new Set(items.map((item) => item.id));
  const parentOf = new Map<string, string>();
  const childrenOf = new Map<string, string[]>();
  for (const { id, parent } of items) {
    if (parent === undefined || parent === null) continue;
    if (!ids.has(parent)) refuse({ kind: 'unknown-id', at: `${list}[${id}].parent`, id: parent });
    parentOf.set(id, parent);
    const siblings = childrenOf.get(parent);
    if (siblings === undefined) childrenOf.set(parent, [id]);
    else siblings.push(id);
  }
  refuseCircles(parentOf, list);
  return { childrenOf, parentOf };
}

/**
 * The tree of a list that was checked before, or of a part of one: an item whose parent is not in
 * the list stands at the top, and so does one that would be a part of itself.
 */
export function treeOf(items: readonly TreeItem[]): Tree {
  const wanted = new Map(items.map(({ id, parent }) => [id, parent ?? null]));
  const isInCircle = (id: string): boolean => {
    const seen = new Set<string>();
    for (let at = wanted.get(id) ?? null; at !== null && !seen.has(at); at = wanted.get(at) ?? null) {
      if (at === id) return true;
      seen.add(at);
    }
    return false;
  };
  const placed = items.map(({ id, parent = null }) => ({
    id,
    parent: parent !== null && wanted.has(parent) && !isInCircle(id) ? parent : null,
  }));
  return readTree(placed, 'items');
}

/** All parts of an item, at any depth, parents before their parts. */
export function descendantsOf(tree: Tree, id: string): string[] {
  const found: string[] = [];
  const open = [...(tree.childrenOf.get(id) ?? [])].reverse();
  for (let next = open.pop(); next !== undefined; next = open.pop()) {
    found.push(next);
    open.push(...[...(tree.childrenOf.get(next) ?? [])].reverse());
  }
  return found;
}

/** What an item is a part of, the nearest first. */
export function ancestorsOf(tree: Tree, id: string): string[] {
  const found: string[] = [];
  for (let next = tree.parentOf.get(id); next !== undefined; next = tree.parentOf.get(next)) found.push(next);
  return found;
}

/** Of some items and all below them those that have no parts, each once, in the order of the items. */
export function leavesUnder(tree: Tree, ids: readonly string[]): string[] {
  const all = ids.flatMap((id) => [id, ...descendantsOf(tree, id)]);
  return [...new Set(all.filter((id) => !tree.childrenOf.has(id)))];
}

/** Of some items those that are not below another of them: what is done to that one reaches them. */
export function topsAmong(tree: Tree, ids: readonly string[]): string[] {
  const chosen = new Set(ids);
  return ids.filter((id) => !ancestorsOf(tree, id).some((above) => chosen.has(above)));
}

function refuseCircles(parentOf: ReadonlyMap<string, string>, list: string): void {
  const safe = new Set<string>();
  for (const first of parentOf.keys()) {
    const path: string[] = [];
    const onPath = new Set<string>();
    for (let at: string | undefined = first; at !== undefined && !safe.has(at); at = parentOf.get(at)) {
      if (onPath.has(at)) refuse({ kind: 'loop', at: list, path: path.slice(path.indexOf(at)) });
      onPath.add(at);
      path.push(at);
    }
    for (const id of path) safe.add(id);
  }
}
