import type { OperatorName, Path, Predicate } from '../model/index.js';
import { and } from './and.js';
import { canonical } from './canonical.js';
import { closed } from './closed.js';
import { compare } from './compare.js';
import { given } from './given.js';
import { matches } from './matches.js';
import { member } from './member.js';
import { not } from './not.js';
import type { Judging, Operator, Truth } from './operator.js';
import { or } from './or.js';
import { refersTo } from './refersTo.js';
import { typed } from './typed.js';
import { unique } from './unique.js';

/** The rule language: a new operator is a file beside this one, a line here, and one in the model's list. */
export const operators: { readonly [O in OperatorName]: Operator<O> } = {
  closed,
  typed,
  canonical,
  given,
  compare,
  member,
  matches,
  and,
  or,
  not,
  unique,
  refersTo,
};

/** The fields that a predicate mentions, as often as it does, in the order of its text. */
export function mentions(predicate: Predicate): readonly Path[] {
  return (operators[predicate.op] as Operator<typeof predicate.op>).mentions(predicate, mentions);
}

/** The truth of a predicate over a record. */
export function judge(predicate: Predicate, judging: Judging): Truth {
  return (operators[predicate.op] as Operator<typeof predicate.op>).judge(predicate, judging);
}

/** True for what needs the stored rows; such a predicate stands alone, never inside another. */
export function isLookup(predicate: Predicate): boolean {
  return predicate.op === 'unique' || predicate.op === 'refersTo';
}

export { wholeValue } from './matches.js';
export type { Judging, Truth } from './operator.js';
export { order } from './order.js';
