import type { Comparator, Domain, Path, Place, Predicate, Term, Value } from '../model/index.js';
import { mentions } from '../operators/index.js';
import type { Definition, Fields } from './definition.js';
import { placeOfCaller } from './place.js';

/** Something that holds, does not hold, or is unknown because a value is absent (Kleene's logic, as SQL's CHECK). */
export interface Expression {
  readonly expression: Predicate;
  readonly place: Place;
  and(other: Expression): Expression;
  or(other: Expression): Expression;
  /** Not this, or the other: broken only where this holds and the other does not. */
  implies(other: Expression): Expression;
}

interface Presence {
  given(): Expression;
  missing(): Expression;
}

/** Handles are told apart by their domain: comparing a date with a text does not compile. */
export interface TextHandle extends Presence {
  readonly domain: 'text';
  readonly path: Path;
  /** The length in code points. */
  readonly length: NumberTerm;
  is(other: string | TextHandle): Expression;
  isOneOf(...values: readonly string[]): Expression;
}
export interface NumberTerm {
  readonly domain: 'number';
  readonly term: Term;
  is(other: number | NumberTerm): Expression;
  isLessThan(other: number | NumberTerm): Expression;
  isAtMost(other: number | NumberTerm): Expression;
  isMoreThan(other: number | NumberTerm): Expression;
  isAtLeast(other: number | NumberTerm): Expression;
}
export interface NumberHandle extends Presence, NumberTerm {
  readonly path: Path;
}
export interface DateHandle extends Presence {
  readonly domain: 'date';
  readonly path: Path;
  is(other: string | DateHandle): Expression;
  isBefore(other: string | DateHandle): Expression;
  isOnOrBefore(other: string | DateHandle): Expression;
  isAfter(other: string | DateHandle): Expression;
  isOnOrAfter(other: string | DateHandle): Expression;
}
export interface BooleanHandle extends Presence {
  readonly domain: 'boolean';
  readonly path: Path;
  is(other: boolean | BooleanHandle): Expression;
}
export interface CodeHandle<Code> extends Presence {
  readonly domain: 'code';
  readonly path: Path;
  is(other: Code | CodeHandle<Code>): Expression;
  isOneOf(...codes: readonly Code[]): Expression;
}
export interface ReferenceHandle<Target extends string> extends Presence {
  readonly domain: 'reference';
  readonly path: Path;
  readonly to: Target;
  is(other: ReferenceHandle<Target>): Expression;
}

interface HandlesByDomain<V, Target extends string> {
  text: TextHandle;
  number: NumberHandle;
  date: DateHandle;
  boolean: BooleanHandle;
  code: CodeHandle<V>;
  reference: ReferenceHandle<Target>;
}
export type HandleOf<D> =
  D extends Definition<infer Of, infer V, boolean, infer Target> ? HandlesByDomain<V, Target>[Of] : never;
/** What a rules function is given: one handle a field. */
export type HandlesOf<F extends Fields> = { readonly [K in keyof F]: HandleOf<F[K]> };
export type Handle = { readonly domain: Domain; readonly path: Path };

/** Wraps a predicate. The place is where the rules function called the method that made it. */
export function expressionOf(predicate: Predicate, place: Place): Expression {
  const joined = (made: Predicate) => expressionOf(made, place);
  return {
    expression: predicate,
    place,
    and: (other) => joined({ op: 'and', all: [predicate, other.expression] }),
    or: (other) => joined({ op: 'or', any: [predicate, other.expression] }),
    implies: (other) => joined({ op: 'or', any: [{ op: 'not', holds: predicate }, other.expression] }),
  };
}

/** Holds where the expression does not; unknown stays unknown. */
export function not(expression: Expression): Expression {
  return expressionOf({ op: 'not', holds: expression.expression }, expression.place);
}

type Operand = Value | { readonly term: Term } | { readonly path: Path };

function termOf(operand: Operand, domain: Domain): Term {
  if (typeof operand === 'object' && operand !== null) {
    if ('term' in operand) return operand.term as Term;
    if ('path' in operand) return { field: operand.path as Path };
  }
  return { literal: operand as Value, domain };
}

type Method = (operand: Operand) => Expression;

function comparison(left: Term, by: Comparator, domain: Domain): Method {
  return (operand) =>
    expressionOf({ op: 'compare', left, by, right: termOf(operand, domain), domain }, placeOfCaller(1));
}

/** The methods that order two terms, under a domain's own words. */
function ordering(left: Term, domain: Domain, words: readonly [string, string, string, string]) {
  const [before, upTo, after, from] = words;
  return {
    [before]: comparison(left, '<', domain),
    [upTo]: comparison(left, '<=', domain),
    [after]: comparison(left, '>', domain),
    [from]: comparison(left, '>=', domain),
  };
}

const numberWords = ['isLessThan', 'isAtMost', 'isMoreThan', 'isAtLeast'] as const;
const dateWords = ['isBefore', 'isOnOrBefore', 'isAfter', 'isOnOrAfter'] as const;

function numberTerm(term: Term) {
  return { domain: 'number', term, is: comparison(term, '=', 'number'), ...ordering(term, 'number', numberWords) };
}

function oneOf(of: Term) {
  return (...among: readonly Value[]) => expressionOf({ op: 'member', of, among }, placeOfCaller(1));
}

const byDomain = {
  text: (of) => ({ isOneOf: oneOf(of), length: numberTerm({ lengthOf: of }) }),
  number: (of) => numberTerm(of),
  date: (of) => ordering(of, 'date', dateWords),
  boolean: () => ({}),
  code: (of) => ({ isOneOf: oneOf(of) }),
  reference: () => ({}),
} satisfies { readonly [D in Domain]: (of: Term) => object };

/** The handle of a field: `valueDomain` is the one its values are compared in (a reference's is its key's). */
export function handleOf(path: Path, domain: Domain, valueDomain: Domain): Handle {
  const given: Predicate = { op: 'given', of: path };
  return {
    domain,
    path,
    is: comparison({ field: path }, '=', valueDomain),
    given: () => expressionOf(given, placeOfCaller(1)),
    missing: () => expressionOf({ op: 'not', holds: given }, placeOfCaller(1)),
    ...byDomain[domain]({ field: path }),
  } as Handle;
}

/** The field that an expression begins with: the one that is blamed unless another is named. */
export function beginsWith(predicate: Predicate): Path {
  return mentions(predicate)[0] ?? '';
}
