import type { OperatorName, Path, Pattern, Predicate, PredicateOf, Row, Term, Value } from '../model/index.js';

/** Kleene's three truth values; null is "unknown", which breaks no rule, as in SQL's CHECK. */
export type Truth = boolean | null;

/** What an operator may ask of the record that it is judged on. Paths through a list mean the item at hand. */
export interface Judging {
  value(path: Path): Value;
  /** How many items a list has. */
  count(list: Path): number;
  /** The same record with one item of a list at hand. */
  within(list: Path, index: number): Judging;
  /** The first item of a list that has a value at a path within it; -1 where none has. */
  firstWith(list: Path, path: Path, value: Value): number;
  /** Which item of a list is at hand. */
  indexIn(list: Path): number;
  /** Another record of the same ruleset, as it is stored. */
  on(row: Row): Judging;
  /** A pattern that a whole value is held against. */
  matcher(pattern: Pattern): RegExp;
  term(term: Term): Value;
  truth(predicate: Predicate): Truth;
  /** The field was given, but not in the grammar of its kind. */
  refusedAtDecode(path: Path): boolean;
  notCanonical(path: Path): boolean;
  /** Keys that are not declared came in; more came in than the limits allow. */
  readonly hasUnknownKeys: boolean;
  readonly overLimits: boolean;
  /** The day in the clock's zone, and the moment. */
  readonly clock: { readonly today: string; readonly now: string };
  /** Calls the function of a custom rule. */
  call(name: string, values: readonly Value[]): unknown;
  /** The ruleset whose record is judged. */
  readonly ruleset: string;
  /** The other rows of this ruleset, or the rows of another; null where no store is at hand. */
  stored(ruleset: string | null): readonly Row[] | null;
}

/** What mentions may be asked of: predicates and terms know each other only through this. */
export interface Mentioning {
  predicate(predicate: Predicate): readonly Path[];
  term(term: Term): readonly Path[];
}

/** One operator of the rule language: the fields that it mentions, in order, and its meaning. */
export interface Operator<O extends OperatorName> {
  mentions(predicate: PredicateOf<O>, inside: Mentioning): readonly Path[];
  judge(predicate: PredicateOf<O>, judging: Judging): Truth;
}

/** The judgings of each item of a list. */
export function items(list: Path, judging: Judging): readonly Judging[] {
  return Array.from({ length: judging.count(list) }, (_, index) => judging.within(list, index));
}
