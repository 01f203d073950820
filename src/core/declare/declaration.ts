import type { Storage } from '../model/index.js';
import type { Fields } from './definition.js';
import type { AnyTerm, Handle } from './expressions.js';
import type { HandlesOf } from './handle-types.js';
import type { AnyRule } from './rules.js';

export interface Declaration<F extends Fields, Key extends string | null> {
  readonly fields: F;
  /** The field that names a record to the database; without it the table counts an `id` of its own. */
  readonly key?: Key;
  /** The field that names a record to a person. */
  readonly called?: keyof F & string;
  readonly table?: string;
  readonly label?: string;
  /** The IANA time zone that `today()` is read in; UTC unless told. */
  readonly zone?: string;
  /** Keys that are passed over: form tokens, names of buttons. */
  readonly ignore?: readonly string[];
  /** What becomes of keys that are not declared: they are refused unless told. */
  readonly undeclared?: 'refuse' | 'drop';
  /** How its fields are stored, where they don't say it themselves. */
  readonly storage?: Storage;
  /** What the fields that are `generated: 'derived'` are worked out by. */
  readonly derived?: (it: HandlesOf<F>) => { readonly [name: string]: AnyTerm };
  /** Named rules over the fields; every name becomes an error code and a constraint's name. */
  readonly rules?: (it: HandlesOf<F>) => { readonly [name: string]: AnyRule };
  /** Indexes that are no rules, for look-ups: the fields of each by name. */
  readonly indexes?: (it: HandlesOf<F>) => { readonly [name: string]: readonly Handle[] };
}

/** A function over handles, without their types: `lower` makes the ones that it is given. */
type Over<T> = (it: never) => { readonly [name: string]: T };

/** Any declaration, without its types. */
export interface AnyDeclaration {
  readonly fields: Fields;
  readonly key?: string | null;
  readonly called?: string;
  readonly table?: string;
  readonly label?: string;
  readonly zone?: string;
  readonly ignore?: readonly string[];
  readonly undeclared?: 'refuse' | 'drop';
  readonly storage?: Storage;
  readonly derived?: Over<AnyTerm>;
  readonly rules?: Over<AnyRule>;
  readonly indexes?: Over<readonly Handle[]>;
}
