import { ProblemError, problems } from '../messages/index.js';
import type { AnyDeclaration } from './declaration.js';
import type { AnyDefinition, Fields } from './definition.js';
import type { AnyTerm, Handle } from './expressions.js';
import type { HandlesOf } from './handle-types.js';
import { placeOfCaller } from './place.js';
import type { AnyRule } from './rules.js';
import { rulesetAt } from './ruleset.js';
import type { AnyRuleset, Ruleset } from './types.js';

/** Fields of a base by name, said anew. */
type Changes<F> = { readonly [K in keyof F]?: AnyDefinition };

/** The fields of a base with those that are added, and those that are said anew in place of the old. */
type Changed<F extends Fields, A extends Fields, C> = {
  readonly [K in keyof F | keyof A]: K extends keyof C
    ? Extract<C[K], AnyDefinition>
    : K extends keyof A
      ? A[K]
      : K extends keyof F
        ? F[K]
        : never;
};

/** What an extension says beside its base: fields more, fields in place of those of the same name, rules more. */
export interface Extension<F extends Fields, A extends Fields, C extends Changes<F>> {
  /** Fields that the base hasn't got. */
  readonly add?: A;
  /** Fields of the base, said anew. */
  readonly change?: C;
  readonly table?: string;
  readonly label?: string;
  readonly derived?: (it: HandlesOf<Changed<F, A, C>>) => { readonly [name: string]: AnyTerm };
  readonly rules?: (it: HandlesOf<Changed<F, A, C>>) => { readonly [name: string]: AnyRule };
  readonly indexes?: (it: HandlesOf<Changed<F, A, C>>) => { readonly [name: string]: readonly Handle[] };
}

type FieldsOf<R extends AnyRuleset> = R['fields'];

/**
 * A ruleset that begins with all that another says: its fields, its rules, its key. The base stays as it is.
 *
 * @throws ProblemError for a changed field that the base hasn't got (any more), an added one that it has, and a rule of
 *   a name that it uses
 */
export function extend<
  const Base extends AnyRuleset,
  const Name extends string,
  const A extends Fields = Record<never, never>,
  const C extends Changes<FieldsOf<Base>> = Record<never, never>,
>(
  base: Base,
  name: Name,
  extension: Extension<FieldsOf<Base>, A, C>,
): Ruleset<Name, Changed<FieldsOf<Base>, A, C>, Base['key']> {
  const place = placeOfCaller(1);
  const { add = {}, change = {}, derived, rules, indexes, ...said } = extension as unknown as AnyExtension;
  const before = base.declaration;
  const had = Object.keys(before.fields).join(', ');
  const found = [
    ...Object.keys(change).flatMap((field) =>
      Object.hasOwn(before.fields, field) ? [] : [problems.extensionGone(place, name, field, base.name, had)],
    ),
    ...Object.keys(add).flatMap((field) =>
      Object.hasOwn(before.fields, field) ? [problems.extensionTwice(place, name, field, base.name)] : [],
    ),
  ];
  if (found.length > 0) throw new ProblemError(found);
  const both = <T>(first: Over<T> | undefined, second: Over<T> | undefined): Over<T> => {
    return (it) => {
      const [a, b] = [first?.(it) ?? {}, second?.(it) ?? {}];
      const twice = Object.keys(a).filter((one) => Object.hasOwn(b, one));
      if (twice.length > 0) throw new ProblemError(twice.map((one) => problems.nameRepeated(place, one)));
      return { ...a, ...b };
    };
  };
  const { table: _, label: __, ...kept } = before;
  const declaration: AnyDeclaration = {
    ...kept,
    ...said,
    fields: { ...before.fields, ...change, ...add },
    derived: both(before.derived, derived),
    rules: both(before.rules, rules),
    indexes: both(before.indexes, indexes),
  };
  return rulesetAt(name, declaration, place) as unknown as Ruleset<Name, Changed<FieldsOf<Base>, A, C>, Base['key']>;
}

type Over<T> = (it: never) => { readonly [name: string]: T };
type AnyExtension = Partial<AnyDeclaration> & { readonly add?: Fields; readonly change?: Fields };
