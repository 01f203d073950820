import { canonicalValue, decodeValue, facetRules } from '../kinds/index.js';
import { type Problem, problems } from '../messages/index.js';
import { allFields, type Field, type Predicate, type Term, type Value } from '../model/index.js';
import { type Judging, judge, valueOfTerm } from '../operators/index.js';

/** Defaults that their own field would refuse, or store in another form. */
export function brokenDefaults(fields: { readonly [name: string]: Field }): readonly Problem[] {
  return allFields({ fields }).flatMap((field) => {
    if (field.default === null) return [];
    const decoded = decodeValue(field, field.default, 'json');
    const value = 'value' in decoded ? canonicalValue(field, decoded.value) : null;
    const found = JSON.stringify(field.default);
    if (value !== field.default) return [problems.defaultBroken(field.place, field.path, found, 'type')];
    const broken = facetRules(field).find(({ stage, predicate }) => stage !== 'lookup' && refuses(predicate, value));
    return broken === undefined ? [] : [problems.defaultBroken(field.place, field.path, found, broken.facet)];
  });
}

/** Facets ask of nothing but their field's own value. */
function refuses(predicate: Predicate, value: Value): boolean {
  const judging: Judging = {
    value: () => value,
    count: () => 0,
    within: () => judging,
    indexIn: () => 0,
    on: () => judging,
    term: (term: Term) => valueOfTerm(term, judging),
    truth: (inner) => judge(inner, judging),
    refusedAtDecode: () => false,
    notCanonical: () => false,
    strangeKeys: false,
    overLimits: false,
    clock: { today: '', now: '' },
    call: () => true,
    stored: () => null,
  };
  return judge(predicate, judging) === false;
}
