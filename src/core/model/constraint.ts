import type { Field } from './field.js';
import type { Predicate } from './predicate.js';
import type { Path, Place } from './value.js';

/** The order in which a field's rules are told: what costs least first. */
export const stages = ['presence', 'form', 'comparison', 'lookup'] as const;
export type Stage = (typeof stages)[number];

/** A rule lowered to pure data. */
export interface Constraint {
  /** `<ruleset>.<field path>.<facet>` or `<ruleset>.<rule name>`: the error code everywhere. */
  readonly id: string;
  readonly place: Place;
  readonly stage: Stage;
  /** The fields it mentions. */
  readonly subjects: readonly Path[];
  /** The field its message appears at; '' is the record itself. */
  readonly blame: Path;
  /** True for a facet of the blamed field, false for a named rule. */
  readonly facet: boolean;
  readonly predicate: Predicate;
  readonly message: string;
}

/** One ruleset, lowered to pure data. Constraints stand in the order in which violations are told. */
export interface Model<K extends string = string> {
  readonly ruleset: string;
  readonly table: string;
  readonly label: string;
  readonly place: Place;
  readonly key: Path | null;
  readonly called: Path | null;
  readonly fields: { readonly [name: string]: Field<K> };
  readonly constraints: readonly Constraint[];
}

/** A field of a model by its path. Throws on a path that the model hasn't got: that is a fault of ours. */
export function fieldAt<K extends string>(model: Model<K>, path: Path): Field<K> {
  const field = Object.hasOwn(model.fields, path) ? model.fields[path] : undefined;
  if (field === undefined) throw new Error(`no field ${path} in ${model.ruleset}`);
  return field;
}
