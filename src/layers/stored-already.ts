import type { Schema } from '../core/declare/index.js';
import { uniqueKeysOf } from '../core/meaning/index.js';
import type { Blame, Case, Row } from '../core/model/index.js';

/**
 * True where a record is refused as a repeat, and of none of the case's own rows: then a row of the live table has its
 * values, which no case knows of.
 */
export function isOfStoredRow(blames: readonly Blame[], one: Case, row: Row, model: Schema[number]): boolean {
  const others = one.before.filter(({ ruleset }) => ruleset === one.ruleset).map((stored) => stored.row);
  return (
    blames.length > 0 &&
    blames.every(({ rule }) => {
      const predicate = model.constraints.find(({ id }) => id === rule)?.predicate;
      if (predicate?.op !== 'unique') return false;
      const own = new Set(uniqueKeysOf(model, row, predicate, one.clock));
      return !others.some((other) => uniqueKeysOf(model, other, predicate, one.clock).some((key) => own.has(key)));
    })
  );
}
