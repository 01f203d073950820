import { recalled, rememberedOf } from '../remembered.js';
import type { Ranges } from './ranges.js';
import type { PatternTree } from './tree.js';

/**
 * A tree in ECMAScript syntax, valid under flag v: everything but letters and digits is escaped. No class is negated:
 * the RegExp of Node 20 misreads `/^(?:a[^x]){2}$/v`.
 */
export function printPattern(tree: PatternTree): string {
  if ('one' in tree) return printClass(tree.one);
  if ('sequence' in tree) return tree.sequence.map(inSequence).join('');
  if ('either' in tree) return tree.either.map(printPattern).join('|');
  const repeated = 'one' in tree.repeat ? printPattern(tree.repeat) : `(?:${printPattern(tree.repeat)})`;
  return repeated + quantifier(tree.from, tree.to);
}

/** The same, as part of a sequence. */
export function inSequence(tree: PatternTree): string {
  return 'either' in tree ? `(?:${printPattern(tree)})` : printPattern(tree);
}

function quantifier(from: number, to: number): string {
  if (to === Number.POSITIVE_INFINITY) return from === 0 ? '*' : from === 1 ? '+' : `{${from},}`;
  if (from === 0 && to === 1) return '?';
  return from === to ? `{${from}}` : `{${from},${to}}`;
}

/** How a set with properties of Unicode is written: its ranges are many. */
const WRITTEN = 'written';

/** Notes that a set is made of properties and other characters, so that it is printed by their names. */
export function noteProperties(set: Ranges, properties: readonly string[], others: Ranges): void {
  const [only, ...more] = properties;
  const isOne = only !== undefined && more.length === 0 && others.length === 0;
  rememberedOf(set, WRITTEN, () => (isOne ? only : `[${properties.join('')}${others.map(range).join('')}]`));
}

function printClass(ranges: Ranges): string {
  const known = recalled<string>(ranges, WRITTEN);
  if (known !== undefined) return known;
  const [only] = ranges;
  if (ranges.length === 1 && only !== undefined && only[0] === only[1]) return escaped(only[0]);
  return `[${ranges.map(range).join('')}]`;
}

function range([from, to]: readonly [number, number]): string {
  return from === to ? escaped(from) : `${escaped(from)}-${escaped(to)}`;
}

function escaped(point: number): string {
  const character = String.fromCodePoint(point);
  if (/[A-Za-z0-9]/.test(character)) return character;
  const hex = point.toString(16).toUpperCase();
  if (point <= 0xff) return `\\x${hex.padStart(2, '0')}`;
  return point <= 0xffff ? `\\u${hex.padStart(4, '0')}` : `\\u{${hex}}`;
}
