import type { Pattern } from '../model/index.js';
import { atBoundaries, expressionOf } from './automaton/index.js';
import {
  hasBoundaries,
  NotRegular,
  type PatternPart,
  type PatternTree,
  readMarked,
  readMarkedParts,
  withoutBoundaries,
  wordCharacters,
} from './pattern/index.js';
import { rememberedOf } from './remembered.js';

/**
 * Reads a pattern, held against the whole value, into our tree.
 *
 * @throws NotRegular for a construct that no automaton can hold, or that is not translated: backreferences, look-around,
 *   anchors in the middle
 */
export function readPattern(pattern: Pattern): PatternTree {
  return withBoundaries(readMarked(pattern), pattern);
}

/**
 * Reads a pattern that may have look-aheads, at its beginning or behind a fixed number of characters: each is a part of it.
 *
 * @throws NotRegular as `readPattern` does, but for such look-aheads
 */
export function readParts(pattern: Pattern): readonly PatternPart[] {
  return rememberedOf(pattern, 'parts', () =>
    readMarkedParts(pattern).map((part) => {
      if (!hasBoundaries(part.tree)) return part;
      return { ...part, tree: withBoundaries(part.tree, pattern), walked: withoutBoundaries(part.walked) };
    }),
  );
}

/** No tree without marks has more nodes than this. */
const MOST_NODES = 30_000;

/** The texts whose words begin and end where the tree's marks say, as a tree without marks. */
function withBoundaries(tree: PatternTree, pattern: Pattern): PatternTree {
  if (!hasBoundaries(tree)) return tree;
  const plain = expressionOf(atBoundaries(tree, wordCharacters(pattern)), MOST_NODES);
  if (plain === null) throw new NotRegular('word boundaries among too many repeats');
  return plain;
}
