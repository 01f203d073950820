import type { Schema } from '../../declare/index.js';
import type { Pattern } from '../../model/index.js';
import { NotRegular, normalise, type PatternTree, printPattern, type Ranges, readPattern } from '../../reason/index.js';
import type { Rewrite, Rewriting } from '../mistake.js';
import { facetsNamed } from '../places.js';
import { withFacets } from '../remodel.js';

const ANYTHING = '[\\s\\S]*';

/** What another pattern is, as its source; null where it would be the same. */
type Change = (source: string, tree: PatternTree) => string | null;

/** Nothing holds the pattern to the beginning of the text. */
export const startAnchorDropped = changing('it may begin anywhere', (source) => `${ANYTHING}(?:${source})`);
/** Nothing holds the pattern to the end of the text. */
export const endAnchorDropped = changing('anything may come behind it', (source) => `(?:${source})${ANYTHING}`);
/** The pattern is searched for in the text. */
export const anchorsDropped = changing('it is searched for', (source) => `${ANYTHING}(?:${source})${ANYTHING}`);

/** The beginning belongs to the first alternative only, and the end to the last. */
export const alternationMisgrouped = changing('^ and $ belong to one alternative each', (_source, tree) => {
  if (!('either' in tree)) return null;
  const all = tree.either.map((one) => printPattern(one));
  return all
    .map((one, at) => `${at === 0 ? '' : ANYTHING}(?:${one})${at === all.length - 1 ? '' : ANYTHING}`)
    .join('|');
});

/** Letters count as the same in either case. */
export const caseIgnored: Rewriting = (model) =>
  each(model, 'letters may be in either case', ({ source, flags }) =>
    flags.includes('i') ? null : { source, flags: `${flags}i` },
  );

/** A class of letters or digits takes in the low line, as \w does. */
export const classWidened = classes('a class of characters takes in the low line', [[0x5f, 0x5f]], (points) => {
  return touches(points, [
    [0x30, 0x39],
    [0x41, 0x5a],
    [0x61, 0x7a],
  ]);
});
/** A class of digits takes in those of other scripts. */
export const digitsWidened = classes('digits of other scripts count', [[0x660, 0x669]], (points) =>
  touches(points, [[0x30, 0x39]]),
);
/** A class of capitals takes in the small letters. */
export const lettersWidened = classes('small letters count as capitals', [[0x61, 0x7a]], (points) => {
  return touches(points, [[0x41, 0x5a]]) && !touches(points, [[0x61, 0x7a]]);
});

/** A part may be there once more. */
export const repeatLonger = repeats('a part may be there once more', ({ repeat, from, to }) =>
  to === Number.POSITIVE_INFINITY ? null : { repeat, from, to: to + 1 },
);
/** A part may be there once less. */
export const repeatShorter = repeats('a part may be there once less', ({ repeat, from, to }) =>
  from === 0 ? null : { repeat, from: from - 1, to },
);

type Repeat = Extract<PatternTree, { repeat: unknown }>;

function changing(words: string, change: Change): Rewriting {
  return (model) =>
    each(model, words, ({ source, flags }, tree) => {
      const changed = change(source, tree);
      return changed === null || changed === source ? null : { source: changed, flags };
    });
}

function classes(words: string, more: Ranges, fits: (on: Ranges) => boolean): Rewriting {
  return (model) =>
    eachPlace(model, words, (tree) =>
      'one' in tree && fits(tree.one) ? { one: normalise([...tree.one, ...more]) } : null,
    );
}

function repeats(words: string, change: (tree: Repeat) => PatternTree | null): Rewriting {
  return (model) => eachPlace(model, words, (tree) => ('repeat' in tree ? change(tree) : null));
}

/** The first and the last place of a pattern where a change can be made. */
function eachPlace(
  model: Schema[number],
  words: string,
  change: (tree: PatternTree) => PatternTree | null,
): readonly Rewrite[] {
  return ['first', 'last'].flatMap((which) =>
    each(model, `${words} (the ${which})`, ({ flags }, tree) => {
      const count = placesIn(tree, change);
      if (count === 0 || (which === 'last' && count === 1)) return null;
      const at = which === 'first' ? 0 : count - 1;
      return { source: printPattern(changedAt(tree, change, at)), flags: flags.replace('i', '') };
    }),
  );
}

function placesIn(tree: PatternTree, change: (tree: PatternTree) => PatternTree | null): number {
  const own = change(tree) === null ? 0 : 1;
  return own + inside(tree).reduce((sum, one) => sum + placesIn(one, change), 0);
}

function inside(tree: PatternTree): readonly PatternTree[] {
  if ('sequence' in tree) return tree.sequence;
  if ('either' in tree) return tree.either;
  return 'repeat' in tree ? [tree.repeat] : [];
}

function changedAt(tree: PatternTree, change: (tree: PatternTree) => PatternTree | null, wanted: number): PatternTree {
  let at = 0;
  const visit = (one: PatternTree): PatternTree => {
    const changed = change(one);
    if (changed !== null && at++ === wanted) return changed;
    if ('sequence' in one) return { sequence: one.sequence.map(visit) };
    if ('either' in one) return { either: one.either.map(visit) };
    return 'repeat' in one ? { ...one, repeat: visit(one.repeat) } : one;
  };
  return visit(tree);
}

/** Every declared pattern, changed; what is not regular stays as it is. */
function each(
  model: Schema[number],
  words: string,
  change: (pattern: Pattern, tree: PatternTree) => Pattern | null,
): readonly Rewrite[] {
  return facetsNamed(model, 'pattern').flatMap(({ field, value, constraint }) => {
    const pattern = value as unknown as Pattern;
    const tree = treeOf(pattern);
    const changed = tree === null ? null : change(pattern, tree);
    if (changed === null) return [];
    return [{ model: withFacets(model, field.path, { pattern: changed }), words, constraint: constraint.id }];
  });
}

function treeOf(pattern: Pattern): PatternTree | null {
  try {
    return readPattern(pattern);
  } catch (error) {
    if (error instanceof NotRegular) return null;
    throw error;
  }
}

function touches(a: Ranges, b: Ranges): boolean {
  return a.some(([from, to]) => b.some(([low, high]) => low <= to && from <= high));
}
