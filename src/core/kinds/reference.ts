import type { Field } from '../model/index.js';
import type { Kind } from './kind.js';
import { scalar } from './scalar.js';

function target(field: Field) {
  const found = targetOf(field);
  if (found === null) throw new Error(`the reference ${field.path} names no target`);
  return found;
}

/** The key's field, re-addressed to the place of the reference. */
function keyField(field: Field): Field {
  if (field.key === null) throw new Error(`the reference ${field.path} has no key`);
  return field.key;
}

/** The ruleset that a field refers to, and the key that it holds; null where it refers to none. */
export function targetOf(field: Field): { readonly to: string; readonly key: string } | null {
  const { to, key } = field.facets;
  return typeof to === 'string' && typeof key === 'string' ? { to, key } : null;
}

/** The key of a stored record. Wire, canonical form and facets are those of that key; the look-up is its own. */
export const reference: Kind = {
  ...scalar,
  domain: 'reference',
  facets: { to: 'target', onDelete: 'on delete' },
  grammar: { form: "the key's", json: "the key's", row: "the key's" },
  decode: (field, input, wire, inner) => inner(keyField(field)).decode(keyField(field), input, wire, inner),
  encode: (field, value, wire, inner) => inner(keyField(field)).encode(keyField(field), value, wire, inner),
  canonical: (field, value, inner) => inner(keyField(field)).canonical(keyField(field), value, inner),
  rules: (field, inner) => [
    // A key that refers on is looked up where it is declared; here only the key itself is.
    ...inner(keyField(field))
      .rules(keyField(field), inner)
      .filter(({ stage }) => stage !== 'lookup'),
    {
      facet: 'reference',
      stage: 'lookup',
      predicate: { op: 'refersTo', of: field.path, ...target(field) },
      limit: target(field).to,
    },
  ],
  edges: (field, inner) => inner(keyField(field)).edges(keyField(field), inner),
  values: (field, inner) => inner(keyField(field)).values(keyField(field), inner),
  sample: (field, seed, inner) => inner(keyField(field)).sample(keyField(field), seed, inner),
};
