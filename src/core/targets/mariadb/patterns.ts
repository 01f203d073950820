import type { Pattern } from '../../model/index.js';
import { complement, NotRegular, type PatternTree, type Ranges, readPattern } from '../../reason/index.js';
import { binary, type Enforced, type Sql } from '../sql/index.js';

/** The engine compiles a pattern into 65,536 bytes at most (1139); some are left for what holds the pieces together. */
const MOST_BYTES = 60_000;
/** A class has a map of the first 256 characters; each range beyond takes two more. */
const CLASS_BYTES = 44;
const RANGE_BYTES = 9;
const CHARACTER_BYTES = 5;

/**
 * The pattern in the engine's own syntax (PCRE2), from the tree, with every class spelled out as code points: its `\w`,
 * `\s` and `.` mean other sets, and `$` matches before a last line feed. Whatever the collation, case counts.
 *
 * @throws NotRegular for a construct that is not translated, and a pattern larger than the engine takes
 */
export function matchesPattern(of: Sql, pattern: Pattern): Sql {
  const tree = readPattern(pattern);
  if (compiledBytes(tree) > MOST_BYTES) throw new NotRegular('more than the engine compiles');
  return binary(of, 'REGEXP', { text: `(?-i)^(?:${print(tree)})\\z` });
}

export function matches(of: Sql, pattern: Pattern): Enforced {
  try {
    return { check: matchesPattern(of, pattern) };
  } catch (error) {
    if (error instanceof NotRegular) return { untranslated: `the pattern has ${error.construct}` };
    throw error;
  }
}

/** About how large the engine's own form of a tree is: it writes a counted group out as often as it may come. */
function compiledBytes(tree: PatternTree): number {
  const sum = (trees: readonly PatternTree[]) => trees.reduce((total, one) => total + compiledBytes(one), 0);
  if ('one' in tree) {
    const [only] = tree.one;
    const single = tree.one.length === 1 && only !== undefined && only[0] === only[1];
    const ranges = Math.min(tree.one.length, complement(tree.one).length);
    return single ? CHARACTER_BYTES : CLASS_BYTES + RANGE_BYTES * ranges;
  }
  if ('sequence' in tree) return sum(tree.sequence);
  if ('either' in tree) return sum(tree.either) + CHARACTER_BYTES * tree.either.length;
  const most = tree.to === Number.POSITIVE_INFINITY ? tree.from : tree.to;
  return compiledBytes(tree.repeat) * ('one' in tree.repeat ? 1 : Math.max(1, most));
}

function print(tree: PatternTree): string {
  if ('one' in tree) return printClass(tree.one);
  if ('sequence' in tree) return tree.sequence.map(atom).join('');
  if ('either' in tree) return tree.either.map(print).join('|');
  return repeats(atom(tree.repeat), tree.from, tree.to);
}

/** Something that a quantifier or a neighbour can stand beside. */
function atom(tree: PatternTree): string {
  const needsGroup = 'either' in tree || ('sequence' in tree && tree.sequence.length !== 1);
  if ('repeat' in tree) return print(tree);
  return needsGroup ? `(?:${print(tree)})` : print(tree);
}

function repeats(what: string, from: number, to: number): string {
  if (/[*+?}]$/.test(what) && !what.endsWith('\\x{3f}')) return repeats(`(?:${what})`, from, to);
  if (from === 0 && to === 1) return `${what}?`;
  if (from === 0 && to === Number.POSITIVE_INFINITY) return `${what}*`;
  if (from === 1 && to === Number.POSITIVE_INFINITY) return `${what}+`;
  if (to === Number.POSITIVE_INFINITY) return `${what}{${from},}`;
  return from === to ? `${what}{${from}}` : `${what}{${from},${to}}`;
}

/** A class by whichever of itself and its complement has fewer ranges. */
function printClass(ranges: Ranges): string {
  const outside = complement(ranges);
  const [only] = ranges;
  if (ranges.length === 1 && only !== undefined && only[0] === only[1]) return escaped(only[0]);
  if (ranges.length === 0) return '(?!)';
  if (outside.length === 0) return '[\\x{0}-\\x{10ffff}]';
  return outside.length < ranges.length ? `[^${outside.map(range).join('')}]` : `[${ranges.map(range).join('')}]`;
}

function range([from, to]: readonly [number, number]): string {
  return from === to ? escaped(from) : `${escaped(from)}-${escaped(to)}`;
}

export function escaped(point: number): string {
  const character = String.fromCodePoint(point);
  return /[A-Za-z0-9]/.test(character) ? character : `\\x{${point.toString(16)}}`;
}
