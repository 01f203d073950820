import type { KindName } from '../kinds/index.js';
import type { Model } from '../model/index.js';
import type { AnyDeclaration } from './declaration.js';
import type { CarriedBy, Fields, TraitsOf, ValueOf } from './definition.js';

/** A ruleset: its fields as they were written, and the model that everything else is made from. */
export interface Ruleset<Name extends string, F extends Fields, Key extends string | null> {
  readonly echoRule: 'ruleset';
  readonly name: Name;
  readonly key: Key;
  readonly fields: F;
  /** As it was declared: what an extension starts from. */
  readonly declaration: AnyDeclaration;
  readonly model: Model<KindName>;
}

export type AnyRuleset = Ruleset<string, Fields, string | null>;

export type NameOf<R> = R extends Ruleset<infer Name, Fields, string | null> ? Name : never;
export type KeyValueOf<R> =
  R extends Ruleset<string, infer F, infer Key> ? (Key extends keyof F ? ValueOf<F[Key]> : never) : never;

/** Written out, as people read it. */
export type Show<T> = { [K in keyof T]: T[K] } & {};
type FieldsOf<R> = R extends { readonly fields: infer F } ? F : never;

type OrAbsent<D> = 'optional' extends TraitsOf<D> ? ValueOf<D> | null : ValueOf<D>;

/** The canonical values of fields: every declared key is there, absent is `null`. */
export type AcceptedFields<F> = {
  -readonly [K in keyof F as [Extract<TraitsOf<F[K]>, 'generated' | 'stored'>] extends [never] ? K : never]: OrAbsent<
    F[K]
  >;
};

/** The canonical record: every declared key is there, absent is `null`, and what nobody sends is left out. */
export type AcceptedOf<R> = Show<AcceptedFields<FieldsOf<R>>>;

/** What the table of a ruleset without a key counts its records by. */
type Counted<R> = R extends { readonly key: null } ? { id: number } : unknown;

/** The record as it is stored: with the fields that the store fills, or has alone. */
export type StoredOf<R> = Show<{ -readonly [K in keyof FieldsOf<R>]: OrAbsent<FieldsOf<R>[K]> } & Counted<R>>;

type Sendable<F> = keyof AcceptedFields<F>;

type MayBeLeftOut<F, W extends 'json' | 'form'> = {
  [K in Sendable<F>]: Extract<TraitsOf<F[K]>, 'optional' | 'defaulted'> extends never
    ? CarriedBy<F[K]>['domain'] extends 'list' | (W extends 'form' ? 'boolean' | 'record' : never)
      ? K
      : never
    : K;
}[Sendable<F>];

/** A record is sent as its own fields; a list as its items; on the form wire all else is text. */
type Sent<D, W extends 'json' | 'form'> = CarriedBy<D>['domain'] extends 'record'
  ? SubmittedFields<CarriedBy<D>['within'], W>
  : CarriedBy<D>['domain'] extends 'list'
    ? readonly Sent<CarriedBy<D>['within'], W>[]
    : W extends 'form'
      ? string
      : ValueOf<D>;

type SentOrAbsent<D, W extends 'json' | 'form'> = W extends 'form'
  ? Sent<D, W>
  : 'optional' extends TraitsOf<D>
    ? Sent<D, W> | null
    : Sent<D, W>;

type SubmittedFields<F, W extends 'json' | 'form'> = Show<
  { -readonly [K in Exclude<Sendable<F>, MayBeLeftOut<F, W>>]: SentOrAbsent<F[K], W> } & {
    -readonly [K in MayBeLeftOut<F, W>]?: SentOrAbsent<F[K], W>;
  }
>;

/** The names of controls in records and lists: they lead on to what is in them. */
interface ControlNames {
  readonly [control: `${string}[${string}` | `${string}.${string}`]: string | readonly string[] | undefined;
}

/**
 * What may be sent: optional and defaulted keys may be left out, generated ones are not declared. On the form wire all
 * is text, an unticked box sends nothing, and records and lists are sent under the names of their controls.
 */
export type SubmittedOf<R, W extends 'json' | 'form' = 'json'> = W extends 'form'
  ? FormOf<FieldsOf<R>>
  : SubmittedFields<FieldsOf<R>, W>;

type Composite<F> = {
  [K in Sendable<F>]: CarriedBy<F[K]>['domain'] extends 'record' | 'list' ? K : never;
}[Sendable<F>];
type FormOf<F> = Show<
  { -readonly [K in Exclude<Sendable<F>, MayBeLeftOut<F, 'form'> | Composite<F>>]: string } & {
    -readonly [K in Exclude<MayBeLeftOut<F, 'form'>, Composite<F>>]?: string;
  }
> &
  ([Composite<F>] extends [never] ? unknown : ControlNames);
