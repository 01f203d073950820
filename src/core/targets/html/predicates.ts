import { facetRules } from '../../kinds/index.js';
import type { Field, Pattern } from '../../model/index.js';
import {
  automatonOfParts,
  complement,
  coveringWords,
  damagedCharacters,
  factsOf,
  inSequence,
  intersect,
  isExponential,
  linearTree,
  NotRegular,
  normalise,
  orConstruct,
  type PatternPart,
  type PatternTree,
  type Ranges,
  readParts,
  spaceCharacters,
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

/**
 * Outer white space is allowed where it is trimmed later; lengths count code points of what is left. What a field's own
 * canonical form changes otherwise (letter case, inner spaces, Unicode's form) can't be asked of what was typed.
 */
export function textPattern(field: Field): TextPattern {
  const { facets } = field;
  const changes =
    facets.collapse === true ? 'inner white space that is collapsed' : facets.unicode != null ? 'a normal form' : null;
  const { least, most } = lengthsOf(field);
  const isKept = facets.trim === false;
  const outer = isKept ? '' : '\\s*';
  const framed = (inner: string) => (field.optional ? `${outer}(?:${inner}${outer})?` : `${outer}${inner}${outer}`);
  const wholeText = isKept ? keptText : trimmedText;
  const core = changes === null ? wholeText(least, most) : wholeText(1, Number.POSITIVE_INFINITY);
  const patterns = patternsOf(field);
  if (patterns.length === 0 || changes !== null) return { attribute: framed(core), sample: null, without: changes };
  try {
    const read = patterns.map((pattern) => ({ pattern, parts: readParts(pattern).map(readable) }));
    if (read.some(({ parts }) => isExponential(parts)))
      throw new NotRegular('ways to be read that multiply with every character');
    const [first, ...more] = read
      .flatMap(({ parts }) => parts)
      .map((part) => ({ ...part, tree: typed(part.tree, facets.case) }));
    const tree = first?.tree ?? { sequence: [] };
    const declared = read.find(({ pattern }) => pattern === facets.pattern);
    const sample = declared === undefined ? null : sampleIn(declared.parts);
    const ahead = more.map(({ tree: other, fits }) => `(?${fits ? '=' : '!'}${inSequence(other)}${outer}$)`).join('');
    const own = `${ahead}${inSequence(tree)}`;
    const attribute = keepsItself(tree, least, most, isKept)
      ? framed(own)
      : framed(`(?=${core}${outer}$)${own}${isKept ? '' : '(?<!\\s)'}`);
    return { attribute, sample, without: null };
  } catch (error) {
    if (error instanceof NotRegular) return { attribute: framed(core), sample: null, without: error.construct };
    throw error;
  }
}

/** A part as it is, or where a browser might not get done with it an equal one that it reads in linear time. */
function readable(part: PatternPart): PatternPart {
  const tree = isExponential([part]) ? linearTree(part) : null;
  return tree === null ? part : { ...part, tree, walked: tree };
}

/** A text of a pattern, as long as it takes to show its parts; null where its automaton would be too large. */
function sampleIn(parts: readonly PatternPart[]): string | null {
  const automaton = orConstruct(() => automatonOfParts(parts));
  return typeof automaton === 'string' ? null : (coveringWords(automaton, 8).at(-1) ?? null);
}

const CAPITALS: Ranges = [[0x41, 0x5a]];
const SMALL: Ranges = [[0x61, 0x7a]];
const CASE = 0x20;

/** What may be typed so that a tree holds what comes of it, where letters are put into one case (A–Z and a–z only). */
function typed(tree: PatternTree, letterCase: unknown): PatternTree {
  if (letterCase !== 'lower' && letterCase !== 'upper') return tree;
  const [kept, changed, by] = letterCase === 'lower' ? [SMALL, CAPITALS, -CASE] : [CAPITALS, SMALL, CASE];
  const inside = (one: PatternTree): PatternTree => {
    if ('one' in one) {
      const twins = intersect(one.one, kept).map(([from, to]) => [from + by, to + by] as const);
      return { one: normalise([...intersect(one.one, complement(changed)), ...twins]) };
    }
    if ('sequence' in one) return { sequence: one.sequence.map(inside) };
    if ('either' in one) return { either: one.either.map(inside) };
    return { ...one, repeat: inside(one.repeat) };
  };
  return inside(tree);
}

/** Every pattern that a text must fit: the declared one, that of its kind, and its set of characters. */
function patternsOf(field: Field): readonly Pattern[] {
  return facetRules(field).flatMap(({ facet, predicate }) =>
    predicate.op === 'matches' && facet !== 'lines' ? [predicate.pattern] : [],
  );
}

/** The lengths that the rules allow, in code points. */
function lengthsOf(field: Field): { readonly least: number; readonly most: number } {
  const limit = (facet: string, without: number) => {
    const found = facetRules(field).find((rule) => rule.facet === facet)?.limit;
    return found === undefined ? without : Number(found);
  };
  return { least: limit('minLength', 0), most: limit('maxLength', Number.POSITIVE_INFINITY) };
}

/** True where every text of the pattern is trimmed, unless outer white space is kept, undamaged and of an allowed length. */
function keepsItself(tree: PatternTree, least: number, most: number, isKept: boolean): boolean {
  const { shortest, longest, characters, first, last } = factsOf(tree);
  const apart = (a: Ranges, b: Ranges) => intersect(a, b).length === 0;
  const long = shortest >= Math.max(least, 1) && longest <= most;
  const isTrimmed = isKept || (apart(first, spaceCharacters) && apart(last, spaceCharacters));
  return long && apart(characters, damagedCharacters) && isTrimmed;
}

/** A text with whatever white space it was typed with, of a length in code points. */
function keptText(least: number, most: number): string {
  if (most < Math.max(least, 1)) return '(?!)';
  return `[^\\x00\\uFFFD]{${Math.max(least, 1)},${most === Number.POSITIVE_INFINITY ? '' : most}}`;
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
