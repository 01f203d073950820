import type { Schema } from '../declare/index.js';
import { facetRules, type KnownField } from '../kinds/index.js';
import type { Constraint, Path, Predicate } from '../model/index.js';

type Model = Schema[number];

/** The model with one field changed, and the field's facets as constraints as they are then. */
export function withField(model: Model, path: Path, change: (field: KnownField) => KnownField): Model {
  const visit = (field: KnownField): KnownField => {
    if (field.path === path) return change(field);
    const fields =
      field.fields === null ? null : mapped(field.fields as { readonly [name: string]: KnownField }, visit);
    return { ...field, fields, item: field.item === null ? null : visit(field.item as KnownField) } as KnownField;
  };
  const fields = mapped(model.fields, visit);
  const changed = fieldOf(fields, path);
  if (changed === undefined) return model;
  const rules = new Map(facetRules(changed).map((rule) => [`${model.ruleset}.${path}.${rule.facet}`, rule]));
  const before = new Set(
    facetRules(fieldOf(model.fields, path) ?? changed).map(({ facet }) => `${model.ruleset}.${path}.${facet}`),
  );
  const constraints = model.constraints.flatMap((one): readonly Constraint[] => {
    if (!before.has(one.id)) return [one];
    const rule = rules.get(one.id);
    return rule === undefined ? [] : [{ ...one, predicate: rule.predicate }];
  });
  return { ...model, fields, constraints };
}

/** The model with other facets of a field; undefined takes one out. */
export function withFacets(model: Model, path: Path, facets: { readonly [name: string]: unknown }): Model {
  return withField(model, path, (field) => {
    // A reference has the facets of the key that it leads to.
    if (field.key !== null) return { ...field, key: { ...field.key, facets: merged(field.key.facets, facets) } };
    return { ...field, facets: merged(field.facets, facets) };
  });
}

function merged(before: KnownField['facets'], changes: { readonly [name: string]: unknown }): KnownField['facets'] {
  const entries = Object.entries({ ...before, ...changes }).filter(([, value]) => value !== undefined);
  return Object.fromEntries(entries) as KnownField['facets'];
}

/** The model with another predicate for a constraint; null takes it out. */
export function withPredicate(model: Model, id: string, predicate: Predicate | null): Model {
  const constraints = model.constraints.flatMap((one) =>
    one.id !== id ? [one] : predicate === null ? [] : [{ ...one, predicate }],
  );
  return { ...model, constraints };
}

function mapped(
  fields: { readonly [name: string]: KnownField },
  visit: (field: KnownField) => KnownField,
): { readonly [name: string]: KnownField } {
  return Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, visit(field)]));
}

function fieldOf(fields: { readonly [name: string]: KnownField }, path: Path): KnownField | undefined {
  const all = (field: KnownField): readonly KnownField[] => [
    field,
    ...Object.values(field.fields ?? {}).flatMap((inner) => all(inner as KnownField)),
    ...(field.item === null ? [] : all(field.item as KnownField)),
  ];
  return Object.values(fields)
    .flatMap(all)
    .find((field) => field.path === path);
}
