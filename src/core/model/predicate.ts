import type { Domain } from './field.js';
import type { Term } from './term.js';
import type { Path, Pattern, Value } from './value.js';

export type Comparator = '=' | '<' | '<=' | '>' | '>=';

/** The one list of operators: a new line makes the compiler name every table that lacks it. */
export interface Operators {
  /** Every key of the record is a declared one. */
  closed: Record<never, never>;
  /** What came in is within the limits that protect who reads it. */
  bounded: Record<never, never>;
  /** What came in is in the grammar of the field's kind on its wire; '' is the record itself. */
  typed: { readonly of: Path };
  /** What came in is already in canonical form; asked on the row wire only. */
  canonical: { readonly of: Path };
  given: { readonly of: Path };
  /** So many of several are given. */
  givenCount: { readonly of: readonly Path[]; readonly from: number; readonly to: number };
  compare: { readonly left: Term; readonly by: Comparator; readonly right: Term; readonly domain: Domain };
  member: { readonly of: Term; readonly among: readonly Value[] };
  /** A whole multiple of a step, counted from zero. */
  multiple: { readonly of: Term; readonly step: string | number };
  matches: { readonly of: Term; readonly pattern: Pattern };
  /** One text within another. */
  includes: { readonly of: Term; readonly text: Term; readonly where: 'anywhere' | 'start' | 'end' };
  and: { readonly all: readonly Predicate[] };
  or: { readonly any: readonly Predicate[] };
  not: { readonly holds: Predicate };
  /** It holds of every item of a list. */
  each: { readonly over: Path; readonly holds: Predicate };
  /** It holds of one item or more. */
  some: { readonly over: Path; readonly holds: Predicate };
  /** No item before this one has the same value there. Judged item by item. */
  distinct: { readonly over: Path; readonly of: Path };
  unique: { readonly of: readonly Path[]; readonly fold: 'none' | 'case'; readonly among: Predicate | null };
  refersTo: { readonly of: Path; readonly to: string; readonly key: Path };
  /** A plain function over values that are all given. */
  custom: { readonly of: readonly Path[]; readonly name: string };
  /** A function of the server that may ask the world outside. */
  asks: { readonly of: readonly Path[]; readonly name: string };
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
