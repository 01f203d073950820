import { LAST } from './ranges.js';
import type { PatternTree } from './tree.js';

/** What stands in a tree for `\\b` and `\\B`, until it is worked out which texts they allow: characters that there are not. */
export const BOUNDARY = LAST + 1;
export const NO_BOUNDARY = LAST + 2;

/** True for a tree in which a word boundary is asked for, or none. */
export function hasBoundaries(tree: PatternTree): boolean {
  if ('one' in tree) return tree.one.some(([, to]) => to > LAST);
  if ('sequence' in tree) return tree.sequence.some(hasBoundaries);
  if ('either' in tree) return tree.either.some(hasBoundaries);
  return hasBoundaries(tree.repeat);
}

/** The tree without them: it accepts as much, or more. */
export function withoutBoundaries(tree: PatternTree): PatternTree {
  if ('one' in tree) return hasBoundaries(tree) ? { sequence: [] } : tree;
  if ('sequence' in tree) return { sequence: tree.sequence.map(withoutBoundaries) };
  if ('either' in tree) return { either: tree.either.map(withoutBoundaries) };
  return { ...tree, repeat: withoutBoundaries(tree.repeat) };
}
