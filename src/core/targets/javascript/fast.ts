import { isTextual, type KnownField, oneLine, valueField } from '../../kinds/index.js';
import { mostUnits } from '../../meaning/index.js';
import type { Constraint, Pattern, Predicate } from '../../model/index.js';
import {
  damagedCharacters,
  factsOf,
  intersect,
  lineEndCharacters,
  NotRegular,
  type PatternFacts,
  type Ranges,
  readPattern,
  spaceCharacters,
} from '../../reason/index.js';
import { predicateTruths } from './predicates.js';
import type { Scope } from './scope.js';
import { all, binary, type Js, literal, member } from './tree.js';

/** A test that, where it holds, leaves nothing else to be asked of a text. */
export interface FastTest {
  readonly holds: Js;
  /** It can be asked of what came in: a text of which it holds is in canonical form already. */
  readonly direct: boolean;
  /** The pattern that a text which is not too long does not fit where the test does not hold; null where that is not sure. */
  readonly decides: string | null;
}

const CAPITALS: Ranges = [[0x41, 0x5a]];
const SMALL: Ranges = [[0x61, 0x7a]];
const NOT_ASCII: Ranges = [[0x80, 0x10ffff]];
const TWO_UNITS: Ranges = [[0x10000, 0x10ffff]];

/**
 * The fast test of a text field: its pattern, where every text of the pattern is undamaged and keeps the other facets,
 * or such that they can be asked cheaply. Null where there is none.
 */
export function fastTest(field: KnownField, value: Js, own: readonly Constraint[], scope: Scope): FastTest | null {
  if (!isTextual(field)) return null;
  const facets = own.filter(({ predicate }) => !['given', 'typed', 'canonical'].includes(predicate.op));
  for (const leading of facets) {
    const facts = leading.predicate.op === 'matches' ? readFacts(leading.predicate.pattern) : null;
    if (facts === null || intersect(facts.characters, damagedCharacters).length > 0) continue;
    const others = facets
      .filter((one) => one !== leading)
      .map((one) => ({ id: one.id, left: restOf(one.predicate, facts, value, scope) }));
    const rest = others.map(({ left }) => left);
    if (rest.includes(null)) continue;
    const bounded =
      facts.longest > mostUnits(valueField(field))
        ? [binary(member(value, 'length'), '<=', literal(mostUnits(field)))]
        : [];
    const tests = (rest as Js[]).filter(isTest);
    const isLength = (one: Js) => 'by' in one;
    // The length first: no pattern is held against a text that is too long.
    const holds = all(
      ...tests.filter(isLength),
      ...bounded,
      predicateTruths(leading.predicate, scope).isTrue,
      ...tests.filter((one) => !isLength(one)),
    );
    const isAlone = others.every(({ id, left }) => left === null || !isTest(left) || id.endsWith('.maxLength'));
    const decides = isAlone && leading.id.endsWith('.pattern') ? leading.id : null;
    return { holds, direct: isCanonicalAlready(valueField(field), facts), decides };
  }
  return null;
}

function isTest(js: Js): boolean {
  return !('literal' in js && js.literal === true);
}

function readFacts(pattern: Pattern): PatternFacts | null {
  try {
    return factsOf(readPattern(pattern));
  } catch (error) {
    if (error instanceof NotRegular) return null;
    throw error;
  }
}

/** What is left to ask of another facet; true where the pattern says it already, null where it can't be said cheaply. */
function restOf(predicate: Predicate, facts: PatternFacts, value: Js, scope: Scope): Js | null {
  if (predicate.op === 'compare' && predicate.left.term === 'length' && predicate.right.term === 'literal') {
    const limit = Number(predicate.right.value);
    const implied = predicate.by === '<=' ? facts.longest <= limit : facts.shortest >= limit;
    if (implied) return literal(true);
    if (intersect(facts.characters, TWO_UNITS).length > 0) return null;
    return binary(member(value, 'length'), predicate.by, literal(limit));
  }
  if (predicate.op !== 'matches') return null;
  const isOneLine = intersect(facts.characters, lineEndCharacters).length === 0;
  if (predicate.pattern.source === oneLine.source && isOneLine) return literal(true);
  return predicateTruths(predicate, scope).isTrue;
}

/** No step towards the canonical form changes any text of the pattern. */
function isCanonicalAlready({ facets }: KnownField, { characters, first, last, shortest }: PatternFacts): boolean {
  const apart = (a: Ranges, b: Ranges) => intersect(a, b).length === 0;
  return (
    shortest > 0 &&
    (facets.trim === false || (apart(first, spaceCharacters) && apart(last, spaceCharacters))) &&
    (facets.collapse !== true || apart(characters, spaceCharacters)) &&
    (facets.case !== 'lower' || apart(characters, CAPITALS)) &&
    (facets.case !== 'upper' || apart(characters, SMALL)) &&
    (facets.unicode !== 'NFC' || apart(characters, NOT_ASCII)) &&
    (facets.lines !== 'many' || apart(characters, lineEndCharacters))
  );
}
