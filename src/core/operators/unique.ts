import type { Value } from '../model/index.js';
import type { Judging, Operator } from './operator.js';
import { foldCase } from './order.js';

/**
 * No other stored row has the same values; unknown without a store, and where any of the values is absent. With a
 * condition, only among the records for which it is true.
 */
export const unique: Operator<'unique'> = {
  mentions: ({ of, among }, inside) => [...of, ...(among === null ? [] : inside.predicate(among))],
  judge({ of, fold, among }, judging) {
    const rows = judging.stored(null);
    if (rows === null || of.some((path) => judging.value(path) === null)) return null;
    if (rows.length === 0) return true;
    const counts = (one: Judging) => among === null || one.truth(among) === true;
    if (!counts(judging)) return true;
    const folded = (value: Value) => (fold === 'case' && typeof value === 'string' ? foldCase(value) : value);
    const same = (other: Judging) => of.every((path) => folded(other.value(path)) === folded(judging.value(path)));
    return !rows.map((row) => judging.on(row)).some((other) => counts(other) && same(other));
  },
};
