import type { Kind } from './kind.js';
import { refused } from './kind.js';
import { scalar } from './scalar.js';

/** A record within the record: its fields have kinds of their own. */
export const record: Kind = {
  ...scalar,
  domain: 'record',
  facets: { keptAs: 'kept as table' },
  grammar: {
    form: 'a name for each field in it, `shelf[bay]` or `shelf.bay`',
    json: 'a JSON object; missing, `null` and `{}` mean that every field in it is absent',
    row: 'an object of the values of its fields',
  },
  decode: (_field, input) =>
    typeof input === 'object' && input !== null && !Array.isArray(input) ? { value: {} } : refused,
  sample: () => ({}),
};
