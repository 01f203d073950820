import type { KindName } from '../kinds/index.js';
import type { Domain, Place } from '../model/index.js';

declare const carries: unique symbol;

/** A field before it has a name: what `text(…)` and its like return. */
export interface AnyDefinition {
  readonly definition: KindName;
  readonly place: Place;
  readonly options: { readonly [option: string]: unknown };
  /** Of a record: the fields in it. */
  readonly fields: Fields | null;
  /** Of a list: its item. */
  readonly item: AnyDefinition | null;
  /** Of a reference: the definition of the key that it holds. */
  readonly key: AnyDefinition | null;
}

/**
 * What makes a field other than plainly required: it may be absent, it has a default, nobody sends it, or only the
 * table has it.
 */
export type Trait = 'optional' | 'defaulted' | 'generated' | 'stored';

/**
 * A definition with its types: which handle it gets (its domain), what a canonical value is, its traits, and what is
 * within it: a reference's target, a record's fields, a list's item.
 */
export interface Definition<D extends Domain, V, T extends Trait = never, Within = unknown> extends AnyDefinition {
  /** Never there at run time: it ties the type parameters to the value. */
  readonly [carries]?: { readonly domain: D; readonly value: V; readonly traits: T; readonly within: Within };
}

/** Without type parameters, so that a definition written in place keeps its own. */
export type Fields = { readonly [name: string]: AnyDefinition };

interface Carried {
  readonly domain: Domain;
  readonly value: unknown;
  readonly traits: Trait;
  readonly within: unknown;
}
/** The type parameters of a definition, read at once: cheaper for the compiler than matching them one by one. */
export type CarriedBy<D> = D extends { readonly [carries]?: infer C } ? Extract<C, Carried> : never;
export type ValueOf<D> = CarriedBy<D>['value'];
export type TraitsOf<D> = CarriedBy<D>['traits'];
