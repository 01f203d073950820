import { caseClock } from '../cases/index.js';
import type { Schema } from '../declare/index.js';
import { judgingFor } from '../meaning/index.js';
import type { Constraint, Predicate, Row } from '../model/index.js';

type Model = Schema[number];

/** The rule whose message is at another field. */
export function movedIn(before: Model, after: Model): Constraint | undefined {
  const places = new Map(after.constraints.map(({ id, blame }) => [id, blame]));
  return before.constraints.find(({ id, blame }) => places.has(id) && places.get(id) !== blame);
}

/** The constraints whose predicates differ, with what they are instead; null where only canonical forms do. */
export function changesOf(before: Model, after: Model): readonly (readonly [Constraint, Predicate | null])[] | null {
  const changed = before.constraints.flatMap((one): readonly (readonly [Constraint, Predicate | null])[] => {
    const other = after.constraints.find(({ id }) => id === one.id);
    if (other === undefined) return [[one, null]];
    return JSON.stringify(other.predicate) === JSON.stringify(one.predicate) ? [] : [[one, other.predicate]];
  });
  return changed.length === 0 ? null : changed;
}

/** True where a record distinguishes two predicates at the time of the cases, too, or the time makes no difference. */
export function isApartNow(before: Predicate, after: Predicate | null, row: Row, model: Model): boolean {
  if (!JSON.stringify([before, after]).includes('"term":"clock"')) return true;
  const judging = judgingFor(model, row, caseClock(model));
  const isBroken = (predicate: Predicate | null) => predicate !== null && judging.truth(predicate) === false;
  return isBroken(before) !== isBroken(after);
}
