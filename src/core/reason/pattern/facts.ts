import { normalise, type Ranges } from './ranges.js';
import type { PatternTree } from './tree.js';

/** What can be read off a tree: bounds that every accepted text keeps (the sets may be too large, never too small). */
export interface PatternFacts {
  /** Lengths in code points. */
  readonly shortest: number;
  readonly longest: number;
  readonly characters: Ranges;
  readonly first: Ranges;
  readonly last: Ranges;
}

export function factsOf(tree: PatternTree): PatternFacts {
  if ('one' in tree) return { shortest: 1, longest: 1, characters: tree.one, first: tree.one, last: tree.one };
  if ('sequence' in tree) return tree.sequence.map(factsOf).reduce(after, empty);
  if ('either' in tree) return tree.either.map(factsOf).reduce(either);
  const once = factsOf(tree.repeat);
  if (tree.to === 0) return empty;
  const longest = once.longest === 0 ? 0 : once.longest * tree.to;
  return { ...once, shortest: once.shortest * tree.from, longest };
}

const empty: PatternFacts = { shortest: 0, longest: 0, characters: [], first: [], last: [] };

function after(a: PatternFacts, b: PatternFacts): PatternFacts {
  return {
    shortest: a.shortest + b.shortest,
    longest: a.longest + b.longest,
    characters: joined(a.characters, b.characters),
    first: a.shortest === 0 ? joined(a.first, b.first) : a.first,
    last: b.shortest === 0 ? joined(a.last, b.last) : b.last,
  };
}

function either(a: PatternFacts, b: PatternFacts): PatternFacts {
  return {
    shortest: Math.min(a.shortest, b.shortest),
    longest: Math.max(a.longest, b.longest),
    characters: joined(a.characters, b.characters),
    first: joined(a.first, b.first),
    last: joined(a.last, b.last),
  };
}

function joined(a: Ranges, b: Ranges): Ranges {
  return normalise([...a, ...b]);
}
