import type { Model, OperatorName, Path, Predicate, Term, Value } from '../model/index.js';
import { and } from './and.js';
import { asks } from './asks.js';
import { bounded } from './bounded.js';
import { canonical } from './canonical.js';
import { closed } from './closed.js';
import { compare } from './compare.js';
import { custom } from './custom.js';
import { distinct } from './distinct.js';
import { each } from './each.js';
import { given } from './given.js';
import { givenCount } from './givenCount.js';
import { includes } from './includes.js';
import { matches } from './matches.js';
import { member } from './member.js';
import { multiple } from './multiple.js';
import { not } from './not.js';
import type { Judging, Mentioning, Operator, Truth } from './operator.js';
import { or } from './or.js';
import { refersTo } from './refersTo.js';
import { some } from './some.js';
import { termMentions, termValue } from './terms.js';
import { typed } from './typed.js';
import { unique } from './unique.js';

/** The rule language: a new operator is a file beside this one, a line here, and one in the model's list. */
export const operators: { readonly [O in OperatorName]: Operator<O> } = {
  closed,
  bounded,
  typed,
  canonical,
  given,
  givenCount,
  compare,
  member,
  multiple,
  matches,
  includes,
  and,
  or,
  not,
  each,
  some,
  distinct,
  unique,
  refersTo,
  custom,
  asks,
};

const mentioning: Mentioning = { predicate: (predicate) => mentions(predicate), term: (term) => mentionsOf(term) };

/** The fields that a predicate mentions, as often as it does, in the order of its text. */
export function mentions(predicate: Predicate): readonly Path[] {
  return (operators[predicate.op] as Operator<typeof predicate.op>).mentions(predicate, mentioning);
}

/** The fields that a field's value comes from: itself, or of a derived one those that it is worked out from. */
export function sourcesOf(path: Path, { fields }: Pick<Model, 'fields'>): readonly Path[] {
  const derivation = Object.hasOwn(fields, path) ? (fields[path]?.derivation ?? null) : null;
  return derivation === null ? [path] : mentionsOf(derivation);
}

/** The fields that a term mentions. */
export function mentionsOf(term: Term): readonly Path[] {
  return termMentions(term, mentioning);
}

/** The truth of a predicate over a record. */
export function judge(predicate: Predicate, judging: Judging): Truth {
  return (operators[predicate.op] as Operator<typeof predicate.op>).judge(predicate, judging);
}

/** The value of a term over a record. */
export function valueOfTerm(term: Term, judging: Judging): Value {
  return termValue(term, judging);
}

/** True for what needs the stored rows or the world outside; it stands alone, never inside another, and comes last. */
export function isLookup(predicate: Predicate): boolean {
  return predicate.op === 'unique' || predicate.op === 'refersTo' || predicate.op === 'asks';
}

export { wholeValue } from './matches.js';
export type { Judging, Truth } from './operator.js';
export { foldCase, order } from './order.js';
export { slugOf } from './slug.js';
