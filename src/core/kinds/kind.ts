import type { Domain, Field, Path, Predicate, Row, Stage, Value, Wire } from '../model/index.js';

export type Decoded = { readonly value: Value } | { readonly refused: 'type' };
export const refused: Decoded = { refused: 'type' };

/** What an option of a kind must look like; checked when a declaration loads. */
export type FacetType =
  | 'count'
  | 'whole number'
  | 'positive whole number'
  | 'decimal'
  | 'positive decimal'
  | 'flag'
  | 'true'
  | 'ISO date'
  | 'ISO time'
  | 'ISO instant'
  | 'ISO local'
  | 'fraction digits'
  | 'no seconds'
  | 'time step'
  | 'pattern'
  | 'one or many'
  | 'letter case'
  | 'normal form'
  | 'charset'
  | 'schemes'
  | 'IP version'
  | 'choices'
  | 'target'
  | 'on delete'
  | 'distinct'
  | 'item field'
  | 'kept as table'
  | 'kept as enum'
  | 'kept as list';

/** A rule that a field's facet lowers to. `limit` is the facet's value, for the message. */
export interface FacetRule {
  readonly facet: string;
  readonly stage: Stage;
  readonly predicate: Predicate;
  readonly limit?: string | number;
  /** The field that it blames, and the one that it is judged with, where that is not the field itself. */
  readonly blame?: Path;
  readonly owner?: Path;
}

/** A value next to the limit of a facet. `words` say where it stands, for a case's reason. */
export interface Edge {
  readonly facet: string;
  readonly value: Value;
  readonly words: string;
}

/** Kinds reach the kinds inside them through this, never by import. */
export type Inner = (field: Field) => Kind;

/** One kind of value: everything that the rest of the library asks about it. */
export interface Kind {
  readonly domain: Domain;
  readonly facets: { readonly [name: string]: FacetType };
  /** Facets that every field of the kind has, and no declaration can say otherwise. */
  readonly fixed: Row;
  /** The grammar on each wire in words, for the docs. */
  readonly grammar: { readonly [W in Wire]: string };
  /** True for the text kinds, where '' and blank mean absent on the json wire too. */
  readonly blankIsAbsent: boolean;
  /** Of several entries of one name on the form wire: whether the last one counts; otherwise they are refused. */
  readonly lastEntryCounts: boolean;
  /** What a key that is missing from a whole form means. */
  whenMissingFromForm(field: Field): Value;
  /**
   * Reads one present value (never undefined, null, or '' on the form wire). Of a record and a list, only that it is
   * one: what is in it has kinds of its own.
   */
  decode(field: Field, input: unknown, wire: Wire, inner: Inner): Decoded;
  /** The one spelling of a value on a wire; decoding it gives the value back. */
  encode(field: Field, value: Exclude<Value, null>, wire: Wire, inner: Inner): Value;
  /** The canonical form; null where nothing is left. Twice gives the same as once. */
  canonical(field: Field, value: Exclude<Value, null>, inner: Inner): Value;
  /** The rules of its facets, in the order in which they are told; `required` and `type` are everyone's. */
  rules(field: Field, inner: Inner): readonly FacetRule[];
  edges(field: Field, inner: Inner): readonly Edge[];
  /** All its values where they are few; null where they are not. */
  values(field: Field, inner: Inner): readonly Exclude<Value, null>[] | null;
  /** A plausible value; different seeds give different values as far as there are any. Patterns are not obeyed. */
  sample(field: Field, seed: number, inner: Inner): Exclude<Value, null>;
}
