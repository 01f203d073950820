import { isTextual } from '../../kinds/index.js';
import { type Comparator, fieldAt, type Predicate } from '../../model/index.js';
import { mentions } from '../../operators/index.js';
import type { Rewriting } from '../mistake.js';
import { withField, withPredicate } from '../remodel.js';

/** Nothing keeps records apart. */
export const uniqueDropped: Rewriting = (model) =>
  model.constraints
    .filter(({ predicate }) => predicate.op === 'unique')
    .map(({ id }) => ({
      model: withPredicate(model, id, null),
      words: 'two records may have the same',
      constraint: id,
    }));

/** Of several fields that must differ together, one is not looked at. */
export const uniquePartDropped: Rewriting = (model) =>
  model.constraints.flatMap(({ id, predicate }) => {
    if (predicate.op !== 'unique' || predicate.of.length < 2) return [];
    return predicate.of.map((dropped) => ({
      model: withPredicate(model, id, { ...predicate, of: predicate.of.filter((path) => path !== dropped) }),
      words: `${dropped} is not looked at`,
      constraint: id,
    }));
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

/** The rule is about the records for which its condition does not hold. */
export const uniqueConditionNegated: Rewriting = withConditions('it is about the other records', (among) =>
  among.op === 'not' ? among.holds : { op: 'not', holds: among },
);

/** The rule is about more records than those for which its condition holds. */
export const uniqueConditionWidened: Rewriting = withConditions('its condition holds for more records', widened);

const looser: { readonly [comparator: string]: Comparator } = { '<': '<=', '>': '>=' };

/** Any of several conditions, a comparison at its limit too, or what is absent too. */
function widened(among: Predicate): Predicate | null {
  if (among.op === 'and') return { op: 'or', any: among.all };
  const by = among.op === 'compare' ? looser[among.by] : undefined;
  if (among.op === 'compare' && by !== undefined) return { ...among, by };
  const [of] = mentions(among);
  return of === undefined ? null : { op: 'or', any: [among, { op: 'not', holds: { op: 'given', of } }] };
}

/** Each unique rule with a condition, with another one in its place. */
function withConditions(words: string, change: (among: Predicate) => Predicate | null): Rewriting {
  return (model) =>
    model.constraints.flatMap(({ id, predicate }) => {
      const among = predicate.op === 'unique' && predicate.among !== null ? change(predicate.among) : null;
      if (predicate.op !== 'unique' || among === null) return [];
      return [{ model: withPredicate(model, id, { ...predicate, among }), words, constraint: id }];
    });
}

/** What is referred to need not exist. */
export const referenceDropped: Rewriting = (model) =>
  model.constraints
    .filter(({ predicate }) => predicate.op === 'refersTo')
    .map(({ id }) => ({ model: withPredicate(model, id, null), words: 'the target need not exist', constraint: id }));

const actions = {
  refuse: 'deleting the target is refused',
  cascade: 'deleting the target deletes what refers to it',
  clear: 'deleting the target clears the reference',
} as const;

/** What a reference does when its target is deleted is another than declared. */
export const referenceActionChanged: Rewriting = (model) =>
  model.constraints.flatMap(({ id, predicate }) => {
    if (predicate.op !== 'refersTo') return [];
    const { facets, optional } = fieldAt(model, predicate.of);
    const others = Object.entries(actions).filter(
      ([action]) => action !== (facets.onDelete ?? 'refuse') && (optional || action !== 'clear'),
    );
    return others.map(([onDelete, words]) => ({
      model: withField(model, predicate.of, (field) => ({ ...field, facets: { ...field.facets, onDelete } })),
      words,
      constraint: id,
    }));
  });
