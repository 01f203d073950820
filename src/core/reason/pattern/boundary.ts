import { LAST } from './ranges.js';
import type { PatternTree } from './tree.js';

/** The marks of `\b` and `\B` in a tree, until it is worked out which texts they allow: characters that no text has. */
export const BOUNDARY = LAST + 1;
export const NO_BOUNDARY = LAST + 2;

/** True for a tree with such marks. */
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
