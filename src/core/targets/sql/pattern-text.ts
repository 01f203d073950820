import { complement, type PatternTree, type Ranges } from '../../reason/index.js';

/** How an engine writes a pattern, as far as engines differ. */
export interface PatternSyntax {
  /** One character, escaped where that is needed. */
  character(point: number): string;
  /** The first character that a value of this engine can have. */
  readonly first: number;
  /** The greatest number in one counted repeat. */
  readonly mostRepeats: number;
}

/** A pattern from its tree, with every class spelled out as code points; anchors are the engine's own. */
export function patternText(tree: PatternTree, syntax: PatternSyntax): string {
  const bare = unwrapped(tree);
  if ('one' in bare) return classText(bare.one, syntax);
  if ('sequence' in bare) return bare.sequence.map((one) => besideOthers(one, syntax)).join('');
  if ('either' in bare) return bare.either.map((one) => patternText(one, syntax)).join('|');
  return repeats(repeatable(bare.repeat, syntax), bare.from, bare.to, syntax.mostRepeats);
}

/** A sequence of one is what is in it. */
function unwrapped(tree: PatternTree): PatternTree {
  const only = 'sequence' in tree && tree.sequence.length === 1 ? tree.sequence[0] : undefined;
  return only === undefined ? tree : unwrapped(only);
}

function besideOthers(tree: PatternTree, syntax: PatternSyntax): string {
  const text = patternText(tree, syntax);
  return 'either' in unwrapped(tree) ? `(?:${text})` : text;
}

function repeatable(tree: PatternTree, syntax: PatternSyntax): string {
  const text = patternText(tree, syntax);
  return 'one' in unwrapped(tree) ? text : `(?:${text})`;
}

function repeats(what: string, from: number, to: number, most: number): string {
  if (from === 0 && to === 1) return `${what}?`;
  if (from === 0 && to === Number.POSITIVE_INFINITY) return `${what}*`;
  if (from === 1 && to === Number.POSITIVE_INFINITY) return `${what}+`;
  if (from > most) return `${what}{${most}}${repeats(what, from - most, to - most, most)}`;
  if (to === Number.POSITIVE_INFINITY) return `${what}{${from},}`;
  if (to > most) return `${what}{${from},${most}}${repeats(what, 0, to - most, most)}`;
  return from === to ? `${what}{${from}}` : `${what}{${from},${to}}`;
}

/** A class by whichever of itself and its complement has fewer ranges. */
function classText(ranges: Ranges, { character, first }: PatternSyntax): string {
  const able = (set: Ranges) =>
    set.map(([from, to]) => [Math.max(from, first), to] as const).filter(([a, b]) => a <= b);
  const [inside, outside] = [able(ranges), able(complement(ranges))];
  const text = (set: Ranges) =>
    set.map(([from, to]) => (from === to ? character(from) : `${character(from)}-${character(to)}`)).join('');
  const [only] = inside;
  if (only === undefined) return '(?!)';
  if (inside.length === 1 && only[0] === only[1]) return character(only[0]);
  if (outside.length === 0) return `[${character(first)}-${character(0x10ffff)}]`;
  return outside.length < inside.length ? `[^${text(outside)}]` : `[${text(inside)}]`;
}

/** How large an engine's own form of a pattern is, where it writes repeats out as often as they may come. */
export function unrolledSize(
  tree: PatternTree,
  sizeOf: (one: Ranges) => number,
  { unrollsCharacters }: { readonly unrollsCharacters: boolean },
): number {
  const size = (one: PatternTree): number => {
    if ('one' in one) return sizeOf(one.one);
    if ('sequence' in one) return one.sequence.reduce((sum, part) => sum + size(part), 0);
    if ('either' in one) return one.either.reduce((sum, part) => sum + size(part), 0);
    const most = Math.max(1, one.to === Number.POSITIVE_INFINITY ? one.from : one.to);
    const isCounted = unrollsCharacters || !('one' in unwrapped(one.repeat));
    return size(one.repeat) * (isCounted ? most : 1);
  };
  return size(tree);
}
