import type { Domain, Path } from '../model/index.js';
import type { AnyDefinition, CarriedBy, Fields } from './definition.js';
import type { About, Expression } from './expressions.js';

/** Decimal text stands for a number where a JavaScript number would not be exact. */
type Numeral = number | `${number}`;

interface Presence {
  given(): Expression;
  missing(): Expression;
}

interface TextMethods {
  /** The length in code points. */
  readonly length: NumberTerm;
  is(other: string | TextTerm): Expression;
  isOneOf(...values: readonly string[]): Expression;
  contains(part: string | TextTerm): Expression;
  startsWith(part: string | TextTerm): Expression;
  endsWith(part: string | TextTerm): Expression;
  /** The whole value is in the pattern's language. */
  matches(pattern: RegExp): Expression;
  /** No letter a–z is in it. */
  isUpperCase(): Expression;
  /** No letter A–Z is in it. */
  isLowerCase(): Expression;
  /** As part of an address: small letters, digits, single hyphens. */
  slug(): TextTerm;
}
interface NumberMethods<Literal> {
  is(other: Literal | NumberTerm): Expression;
  isOneOf(...values: readonly Literal[]): Expression;
  isLessThan(other: Literal | NumberTerm): Expression;
  isAtMost(other: Literal | NumberTerm): Expression;
  isMoreThan(other: Literal | NumberTerm): Expression;
  isAtLeast(other: Literal | NumberTerm): Expression;
  /** Exact: nothing is rounded. */
  plus(other: Literal | NumberTerm): NumberTerm;
  minus(other: Literal | NumberTerm): NumberTerm;
  times(other: Literal | NumberTerm): NumberTerm;
}
/** What has a place in time: ISO 8601 text, or another of the same domain. */
interface TimeMethods<T> {
  is(other: string | T): Expression;
  isOneOf(...others: readonly (string | T)[]): Expression;
  isBefore(other: string | T): Expression;
  isOnOrBefore(other: string | T): Expression;
  isAfter(other: string | T): Expression;
  isOnOrAfter(other: string | T): Expression;
}
interface DateMethods extends TimeMethods<DateTerm> {
  /** The year, from 1 to 9999. */
  readonly year: NumberTerm;
  /** Days from this day to the other; negative where the other is earlier. */
  daysUntil(other: string | DateTerm): NumberTerm;
  /** Whole months from this day to the other, counted towards zero. */
  monthsUntil(other: string | DateTerm): NumberTerm;
}
interface TimeOfDayMethods extends TimeMethods<TimeTerm> {
  /** Seconds from this time to the other on the same day; negative where the other is earlier. */
  secondsUntil(other: string | TimeTerm): NumberTerm;
}
interface CodeMethods<Code> {
  is(other: Code | CodeTerm<Code>): Expression;
  isOneOf(...codes: readonly Code[]): Expression;
}
/** By the declared order. */
interface OrderedMethods<Code> {
  isBelow(other: Code | CodeTerm<Code>): Expression;
  isAtMost(other: Code | CodeTerm<Code>): Expression;
  isAbove(other: Code | CodeTerm<Code>): Expression;
  isAtLeast(other: Code | CodeTerm<Code>): Expression;
}

/** Terms are told apart by their domain: comparing a date with a text does not compile. */
export interface TextTerm extends TextMethods, About<'text', string> {}
export interface NumberTerm extends NumberMethods<Numeral>, About<'number', unknown> {}
export interface DateTerm extends DateMethods, About<'date', string> {}
export interface InstantTerm extends TimeMethods<InstantTerm>, About<'instant', string> {}
export interface TimeTerm extends TimeOfDayMethods, About<'time', string> {}
export interface LocalTerm extends TimeMethods<LocalTerm>, About<'local', string> {}
export interface CodeTerm<Code> extends About<'code', Code> {}

/** Handles are the terms that a field's value is. */
export interface TextHandle extends TextMethods, Presence, About<'text', string, Path> {}
export interface NumberHandle<V>
  extends NumberMethods<V extends string ? Numeral : number>,
    Presence,
    About<'number', V, Path> {}
export interface DateHandle extends DateMethods, Presence, About<'date', string, Path> {}
export interface TimeHandle extends TimeOfDayMethods, Presence, About<'time', string, Path> {}
export interface InstantHandle extends TimeMethods<InstantTerm>, Presence, About<'instant', string, Path> {}
export interface LocalHandle extends TimeMethods<LocalTerm>, Presence, About<'local', string, Path> {}
export interface BooleanHandle extends Presence, About<'boolean', boolean, Path> {
  is(other: boolean | BooleanHandle): Expression;
}
export interface CodeHandle<Code> extends CodeMethods<Code>, Presence, About<'code', Code, Path> {}
export interface OrderedCodeHandle<Code> extends CodeHandle<Code>, OrderedMethods<Code> {}
export interface ReferenceHandle<Target extends string, V> extends Presence, About<'reference', V, Path> {
  /** Never there at run time: references to one ruleset can't be compared with those to another. */
  readonly to?: Target;
  is(other: V | ReferenceHandle<Target, V>): Expression;
  isOneOf(...keys: readonly V[]): Expression;
}
export interface ListHandle<Item> extends About<'list', unknown, Path> {
  /** It holds of every item; over none it is true. */
  each(holds: (item: Item) => Expression): Expression;
  /** It holds of one item or more; over none it is false. */
  some(holds: (item: Item) => Expression): Expression;
  /** How many items there are, or how many of them hold. */
  count(where?: (item: Item) => Expression): NumberTerm;
  /** The sum over the items; unknown where a part is absent. */
  sum(of: (item: Item) => NumberTerm): NumberTerm;
}

interface HandlesByDomain<V, Within> {
  text: TextHandle;
  number: NumberHandle<V>;
  date: DateHandle;
  time: TimeHandle;
  instant: InstantHandle;
  local: LocalHandle;
  boolean: BooleanHandle;
  code: Within extends true ? OrderedCodeHandle<V> : CodeHandle<V>;
  reference: ReferenceHandle<Within & string, V>;
  record: Within extends Fields ? HandlesOf<Within> : never;
  list: Within extends AnyDefinition ? ListHandle<HandleOf<Within>> : never;
}
export type HandleOf<D> =
  CarriedBy<D> extends { readonly domain: infer Of; readonly value: infer V; readonly within: infer W }
    ? Of extends Domain
      ? HandlesByDomain<V, W>[Of]
      : never
    : never;
/** What a rules function is given: one handle a field. */
export type HandlesOf<F extends Fields> = { readonly [K in keyof F]: HandleOf<F[K]> };
