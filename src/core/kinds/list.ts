import { type Field, literalTerm, type Predicate } from '../model/index.js';
import type { FacetRule, Kind } from './kind.js';
import { refused } from './kind.js';
import { scalar } from './scalar.js';

/** The name of the field that tells a list's items apart; null where none does. */
export function itemKeyOf({ facets }: Field): string | null {
  return typeof facets.key === 'string' ? facets.key : null;
}

/** What items must differ in: themselves, or a field of theirs. A list of references names each once unless told. */
function distinctPath({ facets, path, item }: Field): string | null {
  const refers = item !== null && item.key !== null && facets.distinct === undefined;
  if (facets.distinct === true || refers) return `${path}[]`;
  const by = facets.distinct ?? facets.key;
  return typeof by === 'string' ? `${path}[].${by}` : null;
}

/** A list of values, records or references; never absent, but perhaps empty. */
export const list: Kind = {
  ...scalar,
  domain: 'list',
  facets: { minItems: 'count', maxItems: 'count', distinct: 'distinct', key: 'item field', keptAs: 'kept as list' },
  grammar: {
    form: 'a name for each item, `helpers[0]` or `helpers.0`, or one name several times, `helpers` or `helpers[]`',
    json: 'a JSON array; missing, `null` and `[]` are the empty list',
    row: 'an array of the items',
  },
  decode: (_field, input) => (Array.isArray(input) ? { value: [] } : refused),
  rules(field) {
    const { minItems, maxItems } = field.facets;
    const counted = (by: '>=' | '<=', limit: number): Predicate => ({
      op: 'compare',
      left: { term: 'count', over: field.path, where: null },
      by,
      right: literalTerm(limit, 'number'),
      domain: 'number',
    });
    const rule = (facet: string, limit: unknown, by: '>=' | '<='): readonly FacetRule[] =>
      typeof limit === 'number' ? [{ facet, stage: 'comparison', limit, predicate: counted(by, limit) }] : [];
    const of = distinctPath(field);
    return [
      ...rule('minItems', minItems, '>='),
      ...rule('maxItems', maxItems, '<='),
      ...(of === null
        ? []
        : [
            {
              facet: 'distinct',
              stage: 'comparison' as const,
              predicate: { op: 'distinct' as const, over: field.path, of },
              blame: of,
              owner: `${field.path}[]`,
            },
          ]),
    ];
  },
  sample: () => [],
};
