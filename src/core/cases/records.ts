import type { KnownField } from '../kinds/index.js';
import { isSent } from '../model/index.js';
import { type Criterion, carried, type Draft, facetOf, rawEntry } from './context.js';

/** What a careless page or server makes of a record within the record, and keys in it that are not declared. */
export const records: Criterion = (context) => {
  const casesOf = (field: KnownField): readonly Draft[] => {
    const { path, fields } = field;
    if (fields === null || !isSent(field) || !field.enforcedIn.includes('server')) return [];
    const type = { constraint: facetOf(context, path, 'type') };
    const keys = { constraint: `${context.model.ruleset}.keys`, reason: 'a key in it that is not declared' };
    const base = carried(context, context.base, 'json');
    const inner = path
      .split('.')
      .reduce<unknown>((record, step) => (record as { [name: string]: unknown })?.[step], base);
    const record = typeof inner === 'object' && inner !== null ? inner : {};
    return [
      rawEntry(context, 'json', path, 'x', { ...type, reason: 'text instead of a record' }),
      rawEntry(context, 'json', path, [], { ...type, reason: 'a list instead of a record' }),
      rawEntry(context, 'json', path, null, { ...type, reason: 'null: all of it is absent' }),
      rawEntry(context, 'json', path, {}, { ...type, reason: 'empty: all of it is absent' }),
      rawEntry(context, 'json', path, undefined, { ...type, reason: 'missing: all of it is absent' }),
      rawEntry(context, 'json', path, { ...record, surprise: 'x' }, keys),
      rawEntry(context, 'json', path, { surprise: 'x' }, keys),
      ...Object.values(fields).flatMap(casesOf),
    ];
  };
  return Object.values(context.model.fields).flatMap(casesOf);
};
