import type { Path, Place, Predicate } from '../model/index.js';
import type { Expression, Handle } from './expressions.js';
import { placeOfCaller } from './place.js';

/** An expression with the field it blames and the message for a person. */
export interface Rule {
  readonly holds: Expression;
  readonly blame: Path | null;
  readonly message: string | null;
  readonly place: Place;
}
/** A rule over the stored records; it stands alone, never inside another expression. */
export interface Lookup {
  readonly lookup: Predicate;
  readonly place: Place;
}
export type AnyRule = Expression | Rule | Lookup;

/**
 * A rule with words of its own. `blame` is the field that the message appears at: one that the expression mentions;
 * without it, the field that the expression begins with.
 */
export function rule(said: { readonly holds: Expression; readonly blame?: Handle; readonly message?: string }): Rule {
  const { holds, blame, message } = said;
  return { holds, blame: blame?.path ?? null, message: message ?? null, place: placeOfCaller(1) };
}

/**
 * No two stored records with the same value, or the same values together. Judged on canonical values by code point;
 * absent values never collide.
 */
export function unique(...of: readonly [Handle, ...Handle[]]): Lookup {
  return { lookup: { op: 'unique', of: of.map(({ path }) => path) }, place: placeOfCaller(1) };
}
