import { readable } from '../automaton/index.js';
import { mostVisited, type Overlaps, wayTo } from './pairs.js';
import type { Positions } from './positions.js';

/** What can be repeated in a text so that the ways to match it multiply. */
export interface Pump {
  readonly growth: 'exponential' | 'polynomial';
  readonly prefix: string;
  readonly repeated: string;
}

/**
 * A text that makes the ways through a pattern grow with its length: exponentially where a position comes back to itself
 * in two ways on one text, polynomially where one comes back to itself, goes on to another, and that comes back to
 * itself, all on one text (Weber and Seidl 1991). Null where there is none, and where there are too many positions to
 * look at.
 */
export function pumpOf(positions: Positions, overlaps: Overlaps): Pump | null | 'undecided' {
  const circles = circling(positions);
  return exponential(positions, overlaps, circles) ?? polynomial(positions, overlaps, circles);
}

type Pair = readonly [number, number];

/** For each position, the number of its strongly connected component; -1 where it never comes back to itself. */
function circling({ follow }: Positions): readonly number[] {
  const component = follow.map(() => -1);
  const [index, low] = [new Map<number, number>(), new Map<number, number>()];
  const stack: number[] = [];
  let components = 0;
  for (const root of follow.keys()) {
    if (index.has(root)) continue;
    const work: { readonly node: number; readonly out: Iterator<number> }[] = [];
    const enter = (node: number) => {
      index.set(node, index.size);
      low.set(node, index.get(node) ?? 0);
      stack.push(node);
      work.push({ node, out: (follow[node] ?? new Map()).keys() });
    };
    enter(root);
    for (let top = work.at(-1); top !== undefined; top = work.at(-1)) {
      const { node, out } = top;
      const { value: next, done } = out.next();
      if (done !== true) {
        if (!index.has(next)) enter(next);
        else if (stack.includes(next)) low.set(node, Math.min(low.get(node) ?? 0, index.get(next) ?? 0));
        continue;
      }
      work.pop();
      const above = work.at(-1);
      if (above !== undefined) low.set(above.node, Math.min(low.get(above.node) ?? 0, low.get(node) ?? 0));
      if (low.get(node) !== index.get(node)) continue;
      const members = stack.splice(stack.lastIndexOf(node));
      const isCircle = members.length > 1 || (follow[node]?.has(node) ?? false);
      if (isCircle) for (const member of members) component[member] = components;
      components += 1;
    }
  }
  return component;
}

function prefixTo(target: number, { first, follow, characters }: Positions): string {
  const label = (position: number) => readable(characters[position] ?? []);
  if (first.has(target)) return label(target);
  for (const start of first.keys()) {
    const way = wayTo(
      start,
      (node) => node === target,
      (node) => [...(follow[node]?.keys() ?? [])].map((next) => [next, label(next)] as const),
      (node) => node,
    );
    if (way !== null && way !== 'too many') return label(start) + way.labels.join('');
  }
  return '';
}

function exponential(positions: Positions, overlaps: Overlaps, circles: readonly number[]): Pump | null | 'undecided' {
  const { follow, characters } = positions;
  const size = characters.length;
  const together = (p: number, q: number) => circles[p] !== -1 && circles[p] === circles[q];
  for (const [p, ways] of follow.entries()) {
    for (const [q, count] of ways) {
      if (count < 2 || !together(p, q)) continue;
      const label = (node: number) => readable(characters[node] ?? []);
      const back =
        p === q
          ? { labels: [] }
          : wayTo(
              q,
              (node) => node === p,
              (node) => [...(follow[node]?.keys() ?? [])].map((next) => [next, label(next)] as const),
              (node) => node,
            );
      if (back === null || back === 'too many') return 'undecided';
      return { growth: 'exponential', prefix: prefixTo(p, positions), repeated: label(q) + back.labels.join('') };
    }
  }
  const next = ([a, b]: Pair): (readonly [Pair, string])[] =>
    [...(follow[a]?.keys() ?? [])].flatMap((p) =>
      [...(follow[b]?.keys() ?? [])].flatMap((q) => {
        const common = together(a, p) && together(b, q) ? overlaps.common(p, q) : [];
        return common.length === 0 ? [] : [[[p, q], readable(common)] as const];
      }),
    );
  const keyOf = ([a, b]: Pair) => a * size + b;
  for (const p of follow.keys()) {
    if (circles[p] === -1) continue;
    // A way apart and back again, on which the two are somewhere different.
    const apart = next([p, p]).filter(([[a, b]]) => a < b);
    for (const [pair, label] of apart) {
      const back = wayTo(pair, ([a, b]) => a === p && b === p, next, keyOf);
      if (back === 'too many') return 'undecided';
      if (back !== null)
        return { growth: 'exponential', prefix: prefixTo(p, positions), repeated: label + back.labels.join('') };
    }
  }
  return null;
}

type Triple = readonly [number, number, number];

function polynomial(positions: Positions, overlaps: Overlaps, circles: readonly number[]): Pump | null | 'undecided' {
  const { follow, characters } = positions;
  const size = characters.length;
  const inCircle = [...follow.keys()].filter((position) => circles[position] !== -1);
  let visited = 0;
  for (const p of inCircle) {
    for (const q of inCircle) {
      if (p === q || overlaps.common(p, q).length === 0) continue;
      const next = ([a, b, c]: Triple): (readonly [Triple, string])[] => {
        const made: (readonly [Triple, string])[] = [];
        for (const x of follow[a]?.keys() ?? []) {
          if (circles[x] !== circles[p]) continue;
          for (const z of follow[c]?.keys() ?? []) {
            if (circles[z] !== circles[q]) continue;
            if (overlaps.common(x, z).length === 0) continue;
            for (const y of follow[b]?.keys() ?? []) {
              const common = overlaps.common(x, y, z);
              if (common.length > 0) made.push([[x, y, z], readable(common)]);
            }
          }
        }
        visited += made.length;
        return made;
      };
      const way = wayTo<Triple>(
        [p, p, q],
        ([a, b, c]) => a === p && b === q && c === q,
        (node) => (visited > mostVisited ? [] : next(node)),
        ([a, b, c]) => (a * size + b) * size + c,
      );
      if (way === 'too many' || visited > mostVisited) return 'undecided';
      if (way !== null) return { growth: 'polynomial', prefix: prefixTo(p, positions), repeated: way.labels.join('') };
    }
  }
  return null;
}
