import type { Schema } from '../declare/index.js';
import type { Constraint, Predicate } from '../model/index.js';

type Model = Schema[number];

/** The rule whose message stands at another field. */
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
