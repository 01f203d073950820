import type { Pattern } from '../../model/index.js';
import { NotRegular, readParts } from '../../reason/index.js';
import { binary, type Enforced, type PatternSyntax, patternText, type Sql, unrolledSize } from '../sql/index.js';

/** The engine refuses 43,617 characters and classes with counted repeats written out; in WASM it hangs from 25,600 on. */
const MOST_CHARACTERS = 20_000;

const syntax: PatternSyntax = {
  character: escaped,
  // U+0000 is never in a value of this engine.
  first: 1,
  // More are refused (2201B).
  mostRepeats: 255,
};

/**
 * The pattern in the engine's own syntax (advanced regular expressions), from the tree (look-aheads at its beginning each by itself), with every class spelled out as
 * code points: the engine's `\w`, `\s` and `.` mean other sets.
 *
 * @throws NotRegular for a construct that is not translated, and a pattern larger than the engine takes
 */
export function matchesPattern(of: Sql, pattern: Pattern): Sql {
  const checks = expressionsOf(pattern).map(({ fits, text }) => binary(of, fits ? '~' : '!~', { text }));
  return checks.length === 1 && checks[0] !== undefined ? checks[0] : { all: checks };
}

/** The same as regular expressions, each of which a text fits or must not fit. */
export function expressionsOf(pattern: Pattern): readonly { readonly fits: boolean; readonly text: string }[] {
  const parts = readParts(pattern);
  const size = parts.reduce((sum, { tree }) => sum + unrolledSize(tree, () => 1, { unrollsCharacters: true }), 0);
  if (size > MOST_CHARACTERS) throw new NotRegular('more repeats than the engine takes');
  return parts.map(({ tree, fits }) => ({ fits, text: `^(?:${patternText(tree, syntax)})$` }));
}

export function matches(of: Sql, pattern: Pattern): Enforced {
  try {
    return { check: matchesPattern(of, pattern) };
  } catch (error) {
    if (error instanceof NotRegular) return { untranslated: `the pattern has ${error.construct}` };
    throw error;
  }
}

function escaped(point: number): string {
  const character = String.fromCodePoint(point);
  if (/[A-Za-z0-9]/.test(character)) return character;
  return point > 0xffff ? `\\U${point.toString(16).padStart(8, '0')}` : `\\u${point.toString(16).padStart(4, '0')}`;
}
