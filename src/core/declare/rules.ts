import type { Enforcer, Path, Place, Predicate } from '../model/index.js';
import { type Expression, type Handle, pathOf } from './expressions.js';
import { placeOfCaller } from './place.js';

/** A rule over what is stored, or over the world outside; it stands alone, never inside another expression. */
export interface Lookup {
  readonly lookup: Predicate;
  readonly place: Place;
}
/** An expression with the field it blames, the message for a person, and where it is enforced. */
export interface Rule {
  readonly holds: Expression | Lookup;
  readonly blame: Path | null;
  readonly message: string | null;
  readonly enforcedIn: readonly Enforcer[] | null;
  readonly place: Place;
}
export type AnyRule = Expression | Rule | Lookup;

export interface UniqueLookup extends Lookup {
  /** A–Z and a–z are the same letters. */
  ignoringCase(): UniqueLookup;
  /** Only among the records for which it holds. */
  among(where: Expression): UniqueLookup;
}

/**
 * A rule with words of its own. `blame` is the field that the message appears at: one that the expression mentions;
 * without it, the field that the expression begins with. It is enforced wherever it can be unless `enforcedIn` says.
 */
export function rule(said: {
  readonly holds: Expression | Lookup;
  readonly blame?: Handle;
  readonly message?: string;
  readonly enforcedIn?: readonly Enforcer[];
}): Rule {
  const { holds, blame, message = null, enforcedIn = null } = said;
  return { holds, blame: blame === undefined ? null : pathOf(blame), message, enforcedIn, place: placeOfCaller(1) };
}

/**
 * No two stored records with the same value, or the same values together. Judged on canonical values by code point;
 * absent values never collide.
 */
export function unique(...of: readonly [Handle, ...Handle[]]): UniqueLookup {
  return uniqueLookup(of.map(pathOf), 'none', null, placeOfCaller(1));
}

function uniqueLookup(of: readonly Path[], fold: 'none' | 'case', among: Predicate | null, place: Place): UniqueLookup {
  return {
    lookup: { op: 'unique', of, fold, among },
    place,
    ignoringCase: () => uniqueLookup(of, 'case', among, place),
    among: (where) => uniqueLookup(of, fold, where.expression, place),
  };
}

/**
 * A rule that the server asks someone else about. What asks is a function that the server is given under the rule's name
 * (`lookUps`), so that nothing of it is in what a page gets; it is called with the values of the fields, last of all, on
 * fields with no other fault, and only where all of them are given.
 */
export function lookUp(of: readonly [Handle, ...Handle[]]): Lookup {
  return { lookup: { op: 'asks', of: of.map(pathOf), name: '' }, place: placeOfCaller(1) };
}
