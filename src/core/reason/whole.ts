import type { Pattern } from '../model/index.js';
import { type Automaton, automatonOf, complementOf, intersection, Routes } from './automaton/index.js';
import { readParts } from './parts.js';
import { NotRegular, type PatternPart } from './pattern/index.js';
import { rememberedOf } from './remembered.js';

/**
 * The automaton of a pattern, look-aheads at its beginning and all.
 *
 * @throws NotRegular where no automaton of bearable size holds it
 */
export function automatonOfPattern(pattern: Pattern): Automaton {
  return automatonOfParts(readParts(pattern));
}

/** The ways through a pattern's automaton; null where no automaton of bearable size holds it. */
export function routesThrough(pattern: Pattern): Routes | null {
  try {
    return new Routes(automatonOfPattern(pattern));
  } catch (error) {
    if (error instanceof NotRegular) return null;
    throw error;
  }
}

/** The automaton of the texts that fit all parts of a pattern. */
export function automatonOfParts(parts: readonly PatternPart[]): Automaton {
  return rememberedOf(parts, 'automaton', () =>
    parts.map(({ tree, fits }) => (fits ? automatonOf(tree) : complementOf(automatonOf(tree)))).reduce(intersection),
  );
}
