import type { KindName } from '../kinds/index.js';
import type { Model } from '../model/index.js';
import type { Definition, Fields, IsOptional, ValueOf } from './definition.js';

/** A ruleset: its fields as they were written, and the model that everything else is made from. */
export interface Ruleset<Name extends string, F extends Fields, Key extends string | null> {
  readonly echoRule: 'ruleset';
  readonly name: Name;
  readonly key: Key;
  readonly fields: F;
  readonly model: Model<KindName>;
}

export type AnyRuleset = Ruleset<string, Fields, string | null>;

export type NameOf<R> = R extends Ruleset<infer Name, Fields, string | null> ? Name : never;
export type KeyValueOf<R> =
  R extends Ruleset<string, infer F, infer Key> ? (Key extends keyof F ? ValueOf<F[Key]> : never) : never;

type Show<T> = { [K in keyof T]: T[K] } & {};
type FieldsOf<R> = R extends Ruleset<string, infer F, string | null> ? F : never;

/** The canonical record: every declared key is there, absent is `null`. */
export type AcceptedOf<R> = Show<{
  -readonly [K in keyof FieldsOf<R>]: IsOptional<FieldsOf<R>[K]> extends true
    ? ValueOf<FieldsOf<R>[K]> | null
    : ValueOf<FieldsOf<R>[K]>;
}>;

type MayBeLeftOut<F, W extends 'json' | 'form'> = {
  [K in keyof F]: IsOptional<F[K]> extends true
    ? K
    : W extends 'form'
      ? F[K] extends Definition<'boolean', boolean, boolean>
        ? K
        : never
      : never;
}[keyof F];

type Sent<D, W extends 'json' | 'form'> = W extends 'form'
  ? string
  : IsOptional<D> extends true
    ? ValueOf<D> | null
    : ValueOf<D>;

/** What may be sent: on the form wire all text, and an unticked box sends nothing; optional keys may be left out. */
export type SubmittedOf<R, W extends 'json' | 'form' = 'json'> = Show<
  { -readonly [K in Exclude<keyof FieldsOf<R>, MayBeLeftOut<FieldsOf<R>, W>>]: Sent<FieldsOf<R>[K], W> } & {
    -readonly [K in MayBeLeftOut<FieldsOf<R>, W>]?: Sent<FieldsOf<R>[K], W>;
  }
>;
