import type { Gap, Pattern } from '../../model/index.js';
import { complement, linearTree, NotRegular, type Ranges, readParts } from '../../reason/index.js';
import { binary, type Enforced, type PatternSyntax, patternText, type Sql, unrolledSize } from '../sql/index.js';

/** The engine compiles a pattern into 65,536 bytes at most (1139); some are left for what holds the pieces together. */
const MOST_BYTES = 60_000;
/** A class has a map of the first 256 characters; each range beyond takes two more. */
const CLASS_BYTES = 44;
const RANGE_BYTES = 9;
const CHARACTER_BYTES = 5;

const syntax: PatternSyntax = { character: escaped, first: 0, mostRepeats: 65_535 };

/**
 * The pattern in the engine's own syntax (PCRE2), from the tree (look-aheads at its beginning each by itself), with every class spelled out as code points: its `\w`,
 * `\s` and `.` mean other sets, and `$` matches before a last line feed. Whatever the collation, case counts. A pattern that
 * the engine's matcher might give up on is written as an equal one that reads every text in one way.
 *
 * @throws NotRegular for a construct that is not translated, and a pattern larger than the engine takes
 */
export function matchesPattern(of: Sql, pattern: Pattern): Sql {
  const checks = readParts(pattern).map((part) => {
    const { fits } = part;
    const tree = linearTree(part) ?? part.tree;
    if (unrolledSize(tree, compiledBytes, { unrollsCharacters: false }) > MOST_BYTES)
      throw new NotRegular('more than the engine compiles');
    return binary(of, fits ? 'REGEXP' : 'NOT REGEXP', { text: `(?-i)^(?:${patternText(tree, syntax)})\\z` });
  });
  return checks.length === 1 && checks[0] !== undefined ? checks[0] : { all: checks };
}

export function matches(of: Sql, pattern: Pattern): Enforced {
  try {
    const check = matchesPattern(of, pattern);
    const gap = gapOf(pattern);
    return gap === null ? { check } : { check, gap };
  } catch (error) {
    if (error instanceof NotRegular) return { untranslated: `the pattern has ${error.construct}` };
    throw error;
  }
}

/** What the engine makes of a text that its matcher gives up on: one that does not fit. */
function gapOf(pattern: Pattern): Gap | null {
  const given = readParts(pattern).filter((part) => linearTree(part) === null);
  if (given.length === 0) return null;
  const why = 'the engine gives up on texts that can be read in very many ways, as if they did not fit';
  return { is: given.every(({ fits }) => fits) ? 'stricter' : 'other', why };
}

function compiledBytes(ranges: Ranges): number {
  const [only] = ranges;
  const isSingle = ranges.length === 1 && only !== undefined && only[0] === only[1];
  return isSingle ? CHARACTER_BYTES : CLASS_BYTES + RANGE_BYTES * Math.min(ranges.length, complement(ranges).length);
}

/** A character, escaped unless it is a plain letter or digit. */
export function escaped(point: number): string {
  const character = String.fromCodePoint(point);
  return /[A-Za-z0-9]/.test(character) ? character : `\\x{${point.toString(16)}}`;
}
