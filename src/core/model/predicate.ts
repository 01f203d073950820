import type { Domain } from './field.js';
import type { Path, Pattern, Value } from './value.js';

/** Something with a value: a field, a literal, or the length of a text in code points. */
export type Term =
  | { readonly field: Path }
  | { readonly literal: Value; readonly domain: Domain }
  | { readonly lengthOf: Term };

export type Comparator = '=' | '<' | '<=' | '>' | '>=';

/** The one list of operators: a new line makes the compiler name every table that lacks it. */
export interface Operators {
  /** Every key of the record is a declared one, and the record is a record. */
  closed: { readonly keys: readonly Path[] };
  /** What came in is in the grammar of the field's kind on its wire. */
  typed: { readonly of: Path };
  /** What came in is already in canonical form; asked on the row wire only. */
  canonical: { readonly of: Path };
  given: { readonly of: Path };
  compare: { readonly left: Term; readonly by: Comparator; readonly right: Term; readonly domain: Domain };
  member: { readonly of: Term; readonly among: readonly Value[] };
  matches: { readonly of: Term; readonly pattern: Pattern };
  and: { readonly all: readonly Predicate[] };
  or: { readonly any: readonly Predicate[] };
  not: { readonly holds: Predicate };
  unique: { readonly of: readonly Path[] };
  refersTo: { readonly of: Path; readonly to: string; readonly key: Path };
}
export type OperatorName = keyof Operators;
export type PredicateOf<O extends OperatorName> = { readonly op: O } & Operators[O];
export type Predicate = { [O in OperatorName]: PredicateOf<O> }[OperatorName];

/** One entry an operator: `satisfies PerOperator<...>` makes a missing one a compile error. */
export type PerOperator<C, R> = { readonly [O in OperatorName]: (predicate: PredicateOf<O>, context: C) => R };

/** Looks the predicate's operator up in a table. The one cast that the mapped type can't express. */
export function perOperator<C, R>(table: PerOperator<C, R>, predicate: Predicate, context: C): R {
  return (table[predicate.op] as (predicate: Predicate, context: C) => R)(predicate, context);
}
