import type { Schema } from '../declare/index.js';
import type { Constraint, Predicate, PredicateOf } from '../model/index.js';
import { isLookup, sourcesOf } from '../operators/index.js';
import type { Reasoner, Wish } from '../reason/index.js';
import type { Likeness } from './mistake.js';

type Model = Schema[number];
type Unique = PredicateOf<'unique'>;

/** No record is one that the rule is about with one condition, and not with the other. */
export function likenessOfConditions(before: Unique, after: Unique, model: Model, reasoner: Reasoner): Likeness {
  const own = model.constraints.filter(({ predicate }) => !isLookup(predicate));
  const given: readonly Predicate[] = before.of.map((of) => ({ op: 'given', of }));
  const about = ({ among }: Unique): Wish => ({
    predicate: { op: 'and', all: among === null ? given : [among, ...given] },
    is: 'true',
  });
  const isNot = ({ among }: Unique): readonly Wish[] =>
    among === null ? [] : (['false', 'unknown'] as const).map((is) => ({ predicate: among, is }));
  const wishes = [
    ...isNot(after).map((not): Wish => ({ together: [about(before), not] })),
    ...isNot(before).map((not): Wish => ({ together: [about(after), not] })),
  ];
  for (const wish of wishes) {
    const found = reasoner.decide(own, wish);
    if (found.is === 'possible') return { is: 'different' };
    if (found.is === 'undecided') return found;
  }
  return { is: 'equivalent', why: 'no record is one that only one of the conditions is about' };
}

/** True for another unique rule, over what is worked out from no other fields than those of this one. */
export function isOverSame({ predicate }: Constraint, rule: Unique, model: Model): boolean {
  if (predicate.op !== 'unique' || predicate.among !== null) return false;
  const sourcesIn = ({ of }: Unique) => of.flatMap((path) => sourcesOf(path, model));
  const own = new Set(sourcesIn(rule));
  return sourcesIn(predicate).every((path) => own.has(path));
}
