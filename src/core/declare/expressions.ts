import type { Domain, Path, Place, Predicate, RuleFunction, Term } from '../model/index.js';
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

/** A custom rule before it is lowered: its function goes where the model keeps functions, under the rule's name. */
export interface WithFunction {
  readonly function: RuleFunction;
}

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

/**
 * What a handle is about, under a symbol, so that a record's handle has no other keys than its fields' names. The
 * handle of a field that `path` names; of a term that is worked out it is null.
 */
export const about: unique symbol = Symbol('about');
export interface About<D extends Domain, V, P extends Path | null = Path | null> {
  readonly [about]: { readonly domain: D; readonly path: P; readonly term: Term; readonly value?: V };
}
export type AnyTerm = About<Domain, unknown>;
/** The handle of a field: what a rule can blame, and a look-up can name. */
export type Handle<V = unknown> = About<Domain, V, Path>;
export type ValueOfHandle<H> = H extends { readonly [about]: { readonly value?: infer V } } ? V : never;

/** The path of a field by its handle. */
export function pathOf(handle: Handle): Path {
  return handle[about].path;
}

function given(handles: readonly Handle[], from: number, to: number): Expression {
  return expressionOf({ op: 'givenCount', of: handles.map(pathOf), from, to }, placeOfCaller(2));
}

/** So many of the fields are given, or more. Two-valued: it is never unknown. */
export function atLeastGiven(count: number, ...of: readonly Handle[]): Expression {
  return given(of, count, of.length);
}

/** Just so many of the fields are given. */
export function exactlyGiven(count: number, ...of: readonly Handle[]): Expression {
  return given(of, count, count);
}

/** So many of the fields are given, or fewer. */
export function atMostGiven(count: number, ...of: readonly Handle[]): Expression {
  return given(of, 0, count);
}

/** The values that a function is called with: one a handle, none of them absent. */
export type ValuesOf<H extends readonly Handle[]> = {
  readonly [K in keyof H]: Exclude<ValueOfHandle<H[K]>, undefined>;
};

/**
 * A rule in a plain function of its own, called only where all the fields are given. It must need nothing from around
 * it: it runs in the page and in the server, from its own text. No database can hold it.
 */
export function custom<const H extends readonly [Handle, ...Handle[]]>(
  of: H,
  holds: (...values: ValuesOf<H>) => boolean,
): Expression {
  const predicate: Predicate & WithFunction = {
    op: 'custom',
    of: of.map(pathOf),
    name: '',
    function: holds as unknown as RuleFunction,
  };
  return expressionOf(predicate, placeOfCaller(1));
}
