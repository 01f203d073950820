import type { Schema } from '../../declare/index.js';
import { type Problem, problems } from '../../messages/index.js';
import type { Constraint, Pattern } from '../../model/index.js';
import {
  type Automaton,
  alphabetOf,
  type Positions,
  patternsIn,
  printPattern,
  safeFormOf,
} from '../../reason/index.js';
import { call, type Js, literal } from './tree.js';

/**
 * What tests a whole value against a pattern, with a method `test`: the pattern itself, or an equal one, where it is proved that
 * matching it takes time in proportion to the text, otherwise a table, or its positions, which take one step a character.
 */
export function matcherJs(pattern: Pattern): Js {
  const safe = safeFormOf(pattern);
  if (safe.form === 'table') return tableJs(safe.automaton);
  if (safe.form === 'positions') return positionsJs(safe.positions);
  if (safe.form === 'tree') return { regex: { source: `^(?:${printPattern(safe.tree)})$`, flags: 'u' } };
  return { regex: { source: `^(?:${pattern.source})$`, flags: pattern.flags } };
}

/** The steps that following a pattern's positions may take for one text: about a twentieth of a second. */
const MOST_STEPS = 200_000;
/** A text without a maximum length is taken to be so long. */
const LONG_TEXT = 50_000;

/** A pattern takes too many steps for the longest text that is held against it. */
function tooManySteps({ follow }: Positions, constraint: Constraint, longest: number): readonly Problem[] {
  const steps = follow.reduce((sum, ways) => sum + ways.size, 0);
  if (steps * longest <= MOST_STEPS) return [];
  const { id, place } = constraint;
  return [problems.patternTooSlow(place, id, String(steps), String(longest), String(Math.floor(MOST_STEPS / steps)))];
}

/** The maximum length of the text that a facet's pattern is held against. */
function longestFor({ id, facet, owner }: Constraint, constraints: readonly Constraint[]): number {
  const longest = constraints.find((one) => facet && one.owner === owner && one.id.endsWith('.maxLength'));
  const { predicate } = longest ?? {};
  if (!id.endsWith('.pattern') || predicate?.op !== 'compare' || predicate.right.term !== 'literal') return LONG_TEXT;
  return Math.min(LONG_TEXT, Number(predicate.right.value));
}

/**
 * Patterns that there is no matcher for whose time is proportional to the text. What no automaton can hold at all, such as
 * a backreference, is left to the RegExp as it is.
 */
export function unsafePatterns(schema: Schema): readonly Problem[] {
  return schema.flatMap(({ constraints }) =>
    constraints.filter(isMatchedHere).flatMap((constraint) =>
      patternsIn(constraint.predicate).flatMap((pattern) => {
        const { id, place } = constraint;
        const safe = safeFormOf(pattern);
        if (safe.form === 'none' && safe.isRegular) return [problems.patternTooLarge(place, id, safe.why)];
        if (safe.form !== 'positions') return [];
        return tooManySteps(safe.positions, constraint, longestFor(constraint, constraints));
      }),
    ),
  );
}

/** What the database alone holds stands in no module. */
function isMatchedHere({ enforcedIn }: Constraint): boolean {
  return enforcedIn.some((enforcer) => enforcer !== 'database');
}

function tableJs({ states }: Automaton): Js {
  const moves = states.flatMap((state) => state.moves);
  const { starts, classes, sets } = alphabetOf(moves.map(({ on }) => on));
  const width = Math.max(0, ...classes) + 1;
  let at = 0;
  const next = states.map((state) => {
    const row = Array.from({ length: width }, () => -1);
    for (const { to } of state.moves) for (const set of sets[at++] ?? []) row[set] = to;
    return row;
  });
  const accepting = states.flatMap(({ accepts }, state) => (accepts ? [state] : []));
  return call('tableMatcher', literal(starts), literal(classes), literal(next), literal(accepting));
}

function positionsJs({ characters, first, follow, last, nullable, counts }: Positions): Js {
  const { starts, classes, sets } = alphabetOf(characters);
  const keys = (ways: ReadonlyMap<number, unknown>) => literal([...ways.keys()]);
  return call(
    'followMatcher',
    literal(starts),
    literal(classes),
    literal(sets),
    keys(first),
    literal(follow.map((ways) => [...ways.keys()])),
    keys(last),
    literal(nullable),
    literal(Object.fromEntries(counts)),
  );
}
