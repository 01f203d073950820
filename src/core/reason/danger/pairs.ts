import { intersect, type Ranges } from '../pattern/ranges.js';
import type { Positions, Ways } from './positions.js';

/** So many pairs or triples of positions are looked at before a question is left undecided. */
export const mostVisited = 400_000;

/** Which positions share a character, each question answered once. */
export class Overlaps {
  readonly #sets: readonly number[];
  readonly #ranges: Ranges[] = [];
  readonly #known = new Map<number, Ranges>();

  constructor({ characters }: Positions) {
    const numbers = new Map<string, number>();
    this.#sets = characters.map((ranges) => {
      const text = ranges.join(' ');
      const known = numbers.get(text);
      if (known !== undefined) return known;
      numbers.set(text, this.#ranges.length);
      return this.#ranges.push(ranges) - 1;
    });
  }

  /** The characters that all of some positions have. */
  common(...positions: readonly number[]): Ranges {
    const [first = 0, ...rest] = [...new Set(positions.map((position) => this.#sets[position] ?? 0))].sort(
      (a, b) => a - b,
    );
    return rest.reduce((common, set) => this.#with(common, first, set, rest.length), this.#ranges[first] ?? []);
  }

  #with(common: Ranges, first: number, set: number, count: number): Ranges {
    if (count > 1) return intersect(common, this.#ranges[set] ?? []);
    const key = first * this.#ranges.length + set;
    const known = this.#known.get(key);
    if (known !== undefined) return known;
    const both = intersect(common, this.#ranges[set] ?? []);
    this.#known.set(key, both);
    return both;
  }
}

/**
 * True where every position is reached in one way at most, whatever the text: a matcher that tries one way after another
 * then takes a number of steps that is linear in the text's length. False where some position is reached in two; null
 * where there are too many to look at.
 */
export function isSingle(positions: Positions, overlaps: Overlaps): boolean | null {
  const twice = (ways: Ways) => [...ways.values()].includes(2);
  if (twice(positions.first) || positions.follow.some(twice)) return false;
  const pairs = new Pairs(positions, overlaps);
  for (const ways of [positions.first, ...positions.follow]) if (!pairs.add(ways, ways)) return false;
  for (let next = pairs.next(); next !== undefined; next = pairs.next()) {
    const [p, q] = next;
    if (!pairs.add(positions.follow[p] ?? new Map(), positions.follow[q] ?? new Map())) return false;
    if (pairs.count > mostVisited) return null;
  }
  return true;
}

/** Pairs of different positions that are reached on the same text, each looked at once. */
class Pairs {
  readonly #size: number;
  readonly #overlaps: Overlaps;
  readonly #seen = new Set<number>();
  readonly #queue: (readonly [number, number])[] = [];

  constructor({ characters }: Positions, overlaps: Overlaps) {
    this.#size = characters.length;
    this.#overlaps = overlaps;
  }

  get count(): number {
    return this.#seen.size;
  }

  next(): readonly [number, number] | undefined {
    return this.#queue.pop();
  }

  /** Adds every two ways on from two positions that share a character; false where they meet. */
  add(from: Ways, other: Ways): boolean {
    for (const p of from.keys()) {
      for (const q of other.keys()) {
        if ((from === other && p >= q) || this.#overlaps.common(p, q).length === 0) continue;
        if (p === q) return false;
        this.#note(Math.min(p, q), Math.max(p, q));
      }
    }
    return true;
  }

  #note(low: number, high: number): void {
    const key = low * this.#size + high;
    if (this.#seen.has(key)) return;
    this.#seen.add(key);
    this.#queue.push([low, high]);
  }
}

/** A way from one node of a graph to another, as the labels on it; null where there is none. */
export function wayTo<N>(
  from: N,
  isGoal: (node: N) => boolean,
  next: (node: N) => Iterable<readonly [N, string]>,
  keyOf: (node: N) => string | number,
): { readonly labels: readonly string[]; readonly end: N } | null | 'too many' {
  const before = new Map<string | number, { readonly key: string | number; readonly label: string } | null>();
  const queue: N[] = [from];
  before.set(keyOf(from), null);
  for (let at = 0; at < queue.length; at++) {
    const node = queue[at] as N;
    for (const [to, label] of next(node)) {
      const key = keyOf(to);
      const isFirst = !before.has(key);
      if (isFirst) before.set(key, { key: keyOf(node), label });
      // The goal may be where the way began.
      if (isGoal(to)) {
        const labels = [label];
        for (let step = before.get(keyOf(node)) ?? null; step !== null; step = before.get(step.key) ?? null)
          labels.unshift(step.label);
        return { labels, end: to };
      }
      if (!isFirst) continue;
      queue.push(to);
      if (before.size > mostVisited) return 'too many';
    }
  }
  return null;
}
