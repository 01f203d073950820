import type { Schema } from '../../declare/index.js';
import { type Problem, problems } from '../../messages/index.js';
import type { Constraint, Pattern } from '../../model/index.js';
import { type Automaton, alphabetOf, type Positions, patternsIn, safeFormOf } from '../../reason/index.js';
import { call, type Js, literal } from './tree.js';

/**
 * What tests a whole value against a pattern, with a method `test`: the pattern itself where it is proved that matching it
 * takes time in proportion to the text, otherwise a table, or its positions, which take one step a character.
 */
export function matcherJs(pattern: Pattern): Js {
  const safe = safeFormOf(pattern);
  if (safe.form === 'table') return tableJs(safe.automaton);
  if (safe.form === 'positions') return positionsJs(safe.positions);
  return { regex: { source: `^(?:${pattern.source})$`, flags: pattern.flags } };
}

/**
 * Patterns that there is no matcher for whose time is proportional to the text. What no automaton can hold at all, such as
 * a backreference, is left to the RegExp as it is.
 */
export function unsafePatterns(schema: Schema): readonly Problem[] {
  return schema.flatMap(({ constraints }) =>
    constraints.filter(isMatchedHere).flatMap(({ id, place, predicate }) =>
      patternsIn(predicate).flatMap((pattern) => {
        const safe = safeFormOf(pattern);
        return safe.form === 'none' && safe.isRegular ? [problems.patternTooLarge(place, id, safe.why)] : [];
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
