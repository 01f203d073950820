import { daysBetween, monthsBetween, secondsBetween } from '../kinds/calendar.js';
import {
  add,
  type Exact,
  exactOf,
  exactText,
  multiply,
  type Path,
  type PerTerm,
  perTerm,
  subtract,
  type Term,
  type Value,
} from '../model/index.js';
import { items, type Judging, type Mentioning } from './operator.js';
import { slugOf } from './slug.js';

/** What each term is worth: null where a part of it is absent. Arithmetic gives decimal text, without rounding. */
const values: PerTerm<Judging, Value> = {
  field: ({ path }, judging) => judging.value(path),
  literal: ({ value }) => value,
  clock: ({ reads }, judging) => judging.clock[reads],
  sum: ({ of }, judging) => arithmetic(of, judging, add),
  difference: ({ of }, judging) => arithmetic(of, judging, subtract),
  product: ({ of }, judging) => arithmetic(of, judging, multiply),
  length: ({ of }, judging) => withText(judging.term(of), lengthOf),
  rank({ of, among }, judging) {
    const rank = among.indexOf(judging.term(of));
    return rank === -1 ? null : rank;
  },
  count({ over, where }, judging) {
    if (where === null) return judging.count(over);
    return items(over, judging).filter((item) => item.truth(where) === true).length;
  },
  total({ over, of }, judging) {
    const parts = items(over, judging).map((item) => exactOf(item.term(of)));
    const sum = parts.reduce((total, part) => (total === null || part === null ? null : add(total, part)), exactOf(0));
    return sum === null ? null : exactText(sum);
  },
  days: ({ of }, judging) => between(of, judging, daysBetween),
  months: ({ of }, judging) => between(of, judging, monthsBetween),
  seconds: ({ of }, judging) => between(of, judging, secondsBetween),
  year: ({ of }, judging) => withText(judging.term(of), (date) => Number(date.slice(0, 4))),
  slug: ({ of }, judging) => withText(judging.term(of), (text) => slugOf(text) || null),
};

/** How many code points a text has: of each pair of surrogates, the second is not counted. */
function lengthOf(text: string): number {
  let length = text.length;
  for (let at = 1; at < text.length; at += 1)
    if (isBetween(text.charCodeAt(at), 0xdc00, 0xdfff) && isBetween(text.charCodeAt(at - 1), 0xd800, 0xdbff))
      length -= 1;
  return length;
}

function isBetween(unit: number, first: number, last: number): boolean {
  return unit >= first && unit <= last;
}

/** The fields that each term mentions, in the order of its text. */
const mentioned: PerTerm<Mentioning, readonly Path[]> = {
  field: ({ path }) => [path],
  literal: () => [],
  clock: () => [],
  sum: ({ of }, inside) => of.flatMap(inside.term),
  difference: ({ of }, inside) => of.flatMap(inside.term),
  product: ({ of }, inside) => of.flatMap(inside.term),
  length: ({ of }, inside) => inside.term(of),
  rank: ({ of }, inside) => inside.term(of),
  count: ({ over, where }, inside) => [over, ...(where === null ? [] : inside.predicate(where))],
  total: ({ over, of }, inside) => [over, ...inside.term(of)],
  days: ({ of }, inside) => of.flatMap(inside.term),
  months: ({ of }, inside) => of.flatMap(inside.term),
  seconds: ({ of }, inside) => of.flatMap(inside.term),
  year: ({ of }, inside) => inside.term(of),
  slug: ({ of }, inside) => inside.term(of),
};

/** The value of a term over a record. */
export function termValue(term: Term, judging: Judging): Value {
  return perTerm(values, term, judging);
}

/** The fields that a term mentions. */
export function termMentions(term: Term, inside: Mentioning): readonly Path[] {
  return perTerm(mentioned, term, inside);
}

function withText(value: Value, then: (text: string) => Value): Value {
  return value === null ? null : then(String(value));
}

function arithmetic(
  [first, second]: readonly [Term, Term],
  judging: Judging,
  by: (a: Exact, b: Exact) => Exact,
): Value {
  const a = exactOf(judging.term(first));
  const b = exactOf(judging.term(second));
  return a === null || b === null ? null : exactText(by(a, b));
}

function between(
  [first, second]: readonly [Term, Term],
  judging: Judging,
  count: (from: string, to: string) => number | string,
): Value {
  const from = judging.term(first);
  const to = judging.term(second);
  return from === null || to === null ? null : count(String(from), String(to));
}
