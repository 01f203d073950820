import type { Term } from './term.js';
import type { Path, Place, Row, Value } from './value.js';

/**
 * What expressions can say of a value. Handles belong to domains, so that a new kind of a known domain needs no new
 * handle. `instant` is a moment of the world's time, `local` a day and time without a zone.
 */
export type Domain =
  | 'text'
  | 'number'
  | 'date'
  | 'time'
  | 'instant'
  | 'local'
  | 'boolean'
  | 'code'
  | 'reference'
  | 'record'
  | 'list';

/** Where rules can be enforced: in the page, in the server, in the database. */
export const enforcers = ['client', 'server', 'database'] as const;
export type Enforcer = (typeof enforcers)[number];

/** How a value is stored: in the type that people of an engine expect, or in one that alters nothing at all. */
export const storages = ['natural', 'strict'] as const;
export type Storage = (typeof storages)[number];

/** Who fills a field that a person never sends: the store by counting or at random, the clock, or an expression. */
export const generations = ['identity', 'uuid', 'created', 'updated', 'derived'] as const;
export type Generation = (typeof generations)[number];

/** How the column of somebody's table spells the values of a field, where that is not the engine's usual way. */
export interface ColumnForm {
  /** What the column holds for a value of the field; undefined where it has no form for what is none. */
  write(value: unknown): unknown;
  /** The value that a column's text is. */
  read(text: string): Value;
}

/** One field, lowered to data. */
export interface Field<K extends string = string> {
  readonly kind: K;
  /** From the ruleset down: `shelf.bay`; a list's item is `helpers[]`. */
  readonly path: Path;
  /** The last step of the path; '' for an item. */
  readonly name: string;
  readonly place: Place;
  readonly label: string;
  readonly hint: string | null;
  readonly optional: boolean;
  readonly column: string;
  readonly facets: Row;
  readonly enforcedIn: readonly Enforcer[];
  readonly storage: Storage;
  readonly default: Value;
  readonly generated: Generation | null;
  /** What a derived field is worked out by. */
  readonly derivation: Term | null;
  /** The field that holds what is stored instead of a secret; null where this is none. */
  readonly storedAs: string | null;
  /** What is typed is never shown: of a secret, and of what repeats one in a form. */
  readonly concealed: boolean;
  /** Of a table that was not made here; null where the engine's usual form serves. */
  readonly columnForm: ColumnForm | null;
  /** Of a record: the fields in it; null otherwise. */
  readonly fields: { readonly [name: string]: Field<K> } | null;
  /** Of a list: its item; null otherwise. */
  readonly item: Field<K> | null;
  /** Of a reference: the key's field, re-addressed to the place of the reference; null otherwise. */
  readonly key: Field<K> | null;
}

/** True for a field that somebody sends; what the store fills, or has alone, comes in from nobody. */
export function isSent({ generated, enforcedIn }: Pick<Field, 'generated' | 'enforcedIn'>): boolean {
  return generated === null && enforcedIn.some((enforcer) => enforcer !== 'database');
}

/** The secret that is stored in a field; undefined where none is. */
export function secretIn<F extends Field>(name: string, fields: { readonly [name: string]: F }): F | undefined {
  return Object.values(fields).find(({ storedAs }) => storedAs === name);
}

/** The name that the function of a secret has among the functions of its model. */
export function storingFunction(path: string): string {
  return `${path} as stored`;
}
