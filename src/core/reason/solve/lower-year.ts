import { type Comparator, exactOf, literalTerm, type Predicate, type Term } from '../../model/index.js';
import { type Lowering, type Truths, truthsOf } from './lower.js';

/** A comparison of the year of a day with a year, which is one of the day itself; null for any other comparison. */
export function yearCompared(left: Term, by: Comparator, right: Term, lowering: Lowering): Truths | null {
  if (left.term !== 'year' || right.term !== 'literal') return null;
  const year = Number(right.value);
  if (exactOf(right.value) === null || !Number.isInteger(year) || year < 1 || year > 9999) return null;
  const digits = String(year).padStart(4, '0');
  const compared = (sign: Comparator, day: string): Predicate => {
    return { op: 'compare', left: left.of, by: sign, right: literalTerm(`${digits}-${day}`, 'date'), domain: 'date' };
  };
  const sides: { readonly [C in Comparator]: readonly Predicate[] } = {
    '<': [compared('<', '01-01')],
    '<=': [compared('<=', '12-31')],
    '>': [compared('>', '12-31')],
    '>=': [compared('>=', '01-01')],
    '=': [compared('>=', '01-01'), compared('<=', '12-31')],
  };
  return truthsOf({ op: 'and', all: sides[by] }, lowering);
}
