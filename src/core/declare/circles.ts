import { targetOf } from '../kinds/index.js';
import { type Field, isSent, type Model } from '../model/index.js';

/** The rulesets that every stored record of a model must refer to: by a required field, or a list that has an entry. */
export function requiredTargetsOf(model: Model): readonly string[] {
  return [...new Set(Object.values(model.fields).flatMap(requiredIn))];
}

function requiredIn(field: Field): readonly string[] {
  const { item, fields, facets, optional } = field;
  if (optional || !isSent(field) || field.enforcedIn.join() === 'client') return [];
  if (item !== null) return Number(facets.minItems ?? 0) > 0 ? requiredIn(item) : [];
  if (fields !== null) return Object.values(fields).flatMap(requiredIn);
  const target = targetOf(field);
  return target === null ? [] : [target.to];
}

/**
 * Rulesets that each require a record of the next, the last one of the first: of none of them can a first record be
 * stored. Null where there are none on the way from `from`.
 */
export function requiredCircle(from: Model, schema: readonly Model[]): readonly string[] | null {
  const known = new Set<string>();
  const search = (model: Model, way: readonly string[]): readonly string[] | null => {
    const at = way.indexOf(model.ruleset);
    if (at !== -1) return way.slice(at);
    if (known.has(model.ruleset)) return null;
    known.add(model.ruleset);
    for (const target of requiredTargetsOf(model)) {
      const next = schema.find(({ ruleset }) => ruleset === target);
      const found = next === undefined ? null : search(next, [...way, model.ruleset]);
      if (found !== null) return found;
    }
    return null;
  };
  return search(from, []);
}
