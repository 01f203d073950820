import type { PatternTree } from '../pattern/index.js';
import type { Ranges } from '../pattern/ranges.js';

/**
 * A pattern as the places of its characters and the ways from one to the next, after Glushkov; but a way is counted as
 * often as the pattern leads over it, twice at most, since it is the second way that a matcher tries in vain.
 */
export interface Positions {
  readonly characters: readonly Ranges[];
  /** Where a text may begin, and how often. */
  readonly first: Ways;
  readonly follow: readonly Ways[];
  readonly last: Ways;
  /** True where the empty text is matched. */
  readonly nullable: boolean;
  /** How often a position stands in a row, where its repeats are counted instead of written out. */
  readonly counts: ReadonlyMap<number, readonly [least: number, most: number]>;
}
/** Positions and how often they are reached: once, or more than once. */
export type Ways = ReadonlyMap<number, 1 | 2>;

/** Patterns of more characters than this, with repeats written out, are not looked at so closely. */
export const mostPositions = 1_500;

/** What becomes of repeats. */
export interface Repeats {
  /** Those with more rounds than this are taken for endless ones: all ways that there are stay, so that what is single is. */
  readonly endlessFrom: number;
  /** Those of a single character with more rounds than this are counted; such positions are for following only. */
  readonly countedFrom: number;
}
/** Every repeat is written out round by round. */
export const everyRound: Repeats = { endlessFrom: Number.POSITIVE_INFINITY, countedFrom: Number.POSITIVE_INFINITY };

/** The positions of a pattern; null where there are too many. */
export function positionsOf(tree: PatternTree, repeats: Repeats): Positions | null {
  const making: Making = { characters: [], follow: [], counts: new Map(), repeats };
  const part = made(tree, making);
  if (part === null) return null;
  const { characters, follow, counts } = making;
  return { characters, follow, counts, first: part.first, last: part.last, nullable: part.empty > 0 };
}

interface Making {
  readonly characters: Ranges[];
  readonly follow: Map<number, 1 | 2>[];
  readonly counts: Map<number, readonly [number, number]>;
  readonly repeats: Repeats;
}
interface Part {
  readonly first: Ways;
  readonly last: Ways;
  /** In how many ways it matches nothing. */
  readonly empty: 0 | 1 | 2;
}

const nothing: Part = { first: new Map(), last: new Map(), empty: 1 };
const never: Part = { first: new Map(), last: new Map(), empty: 0 };

function made(tree: PatternTree, making: Making): Part | null {
  if ('one' in tree) {
    if (making.characters.length >= mostPositions) return null;
    const at = making.characters.push(tree.one) - 1;
    making.follow.push(new Map());
    const here: Ways = new Map([[at, 1]]);
    return { first: here, last: here, empty: 0 };
  }
  if ('sequence' in tree)
    return inTurn(
      tree.sequence.map((one) => () => made(one, making)),
      making,
    );
  if ('either' in tree) {
    let either = never;
    for (const one of tree.either) {
      const part = made(one, making);
      if (part === null) return null;
      either = {
        first: sum(either.first, part.first),
        last: sum(either.last, part.last),
        empty: capped(either.empty + part.empty),
      };
    }
    return either;
  }
  return repeated(tree.repeat, tree.from, tree.to, making);
}

function inTurn(parts: readonly (() => Part | null)[], making: Making): Part | null {
  let before = nothing;
  for (const make of parts) {
    const next = make();
    if (next === null) return null;
    before = joined(before, next, making);
  }
  return before;
}

function joined(a: Part, b: Part, making: Making): Part {
  link(a.last, b.first, making);
  return {
    first: sum(a.first, times(b.first, a.empty)),
    last: sum(b.last, times(a.last, b.empty)),
    empty: capped(a.empty * b.empty),
  };
}

function repeated(inner: PatternTree, from: number, to: number, making: Making): Part | null {
  const { endlessFrom, countedFrom } = making.repeats;
  const most = Math.max(from, to === Number.POSITIVE_INFINITY ? 0 : to);
  if ('one' in inner && most > countedFrom) {
    const counted = made(inner, making);
    if (counted === null) return null;
    for (const at of counted.first.keys()) making.counts.set(at, [Math.max(from, 1), to]);
    return { ...counted, empty: from === 0 ? 1 : 0 };
  }
  const isLong = to !== Number.POSITIVE_INFINITY && to > endlessFrom;
  const endless = to === Number.POSITIVE_INFINITY || isLong;
  const rounds = Math.min(from, endlessFrom);
  if (rounds > mostPositions || (!endless && to - rounds > mostPositions)) return null;
  const needed = Array.from({ length: rounds }, () => () => made(inner, making));
  if (endless) return inTurn([...needed, () => looped(inner, making)], making);
  // Optional rounds stand inside one another: the second comes only after the first.
  const optional = (left: number): Part | null => {
    if (left === 0) return nothing;
    const part = made(inner, making);
    const more = part === null ? null : optional(left - 1);
    if (part === null || more === null) return null;
    // A round that matches nothing is not taken.
    return { ...joined({ ...part, empty: 0 }, more, making), empty: 1 };
  };
  return inTurn([...needed, () => optional(to - rounds)], making);
}

function looped(inner: PatternTree, making: Making): Part | null {
  const part = made(inner, making);
  if (part === null) return null;
  link(part.last, part.first, making);
  return { ...part, empty: 1 };
}

function link(from: Ways, to: Ways, { follow }: Making): void {
  for (const [position, ways] of from) {
    const out = follow[position];
    for (const [next, more] of to) out?.set(next, atMostTwo((out.get(next) ?? 0) + ways * more));
  }
}

function sum(a: Ways, b: Ways): Ways {
  const both = new Map(a);
  for (const [position, ways] of b) both.set(position, atMostTwo((both.get(position) ?? 0) + ways));
  return both;
}

function times(ways: Ways, by: 0 | 1 | 2): Ways {
  if (by === 0) return new Map();
  return by === 1 ? ways : new Map([...ways.keys()].map((position) => [position, 2]));
}

function atMostTwo(count: number): 1 | 2 {
  return count > 1 ? 2 : 1;
}

function capped(count: number): 0 | 1 | 2 {
  return count > 1 ? 2 : count === 1 ? 1 : 0;
}
