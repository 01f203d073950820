import { kindOf, targetOf, valueField } from '../kinds/index.js';
import { type Constraint, fieldAt, type Path, type Pattern } from '../model/index.js';
import {
  anyLength,
  fewest,
  nearMisses,
  type Routes,
  rangeWords,
  shortestLength,
  transitionWords,
  wordOfLength,
} from '../reason/index.js';
import { type Context, type Criterion, changed, type Draft, facetOf } from './context.js';
import { singleFields } from './places.js';

/** How much a pattern gets: texts that it accepts, and near misses. */
interface Budget {
  readonly words: number;
  readonly misses: number;
}
const DECLARED: Budget = { words: 16, misses: 64 };
/** A reference's key is tried at its own ruleset, too; a grammar of ours has edges of its own beside these. */
const REFERRED: Budget = { words: 4, misses: 48 };
const GRAMMAR: Budget = { words: 4, misses: 16 };

/** Texts that together take every move of the pattern's automaton, and texts one edit away that it refuses. */
export const patterns: Criterion = (context) =>
  singleFields(context.model).flatMap(({ path }) =>
    context.model.constraints
      .filter(({ owner, facet, predicate }) => facet && owner === path && predicate.op === 'matches')
      .flatMap((constraint) => aroundPattern(context, path, constraint)),
  );

function aroundPattern(context: Context, path: Path, { id, predicate }: Constraint): readonly Draft[] {
  const field = fieldAt(context.model, path);
  const isDeclared = id === facetOf(context, path, 'pattern');
  const isGrammar = id === facetOf(context, path, 'format');
  if (predicate.op !== 'matches' || !(isDeclared || isGrammar)) return [];
  const budget = isGrammar ? GRAMMAR : targetOf(field) === null ? DECLARED : REFERRED;
  const { words, misses, cut } = textsAround(context, id, predicate.pattern, path, budget);
  // A text that breaks another facet of the field, or is another text by the time it is checked, tells nothing of this.
  const isPlain = (text: string) => {
    const broken = context.brokenWith(path, text);
    return broken.every((rule) => rule === id) && isCanonical(context, path, text);
  };
  return [
    // Too short by the pattern, it may be too short by another facet as well.
    ...(cut === null || !isCanonical(context, path, cut)
      ? []
      : changed(context, { [path]: cut }, { constraint: id, reason: 'shorter than any text of the pattern' })),
    ...words
      .filter(isPlain)
      .flatMap((text) => changed(context, { [path]: text }, { constraint: id, reason: 'a text of the pattern' })),
    ...misses
      .filter(({ text }) => isPlain(text))
      .flatMap(({ text, words: reason }) => changed(context, { [path]: text }, { constraint: id, reason })),
  ];
}

/** Accepted and refused texts of a pattern, of the lengths that the field allows; what is left out is noted. */
function textsAround(
  context: Context,
  constraint: string,
  pattern: Pattern,
  path: Path,
  { words: most, misses }: Budget,
) {
  const whole = context.grammars.routesOf(pattern);
  if (whole === null) return { words: [], misses: [], cut: null };
  const routes = besides(context, path, pattern) ?? whole;
  const covering = fewest(routes.automaton, transitionWords(routes, 20 * most)).filter((word) => word !== '');
  const others = rangeWords(routes, most / 4).filter((word) => !covering.includes(word));
  const near = nearMisses(routes, misses);
  context.leaveOut(constraint, Math.max(covering.length - most, 0) + near.left);
  const shortest = shortestLength(whole.automaton, anyLength);
  const word = typeof shortest === 'object' ? wordOfLength(whole.automaton, shortest.length) : null;
  const cut = word === null ? '' : [...word].slice(0, -1).join('');
  return { words: [...covering.slice(0, most), ...others], misses: near.misses, cut: cut === '' ? null : cut };
}

/**
 * The ways through the texts of a pattern that a field allows: by its other patterns, and of a length from which one
 * character may be taken, where it has such texts; null where they have no automaton.
 */
function besides({ model, grammars }: Context, path: Path, pattern: Pattern): Routes | null {
  const others = model.constraints.flatMap(({ owner, facet, predicate }) =>
    facet && owner === path && predicate.op === 'matches' && predicate.pattern !== pattern ? [predicate.pattern] : [],
  );
  const { minLength, maxLength } = valueField(fieldAt(model, path)).facets;
  if (minLength === undefined) return grammars.together([pattern, ...others]);
  const most = Number(maxLength ?? Number.POSITIVE_INFINITY);
  const ofLength = (minimum: number) =>
    grammars.together([pattern, ...others, { source: `[^]{${minimum},}`, flags: 'u' }]);
  const longer = ofLength(Number(minLength) + 1);
  return longer !== null && longer.lengthFrom(0) <= most ? longer : ofLength(Number(minLength));
}

function isCanonical({ model }: Context, path: Path, text: string): boolean {
  const inner = valueField(fieldAt(model, path));
  return kindOf(inner).canonical(inner, text, kindOf) === text;
}
