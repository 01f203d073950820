import type { KindName } from '../kinds/index.js';
import type { Domain, Place } from '../model/index.js';

declare const carries: unique symbol;

/** A field before it has a name: what `text(…)` and its like return. */
export interface AnyDefinition {
  readonly definition: KindName;
  readonly place: Place;
  readonly options: { readonly [option: string]: unknown };
  /** Of a reference: the definition of the key that it holds. */
  readonly item: AnyDefinition | null;
}

/**
 * The same with its types: which handle it gets (its domain), what a canonical value is, whether it may be absent, and
 * what a reference points to.
 */
export interface Definition<D extends Domain, V, Optional extends boolean, Target extends string = string>
  extends AnyDefinition {
  /** Never there at run time: it ties the type parameters to the value. */
  readonly [carries]?: { readonly domain: D; readonly value: V; readonly optional: Optional; readonly target: Target };
}

/** Without type parameters, so that a definition written in place keeps its own. */
export type Fields = { readonly [name: string]: AnyDefinition };

export type ValueOf<D> = D extends Definition<Domain, infer V, boolean, string> ? V : never;
export type IsOptional<D> = D extends Definition<Domain, unknown, infer O, string> ? O : never;
