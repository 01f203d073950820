import { whiteSpace } from '../../kinds/index.js';
import type { Field, Pattern } from '../../model/index.js';
import {
  automatonOf,
  coveringWords,
  factsOf,
  intersect,
  NotRegular,
  normalise,
  type PatternTree,
  type Ranges,
  readPattern,
} from '../../reason/index.js';

/**
 * What the attribute `pattern` says of a text. Browsers read it under flag v, anchored at both ends, and ignore one that
 * is invalid: so it is printed from the tree, never passed through. `\s` is what `trim` removes.
 */
export interface TextPattern {
  readonly attribute: string;
  /** A text that fits, to show; null where there is no declared pattern. */
  readonly sample: string | null;
  /** Why the declared pattern is not in it, or null where it is. */
  readonly without: string | null;
}

const SPACE: Ranges = normalise(whiteSpace.map((point) => [point, point]));
const DAMAGED: Ranges = [
  [0, 0],
  [0xfffd, 0xfffd],
];

/** Outer white space is allowed as it is trimmed later; lengths count code points of what is left. */
export function textPattern(field: Field): TextPattern {
  const least = typeof field.facets.minLength === 'number' ? field.facets.minLength : 0;
  const most = typeof field.facets.maxLength === 'number' ? field.facets.maxLength : Number.POSITIVE_INFINITY;
  const framed = (inner: string) => (field.optional ? `\\s*(?:${inner}\\s*)?` : `\\s*${inner}\\s*`);
  const core = trimmedText(least, most);
  if (field.facets.pattern == null) return { attribute: framed(core), sample: null, without: null };
  try {
    const tree = readPattern(field.facets.pattern as Pattern);
    const own = inSequence(tree);
    const sample = coveringWords(automatonOf(tree), 8).at(-1) ?? null;
    const attribute = keepsItself(tree, least, most) ? framed(own) : framed(`(?=${core}\\s*$)${own}(?<!\\s)`);
    return { attribute, sample, without: null };
  } catch (error) {
    if (error instanceof NotRegular) return { attribute: framed(core), sample: null, without: error.construct };
    throw error;
  }
}

/** True where every text of the pattern is trimmed, undamaged and of an allowed length already. */
function keepsItself(tree: PatternTree, least: number, most: number): boolean {
  const { shortest, longest, characters, first, last } = factsOf(tree);
  const apart = (a: Ranges, b: Ranges) => intersect(a, b).length === 0;
  const long = shortest >= Math.max(least, 1) && longest <= most;
  return long && apart(characters, DAMAGED) && apart(first, SPACE) && apart(last, SPACE);
}

/** A text that neither begins nor ends with white space, of a length in code points. */
function trimmedText(least: number, most: number): string {
  const solid = '[^\\s\\x00\\uFFFD]';
  const inner = '[^\\x00\\uFFFD]';
  if (most < Math.max(least, 1)) return '(?!)';
  if (most === 1) return solid;
  const count = `{${Math.max(least - 2, 0)},${most === Number.POSITIVE_INFINITY ? '' : most - 2}}`;
  const longer = `${inner}${count}${solid}`;
  return least >= 2 ? `${solid}${longer}` : `${solid}(?:${longer})?`;
}

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

function inSequence(tree: PatternTree): string {
  return 'either' in tree ? `(?:${printPattern(tree)})` : printPattern(tree);
}

function quantifier(from: number, to: number): string {
  if (to === Number.POSITIVE_INFINITY) return from === 0 ? '*' : from === 1 ? '+' : `{${from},}`;
  if (from === 0 && to === 1) return '?';
  return from === to ? `{${from}}` : `{${from},${to}}`;
}

function printClass(ranges: Ranges): string {
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
