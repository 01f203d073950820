import type { Predicate, Row, Value } from '../model/index.js';
import type { Judging, Operator } from './operator.js';
import { foldCase } from './order.js';

/**
 * No other stored row has the same values; unknown without a store, and where any of the values is absent. With a
 * condition, only among the records for which it is true.
 */
export const unique: Operator<'unique'> = {
  mentions: ({ of, among }, inside) => [...of, ...(among === null ? [] : inside.predicate(among))],
  judge(predicate, judging) {
    const rows = judging.stored(null);
    if (rows === null) return null;
    for (const path of predicate.of) if (judging.value(path) === null) return null;
    if (rows.length === 0) return true;
    return !counts(predicate, judging) || !isAmong(rows, predicate, judging);
  },
};

type Unique = Extract<Predicate, { op: 'unique' }>;

/** True for a record that is among those of which no two may be the same. */
function counts({ among }: Unique, record: Judging): boolean {
  return among === null || record.truth(among) === true;
}

/** True where one of the rows that count has the same values as the record. */
function isAmong(rows: readonly Row[], predicate: Unique, judging: Judging): boolean {
  const { of, fold } = predicate;
  const folded = (value: Value) => (fold === 'case' && typeof value === 'string' ? foldCase(value) : value);
  const own = of.map((path) => folded(judging.value(path)));
  const isSame = (other: Judging) => of.every((path, at) => folded(other.value(path)) === own[at]);
  return rows.map((row) => judging.on(row)).some((other) => counts(predicate, other) && isSame(other));
}
