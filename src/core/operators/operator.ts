import type { OperatorName, Path, Predicate, PredicateOf, Row, Term, Value } from '../model/index.js';

/** Kleene's three truth values; null is "unknown", which breaks no rule, as in SQL's CHECK. */
export type Truth = boolean | null;

/** What an operator may ask of the record that it is judged on. */
export interface Judging {
  value(path: Path): Value;
  term(term: Term): Value;
  truth(predicate: Predicate): Truth;
  /** The field was given, but not in the grammar of its kind. */
  refusedAtDecode(path: Path): boolean;
  notCanonical(path: Path): boolean;
  strangeKeys(): readonly string[];
  /** The other rows of this ruleset, or the rows of another; null where no store is at hand. */
  stored(ruleset: string | null): readonly Row[] | null;
}

/** One operator of the rule language: the fields that it mentions, in order, and its meaning. */
export interface Operator<O extends OperatorName> {
  mentions(predicate: PredicateOf<O>, inside: (predicate: Predicate) => readonly Path[]): readonly Path[];
  judge(predicate: PredicateOf<O>, judging: Judging): Truth;
}

/** The fields that a term mentions. */
export function termMentions(term: Term): readonly Path[] {
  if ('field' in term) return [term.field];
  return 'lengthOf' in term ? termMentions(term.lengthOf) : [];
}
