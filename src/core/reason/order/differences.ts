import type { Range } from './range.js';

/** One value is at most another and so much more: `from − to ≤ most`. */
export interface Difference {
  readonly from: string;
  readonly to: string;
  readonly most: bigint;
}

/**
 * Whether differences and limits can hold together: shortest paths (Bellman and Ford) over a graph whose edges are the
 * differences, with one node that stands for zero. A circle of negative length is a contradiction. Steps are left out of
 * account, so that what is impossible here is impossible with them too.
 */
export function canHold(differences: readonly Difference[], ranges: ReadonlyMap<string, Range>): boolean {
  const zero = ' zero';
  const edges: Difference[] = [...differences];
  for (const [key, { low, high }] of ranges) {
    if (high !== null) edges.push({ from: key, to: zero, most: high });
    if (low !== null) edges.push({ from: zero, to: key, most: -low });
  }
  const nodes = new Set(edges.flatMap(({ from, to }) => [from, to]));
  const distance = new Map([...nodes].map((node) => [node, 0n]));
  for (let round = 0; round <= nodes.size; round++) {
    let changed = false;
    for (const { from, to, most } of edges) {
      const reached = (distance.get(to) ?? 0n) + most;
      if (reached >= (distance.get(from) ?? 0n)) continue;
      distance.set(from, reached);
      changed = true;
    }
    if (!changed) return true;
  }
  return false;
}
