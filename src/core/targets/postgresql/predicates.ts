import { type KnownField, whiteSpace } from '../../kinds/index.js';
import type { Pattern } from '../../model/index.js';
import { complement, NotRegular, type PatternTree, type Ranges, readPattern } from '../../reason/index.js';
import { binary, call, column, type Enforced, type Sql } from '../sql/index.js';

/** More repeats than this in one bound are refused by the engine (2201B). */
const MOST_REPEATS = 255;

export function lengthOf(text: Sql): Sql {
  return call('char_length', text);
}

/** Equal to itself without outer white space, and not empty; in one letter case and one normal form where asked. */
export function canonical(of: Sql, { facets }: KnownField): Sql {
  const trimmed = call('btrim', of, { text: String.fromCodePoint(...whiteSpace) });
  const parts: Sql[] = [...(facets.trim === false ? [] : [binary(of, '=', trimmed)]), binary(of, '<>', { text: '' })];
  if (facets.lines === 'many') parts.push(binary(call('strpos', of, { text: '\r' }), '=', { number: 0 }));
  if (facets.case === 'lower') parts.push(binary(of, '=', call('lower', of)));
  if (facets.case === 'upper') parts.push(binary(of, '=', call('upper', of)));
  if (facets.unicode === 'NFC') parts.push(binary(of, '=', call('normalize', of)));
  if (facets.collapse === true) {
    const spaces = whiteSpace.filter((point) => point !== 0x20).map(escaped);
    parts.push(binary(of, '!~', { text: `[${spaces.join('')}]|\\u0020\\u0020` }));
  }
  return { all: parts };
}

export function notCanonical(): string | null {
  return null;
}

export function countGiven(columns: readonly Sql[]): Sql {
  return call('num_nonnulls', ...columns);
}

export function includes(text: Sql, part: Sql, where: 'anywhere' | 'start' | 'end'): Sql {
  if (where === 'anywhere') return binary(call('strpos', text, part), '>', { number: 0 });
  if (where === 'start') return call('starts_with', text, part);
  return binary(call('right', text, call('char_length', part)), '=', part);
}

/** In the widest exact type, so that nothing overflows or is rounded. */
export function arithmetic(by: '+' | '-' | '*', left: Sql, right: Sql): Sql {
  return binary({ cast: left, to: 'numeric' }, by, { cast: right, to: 'numeric' });
}

export function multiple(value: Sql, step: string | number): Sql {
  return binary(binary({ cast: value, to: 'numeric' }, '%', { number: step }), '=', { number: 0 });
}

export function daysBetween(from: Sql, to: Sql): Sql {
  return binary(to, '-', from);
}

/**
 * The pattern in the engine's own syntax (advanced regular expressions), from the tree, with every class spelled out as
 * code points: the engine's `\w`, `\s` and `.` mean other sets.
 */
export function matches(name: string, pattern: Pattern): Enforced {
  try {
    return { check: binary(column(name), '~', { text: `^(?:${print(readPattern(pattern))})$` }) };
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
