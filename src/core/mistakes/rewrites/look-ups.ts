import { isTextual } from '../../kinds/index.js';
import { fieldAt } from '../../model/index.js';
import type { Rewriting } from '../mistake.js';
import { withPredicate } from '../remodel.js';

/** Nothing keeps records apart. */
export const uniqueDropped: Rewriting = (model) =>
  model.constraints
    .filter(({ predicate }) => predicate.op === 'unique')
    .map(({ id }) => ({
      model: withPredicate(model, id, null),
      words: 'two records may have the same',
      constraint: id,
    }));

/** Of several fields that must differ together, the last is not looked at. */
export const uniquePartDropped: Rewriting = (model) =>
  model.constraints.flatMap(({ id, predicate }) => {
    if (predicate.op !== 'unique' || predicate.of.length < 2) return [];
    const narrower = { ...predicate, of: predicate.of.slice(0, -1) };
    return [{ model: withPredicate(model, id, narrower), words: 'the last field is not looked at', constraint: id }];
  });

/** Letter case counts where it must not, or the reverse. */
export const uniqueFolding: Rewriting = (model) =>
  model.constraints.flatMap(({ id, predicate, facet }) => {
    // A key's column is folded nowhere; and only text has letters.
    const isText = predicate.op === 'unique' && predicate.of.every((path) => isTextual(fieldAt(model, path)));
    if (predicate.op !== 'unique' || facet || !isText) return [];
    const fold = predicate.fold === 'case' ? 'none' : 'case';
    const words = fold === 'none' ? 'letter case tells records apart' : 'letter case does not tell records apart';
    return [{ model: withPredicate(model, id, { ...predicate, fold }), words, constraint: id }];
  });

/** The rule is about all records, where it is about some. */
export const uniqueConditionDropped: Rewriting = (model) =>
  model.constraints.flatMap(({ id, predicate }) => {
    if (predicate.op !== 'unique' || predicate.among === null) return [];
    const wider = { ...predicate, among: null };
    return [{ model: withPredicate(model, id, wider), words: 'it is about all records', constraint: id }];
  });

/** What is referred to need not exist. */
export const referenceDropped: Rewriting = (model) =>
  model.constraints
    .filter(({ predicate }) => predicate.op === 'refersTo')
    .map(({ id }) => ({ model: withPredicate(model, id, null), words: 'the target need not exist', constraint: id }));
