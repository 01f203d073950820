import type { Predicate, Row, Value } from '../model/index.js';
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
    if (rows === null) return null;
    for (const path of of) if (judging.value(path) === null) return null;
    if (rows.length === 0) return true;
    return !counts(among, judging) || !isThere(rows, judging, of, fold, among);
  },
};

type Unique = Extract<Predicate, { op: 'unique' }>;

/** True for a record that is among those of which no two may be the same. */
function counts(among: Unique['among'], record: Judging): boolean {
  return among === null || record.truth(among) === true;
}

function isThere(
  rows: readonly Row[],
  judging: Judging,
  of: Unique['of'],
  fold: Unique['fold'],
  among: Unique['among'],
): boolean {
  const folded = (value: Value) => (fold === 'case' && typeof value === 'string' ? foldCase(value) : value);
  const own = of.map((path) => folded(judging.value(path)));
  const isSame = (other: Judging) => of.every((path, at) => folded(other.value(path)) === own[at]);
  return rows.map((row) => judging.on(row)).some((other) => counts(among, other) && isSame(other));
}
