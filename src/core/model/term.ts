import type { Domain } from './field.js';
import type { Predicate } from './predicate.js';
import type { Path, Value } from './value.js';

/** The one list of terms, things with a value: a new line makes the compiler name every table that lacks it. */
export interface Terms {
  field: { readonly path: Path };
  literal: { readonly value: Value; readonly domain: Domain };
  /** The day in the clock's zone, or the moment. */
  clock: { readonly reads: 'today' | 'now' };
  sum: { readonly of: readonly [Term, Term] };
  difference: { readonly of: readonly [Term, Term] };
  product: { readonly of: readonly [Term, Term] };
  /** The length of a text in code points. */
  length: { readonly of: Term };
  /** The place of a code in the declared order, from 0. */
  rank: { readonly of: Term; readonly among: readonly Value[] };
  /** How many items a list has, or how many of them hold. */
  count: { readonly over: Path; readonly where: Predicate | null };
  /** The sum of a term over the items of a list. */
  total: { readonly over: Path; readonly of: Term };
  /** Days from the first to the second. */
  days: { readonly of: readonly [Term, Term] };
  /** Whole months from the first to the second. */
  months: { readonly of: readonly [Term, Term] };
  /** Seconds from the first time of day to the second. */
  seconds: { readonly of: readonly [Term, Term] };
  /** The year of a day. */
  year: { readonly of: Term };
  /** A text as part of an address: small letters, digits and single hyphens. */
  slug: { readonly of: Term };
}
export type TermName = keyof Terms;
export type TermOf<N extends TermName> = { readonly term: N } & Terms[N];
export type Term = { [N in TermName]: TermOf<N> }[TermName];

/** One entry a term: `satisfies PerTerm<...>` makes a missing one a compile error. */
export type PerTerm<C, R> = { readonly [N in TermName]: (term: TermOf<N>, context: C) => R };

/** Looks the term up in a table. The one cast that the mapped type can't express. */
export function perTerm<C, R>(table: PerTerm<C, R>, term: Term, context: C): R {
  return (table[term.term] as (term: Term, context: C) => R)(term, context);
}

export function fieldTerm(path: Path): TermOf<'field'> {
  return { term: 'field', path };
}

export function literalTerm(value: Value, domain: Domain): TermOf<'literal'> {
  return { term: 'literal', value, domain };
}
