import type { Model, PredicateOf, Row } from '../model/index.js';
import { foldCase } from '../operators/index.js';
import { type GivenClock, readClock } from './clock.js';
import { instancesOf, judgedAlone, judgingOf } from './judging.js';

/**
 * What a record must not share with any other by a unique rule: one text for each item of the list that the rule is about,
 * otherwise one; none where a part is absent, or where the rule is not about such a record.
 *
 * @param clock what a condition is judged by; now unless given
 */
export function uniqueKeysOf(
  model: Model,
  row: Row,
  { of, fold, among }: PredicateOf<'unique'>,
  clock?: GivenClock,
): readonly string[] {
  const judged = judgedAlone(model, row, readClock(clock, model.zone));
  if (among !== null && judgingOf(judged).truth(among) !== true) return [];
  return instancesOf(row, of[0] ?? '').flatMap((indices) => {
    const judging = judgingOf(judged, indices);
    const values = of.map((path) => judging.value(path));
    if (values.includes(null)) return [];
    const folded = values.map((value) => (fold === 'case' && typeof value === 'string' ? foldCase(value) : value));
    return [JSON.stringify(folded)];
  });
}
