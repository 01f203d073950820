import { judgingFor } from '../meaning/index.js';
import type { Constraint, Model, Predicate, Row, Term } from '../model/index.js';
import { type Judging, order, type Truth } from '../operators/index.js';
import { caseClock } from './clock.js';

/** True where a rule asks something of the entries of a list, one by one. */
export function isAboutEntries({ over, subjects, predicate }: Constraint): boolean {
  if (over !== null || subjects.some((path) => path.includes('[]'))) return true;
  const asksEach = (term: Term) => term.term === 'total' || (term.term === 'count' && term.where !== null);
  return conditionsOf(predicate).some((one) => {
    if (one.op === 'compare') return asksEach(one.left) || asksEach(one.right);
    return one.op === 'each' || one.op === 'some';
  });
}

/** The conditions that a predicate is built from, in the order of its text. */
export function conditionsOf(predicate: Predicate): readonly Predicate[] {
  if (predicate.op === 'and') return predicate.all.flatMap(conditionsOf);
  if (predicate.op === 'or') return predicate.any.flatMap(conditionsOf);
  return predicate.op === 'not' ? conditionsOf(predicate.holds) : [predicate];
}

/** The truth of each condition with a record. */
export function truthsOf(model: Model, conditions: readonly Predicate[], row: Row): readonly Truth[] {
  const judging = judgingFor(model, row, caseClock(model));
  return conditions.map((condition) => judging.truth(condition));
}

/** What a predicate comes to with its conditions' truths, in the order of its text. */
export function comesTo(predicate: Predicate, truths: readonly Truth[]): Truth {
  let next = 0;
  const walk = (one: Predicate): Truth => {
    if (one.op === 'not') {
      const inner = walk(one.holds);
      return inner === null ? null : !inner;
    }
    if (one.op !== 'and' && one.op !== 'or') return truths[next++] ?? null;
    const parts = (one.op === 'and' ? one.all : one.any).map(walk);
    const decisive = one.op === 'or';
    return parts.includes(decisive) ? decisive : parts.includes(null) ? null : !decisive;
  };
  return walk(predicate);
}

/** Where a condition stands: the side of its limit, or whether it holds; `?` where a value is absent. */
export function outcomeOf(predicate: Predicate, row: Row, model: Model): string {
  return sideOf(predicate, judgingFor(model, row, caseClock(model)));
}

function sideOf(predicate: Predicate, judging: Judging): string {
  if (predicate.op !== 'compare') return String(judging.truth(predicate) ?? '?');
  const [a, b] = [judging.term(predicate.left), judging.term(predicate.right)];
  return a === null || b === null ? '?' : String(Math.sign(order(predicate.domain, a, b)));
}

/**
 * Where every condition of a rule stands, those that are asked of the entries of a list among them: which combinations
 * of sides there are among its entries, in whatever order.
 */
export function outcomesWithin({ predicate, over }: Constraint, row: Row, model: Model): string {
  const judging = judgingFor(model, row, caseClock(model));
  return over === null ? sidesIn(predicate, judging) : amongEntries(over, judging, (one) => sidesIn(predicate, one));
}

function sidesIn(predicate: Predicate, judging: Judging): string {
  const sides = conditionsOf(predicate).map((one) => {
    if (one.op === 'each' || one.op === 'some')
      return sideOf(one, judging) + amongEntries(one.over, judging, (entry) => sidesIn(one.holds, entry));
    if (one.op !== 'compare') return sideOf(one, judging);
    const counted = [one.left, one.right].map((term) => sidesOfCounted(term, judging)).join('');
    return sideOf(one, judging) + counted;
  });
  return sides.join();
}

function sidesOfCounted(term: Term, judging: Judging): string {
  if (term.term !== 'count' || term.where === null) return '';
  const { over, where } = term;
  return amongEntries(over, judging, (entry) => sidesIn(where, entry));
}

function amongEntries(list: string, judging: Judging, sides: (entry: Judging) => string): string {
  const entries = Array.from({ length: judging.count(list) }, (_, at) => sides(judging.within(list, at)));
  return `{${[...new Set(entries)].sort().join(' ')}}`;
}
