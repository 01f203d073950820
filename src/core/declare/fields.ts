import { type Problem, ProblemError, problems } from '../messages/index.js';
import type { AnyDefinition, Definition, Fields } from './definition.js';
import type {
  BooleanOptions,
  ChoiceOptions,
  DateOptions,
  DecimalOptions,
  In,
  IntegerOptions,
  IpOptions,
  ListOptions,
  Optional,
  RecordOptions,
  ReferenceOptions,
  TextOptions,
  TextualOptions,
  TimeOfDayOptions,
  TimeOptions,
  Traits,
  UrlOptions,
  ValueOptions,
} from './field-options.js';
import { placeOfCaller } from './place.js';
import type { AcceptedFields, AnyRuleset, KeyValueOf, NameOf, Show } from './types.js';

function define(
  kind: AnyDefinition['definition'],
  options: object,
  within: Partial<AnyDefinition> = {},
): AnyDefinition {
  return {
    definition: kind,
    place: placeOfCaller(2),
    options: { ...options },
    fields: null,
    item: null,
    key: null,
    ...within,
  };
}

/** Text; blank text is absent. */
export function text<
  O extends Optional = false,
  D extends string | undefined = undefined,
  G extends 'derived' | undefined = undefined,
  const E extends In = In,
>(options: TextOptions<O, D, G, E> = {}): Definition<'text', string, Traits<O, D, G, E>> {
  return define('text', options);
}

/** An e-mail address as the HTML standard defines it, no longer than RFC 5321 allows. */
export function email<
  O extends Optional = false,
  D extends string | undefined = undefined,
  G extends 'derived' | undefined = undefined,
  const E extends In = In,
>(options: TextualOptions<O, D, G, E> = {}): Definition<'text', string, Traits<O, D, G, E>> {
  return define('email', options);
}

/** An absolute web address (RFC 3986), http or https unless told. */
export function url<
  O extends Optional = false,
  D extends string | undefined = undefined,
  G extends 'derived' | undefined = undefined,
  const E extends In = In,
>(options: UrlOptions<O, D, G, E> = {}): Definition<'text', string, Traits<O, D, G, E>> {
  return define('url', options);
}

/** A UUID (RFC 9562), in small letters. */
export function uuid<
  O extends Optional = false,
  D extends string | undefined = undefined,
  G extends 'uuid' | 'derived' | undefined = undefined,
  const E extends In = In,
>(options: ValueOptions<O, D, G, E> = {}): Definition<'text', string, Traits<O, D, G, E>> {
  return define('uuid', options);
}

/** An IP address, version 4 or 6. */
export function ip<
  O extends Optional = false,
  D extends string | undefined = undefined,
  G extends 'derived' | undefined = undefined,
  const E extends In = In,
>(options: IpOptions<O, D, G, E> = {}): Definition<'text', string, Traits<O, D, G, E>> {
  return define('ip', options);
}

/** A whole number within the safe integers of ECMAScript. */
export function integer<
  O extends Optional = false,
  D extends number | undefined = undefined,
  G extends 'identity' | 'derived' | undefined = undefined,
  const E extends In = In,
>(options: IntegerOptions<O, D, G, E> = {}): Definition<'number', number, Traits<O, D, G, E>> {
  return define('integer', options);
}

type Numeric = 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9 | 10 | 11 | 12 | 13 | 14 | 15;
type DecimalValue<P extends number> = P extends Numeric ? number : string;

/** An exact decimal number; arithmetic over it never rounds. */
export function decimal<
  const P extends number,
  O extends Optional = false,
  D extends DecimalValue<P> | undefined = undefined,
  G extends 'derived' | undefined = undefined,
  const E extends In = In,
>(options: DecimalOptions<P, O, D, G, E>): Definition<'number', DecimalValue<P>, Traits<O, D, G, E>> {
  return define('decimal', options);
}

/** A day of the proleptic Gregorian calendar, years 0001 to 9999; its value is text, `YYYY-MM-DD`. */
export function date<
  O extends Optional = false,
  D extends string | undefined = undefined,
  G extends 'derived' | undefined = undefined,
  const E extends In = In,
>(options: DateOptions<O, D, G, E> = {}): Definition<'date', string, Traits<O, D, G, E>> {
  return define('date', options);
}

/** A time of day; its value is text, `HH:MM:SS` and the fraction, or `HH:MM` where `seconds: 'none'`. */
export function time<
  O extends Optional = false,
  D extends string | undefined = undefined,
  G extends 'derived' | undefined = undefined,
  const E extends In = In,
>(options: TimeOfDayOptions<O, D, G, E> = {}): Definition<'time', string, Traits<O, D, G, E>> {
  return define('time', options);
}

/** A moment of the world's time; its value is text in UTC, `YYYY-MM-DDTHH:MM:SSZ`. */
export function timestamp<
  O extends Optional = false,
  D extends string | undefined = undefined,
  G extends 'created' | 'updated' | 'derived' | undefined = undefined,
  const E extends In = In,
>(options: TimeOptions<O, D, G, E> = {}): Definition<'instant', string, Traits<O, D, G, E>> {
  return define('timestamp', options);
}

/** A day and time without a zone, as a clock on the wall shows them; its value is text, `YYYY-MM-DDTHH:MM:SS`. */
export function dateTime<
  O extends Optional = false,
  D extends string | undefined = undefined,
  G extends 'derived' | undefined = undefined,
  const E extends In = In,
>(options: TimeOptions<O, D, G, E> = {}): Definition<'local', string, Traits<O, D, G, E>> {
  return define('dateTime', options);
}

/** True or false. An unticked box of a form is false where the field is required, absent where it is optional. */
export function boolean<
  O extends Optional = false,
  D extends boolean | undefined = undefined,
  G extends 'derived' | undefined = undefined,
  const E extends In = In,
>(options: BooleanOptions<O, D, G, E> = {}): Definition<'boolean', boolean, Traits<O, D, G, E>> {
  return define('boolean', options);
}

type Choices = { readonly [code: string]: string } | readonly (readonly [number, string])[];
type CodeOf<C> = C extends readonly (readonly [infer N, string])[] ? N : Extract<keyof C, string>;

/**
 * A closed list: labels by code, in display order; or pairs of a whole number and a label. A code is what is stored:
 * adding a choice in the middle shifts none.
 *
 * @throws ProblemError `choice_code` for a code that is number-like, empty or padded (JavaScript would move it), is no
 *   safe integer, or comes twice
 */
export function choice<
  const C extends Choices,
  Ordered extends boolean = false,
  O extends Optional = false,
  D extends CodeOf<C> | undefined = undefined,
  G extends 'derived' | undefined = undefined,
  const E extends In = In,
>(
  choices: C,
  options: ChoiceOptions<CodeOf<C>, Ordered, O, D, G, E> = {},
): Definition<'code', CodeOf<C>, Traits<O, D, G, E>, Ordered> {
  const definition = define('choice', {
    ...options,
    choices: Array.isArray(choices) ? choices : Object.entries(choices),
  });
  const codes = (definition.options.choices as readonly (readonly [unknown, unknown])[]).map(([code]) => code);
  const wrong = codes.filter((code, at) => codes.indexOf(code) !== at || !isCode(code, Array.isArray(choices)));
  const found: readonly Problem[] = wrong.map((code) => problems.choiceCode(definition.place, String(code)));
  if (found.length > 0) throw new ProblemError(found);
  return definition;
}

function isCode(code: unknown, integers: boolean): boolean {
  if (integers) return Number.isSafeInteger(code);
  return typeof code === 'string' && code.trim() === code && code !== '' && !/^[0-9]+$|[\u0000\ufffd]/.test(code);
}

/** A record within the record: it has no presence of its own. An optional one is absent when all its fields are. */
export function record<const F extends Fields, O extends Optional = false, const E extends In = In>(
  fields: F,
  options: RecordOptions<O, E> = {},
): Definition<'record', Show<AcceptedFields<F>>, Traits<O, undefined, undefined, E>, F> {
  return define('record', options, { fields });
}

/** A list of values, records or references; never absent, but perhaps empty. */
export function list<const I extends AnyDefinition, const E extends In = In>(
  item: I,
  options: ListOptions<E> = {},
): Definition<'list', readonly ItemValueOf<I>[], Traits<false, undefined, undefined, E>, I> {
  return define('list', options, { item });
}
type ItemValueOf<I> = I extends Definition<infer _D, infer V, infer _T, infer _W> ? V : never;

/**
 * The key of a stored record of another ruleset. It is written and stored as that key is. By name, with the key's
 * kind, for a ruleset that refers to itself and for circles.
 *
 * @throws ProblemError `reference_keyless` where the target has no key, `reference_unkeyed` for a name without a kind
 */
export function reference<const Target extends AnyRuleset, O extends Optional = false, const E extends In = In>(
  target: Target,
  options?: ReferenceOptions<O, E>,
): Definition<'reference', KeyValueOf<Target>, Traits<O, undefined, undefined, E>, NameOf<Target>>;
export function reference<
  const Name extends string,
  const K extends AnyDefinition,
  O extends Optional = false,
  const E extends In = In,
>(
  target: Name,
  key: K,
  options?: ReferenceOptions<O, E>,
): Definition<'reference', ItemValueOf<K>, Traits<O, undefined, undefined, E>, Name>;
export function reference(target: AnyRuleset | string, second: object = {}, third: object = {}): AnyDefinition {
  // The key of one that is named is looked up when the rulesets are put together.
  if (typeof target === 'string') {
    if (!('definition' in second)) throw new ProblemError([problems.referenceUnkeyed(placeOfCaller(1), target)]);
    return define('reference', { ...third, to: target, key: '' }, { key: second as AnyDefinition });
  }
  if (typeof target !== 'object' || target === null || !('model' in target))
    throw new ProblemError([problems.referenceUndefined(placeOfCaller(1))]);
  const { key, ruleset } = target.model;
  const item = key === null ? undefined : target.fields[key];
  if (item === undefined) throw new ProblemError([problems.referenceKeyless(placeOfCaller(1), ruleset)]);
  return define('reference', { ...second, to: ruleset, key }, { key: item });
}
