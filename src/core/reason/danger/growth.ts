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
  const search = new ComponentSearch(follow);
  for (const root of follow.keys()) search.from(root);
  return search.component;
}

/** Strongly connected components by depth first search (Tarjan 1972), without recursion. */
class ComponentSearch {
  /** By node, its component; -1 where it is alone and does not lead to itself. */
  readonly component: number[];
  readonly #follow: Positions['follow'];
  readonly #index = new Map<number, number>();
  readonly #low = new Map<number, number>();
  readonly #stack: number[] = [];
  readonly #work: { readonly node: number; readonly out: Iterator<number> }[] = [];
  #count = 0;

  constructor(follow: Positions['follow']) {
    this.#follow = follow;
    this.component = follow.map(() => -1);
  }

  from(root: number): void {
    if (this.#index.has(root)) return;
    this.#enter(root);
    for (let top = this.#work.at(-1); top !== undefined; top = this.#work.at(-1)) {
      const { value: next, done } = top.out.next();
      if (done === true) this.#leave(top.node);
      else if (!this.#index.has(next)) this.#enter(next);
      else if (this.#stack.includes(next)) this.#lower(top.node, this.#index.get(next) ?? 0);
    }
  }

  #enter(node: number): void {
    this.#low.set(node, this.#index.size);
    this.#index.set(node, this.#index.size);
    this.#stack.push(node);
    this.#work.push({ node, out: (this.#follow[node] ?? new Map<number, never>()).keys() });
  }

  #leave(node: number): void {
    this.#work.pop();
    const low = this.#low.get(node) ?? 0;
    const above = this.#work.at(-1);
    if (above !== undefined) this.#lower(above.node, low);
    if (low !== this.#index.get(node)) return;
    const members = this.#stack.splice(this.#stack.lastIndexOf(node));
    const isCircle = members.length > 1 || this.#follow[node]?.has(node) === true;
    if (isCircle) for (const member of members) this.component[member] = this.#count;
    this.#count += 1;
  }

  #lower(node: number, to: number): void {
    this.#low.set(node, Math.min(this.#low.get(node) ?? 0, to));
  }
}

function prefixTo(target: number, positions: Positions): string {
  if (positions.first.has(target)) return labelOf(target, positions);
  for (const start of positions.first.keys()) {
    const way = wayThrough(start, target, positions);
    if (way !== null && way !== 'too many') return labelOf(start, positions) + way.labels.join('');
  }
  return '';
}

function exponential(positions: Positions, overlaps: Overlaps, circles: readonly number[]): Pump | null | 'undecided' {
  return doubled(positions, circles) ?? apart(positions, overlaps, circles);
}

/** A position that another of its circle leads to in two ways at once. */
function doubled(positions: Positions, circles: readonly number[]): Pump | null | 'undecided' {
  const { follow } = positions;
  for (const [p, ways] of follow.entries()) {
    for (const [q, count] of ways) {
      if (count < 2 || !areTogether(p, q, circles)) continue;
      const back = p === q ? { labels: [] } : wayThrough(q, p, positions);
      if (back === null || back === 'too many') return 'undecided';
      const repeated = labelOf(q, positions) + back.labels.join('');
      return { growth: 'exponential', prefix: prefixTo(p, positions), repeated };
    }
  }
  return null;
}

/** A way apart from a position and back again, on which the two are somewhere different. */
function apart(positions: Positions, overlaps: Overlaps, circles: readonly number[]): Pump | null | 'undecided' {
  const { follow, characters } = positions;
  const next = ([a, b]: Pair): (readonly [Pair, string])[] =>
    [...(follow[a]?.keys() ?? [])].flatMap((p) =>
      [...(follow[b]?.keys() ?? [])].flatMap((q) => {
        const isWithin = areTogether(a, p, circles) && areTogether(b, q, circles);
        const common = isWithin ? overlaps.common(p, q) : [];
        return common.length === 0 ? [] : [[[p, q], readable(common)] as const];
      }),
    );
  const keyOf = ([a, b]: Pair) => a * characters.length + b;
  for (const p of follow.keys()) {
    if (circles[p] === -1) continue;
    for (const [pair, label] of next([p, p]).filter(([[a, b]]) => a < b)) {
      const back = wayTo(pair, ([a, b]) => a === p && b === p, next, keyOf);
      if (back === 'too many') return 'undecided';
      if (back !== null)
        return { growth: 'exponential', prefix: prefixTo(p, positions), repeated: label + back.labels.join('') };
    }
  }
  return null;
}

/** True for two positions of one circle. */
function areTogether(p: number, q: number, circles: readonly number[]): boolean {
  return circles[p] !== -1 && circles[p] === circles[q];
}

function labelOf(position: number, { characters }: Positions): string {
  return readable(characters[position] ?? []);
}

function wayThrough(from: number, to: number, positions: Positions) {
  return wayTo(
    from,
    (node) => node === to,
    (node) => [...(positions.follow[node]?.keys() ?? [])].map((next) => [next, labelOf(next, positions)] as const),
    (node) => node,
  );
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
      const next = (triple: Triple) => {
        if (visited > mostVisited) return [];
        const found = triplesAfter(triple, [p, q], { positions, overlaps, circles });
        visited += found.length;
        return found;
      };
      const isThere = ([a, b, c]: Triple) => a === p && b === q && c === q;
      const way = wayTo<Triple>([p, p, q], isThere, next, ([a, b, c]) => (a * size + b) * size + c);
      if (way === 'too many' || visited > mostVisited) return 'undecided';
      if (way !== null) return { growth: 'polynomial', prefix: prefixTo(p, positions), repeated: way.labels.join('') };
    }
  }
  return null;
}

/** Where three positions lead to on one character: the first within the circle of one, the last within that of the other. */
function triplesAfter(
  [a, b, c]: Triple,
  [p, q]: Pair,
  { positions, overlaps, circles }: { positions: Positions; overlaps: Overlaps; circles: readonly number[] },
): (readonly [Triple, string])[] {
  const after = (position: number) => [...(positions.follow[position]?.keys() ?? [])];
  const found: (readonly [Triple, string])[] = [];
  for (const x of after(a).filter((one) => circles[one] === circles[p]))
    for (const z of after(c).filter((one) => circles[one] === circles[q] && overlaps.common(x, one).length > 0))
      for (const y of after(b)) {
        const common = overlaps.common(x, y, z);
        if (common.length > 0) found.push([[x, y, z], readable(common)]);
      }
  return found;
}
