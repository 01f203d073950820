import type { Pattern } from '../../model/index.js';
import { complement, NotRegular, type PatternTree, type Ranges, readPattern } from '../../reason/index.js';
import { binary, type Enforced, type Sql } from '../sql/index.js';

/** More repeats than this in one bound are refused by the engine (2201B). */
const MOST_REPEATS = 255;

/**
 * The pattern in the engine's own syntax (advanced regular expressions), from the tree, with every class spelled out as
 * code points: the engine's `\w`, `\s` and `.` mean other sets.
 *
 * @throws NotRegular for a construct that is not translated
 */
export function matchesPattern(of: Sql, pattern: Pattern): Sql {
  return binary(of, '~', { text: `^(?:${print(readPattern(pattern))})$` });
}

export function matches(of: Sql, pattern: Pattern): Enforced {
  try {
    return { check: matchesPattern(of, pattern) };
  } catch (error) {
    if (error instanceof NotRegular) return { untranslated: `the pattern has ${error.construct}` };
    throw error;
  }
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
  if (/[*+?}]$/.test(what)) return repeats(`(?:${what})`, from, to);
  if (from === 0 && to === 1) return `${what}?`;
  if (from === 0 && to === Number.POSITIVE_INFINITY) return `${what}*`;
  if (from === 1 && to === Number.POSITIVE_INFINITY) return `${what}+`;
  if (from > MOST_REPEATS) return `${what}{${MOST_REPEATS}}${repeats(what, from - MOST_REPEATS, to - MOST_REPEATS)}`;
  if (to === Number.POSITIVE_INFINITY) return `${what}{${from},}`;
  if (to > MOST_REPEATS) return `${what}{${from},${MOST_REPEATS}}${repeats(what, 0, to - MOST_REPEATS)}`;
  return from === to ? `${what}{${from}}` : `${what}{${from},${to}}`;
}

/** A class by whichever of itself and its complement has fewer ranges. U+0000 is never in a value of this engine. */
function printClass(ranges: Ranges): string {
  const inside = withoutNull(ranges);
  const outside = withoutNull(complement(ranges));
  const [only] = inside;
  if (inside.length === 1 && only !== undefined && only[0] === only[1]) return escaped(only[0]);
  if (outside.length === 0) return '[\\u0001-\\U0010ffff]';
  return outside.length < inside.length ? `[^${outside.map(range).join('')}]` : `[${inside.map(range).join('')}]`;
}

function withoutNull(ranges: Ranges): Ranges {
  return ranges.map(([from, to]) => [Math.max(from, 1), to] as const).filter(([from, to]) => from <= to);
}

function range([from, to]: readonly [number, number]): string {
  return from === to ? escaped(from) : `${escaped(from)}-${escaped(to)}`;
}

function escaped(point: number): string {
  const character = String.fromCodePoint(point);
  if (/[A-Za-z0-9]/.test(character)) return character;
  return point > 0xffff ? `\\U${point.toString(16).padStart(8, '0')}` : `\\u${point.toString(16).padStart(4, '0')}`;
}
