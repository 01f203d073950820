import type { Kind } from './kind.js';
import { refused } from './kind.js';

const ON_FORMS: { readonly [text: string]: boolean } = { true: true, on: true, false: false };

export const boolean: Kind = {
  domain: 'boolean',
  facets: {},
  expects: 'true or false',
  grammar: {
    form: '`true`, `false` or `on`; of several entries the last one counts; a missing one is false if required',
    json: '`true` or `false`',
    row: 'true or false, as the engine spells them',
  },
  blankIsAbsent: false,
  // A hidden `false` stands before each box, so that an unticked one sends something.
  lastEntryCounts: true,
  whenMissingFromForm: (field) => (field.optional ? null : false),
  decode(_field, input, wire) {
    if (wire !== 'form') return typeof input === 'boolean' ? { value: input } : refused;
    if (typeof input !== 'string' || !Object.hasOwn(ON_FORMS, input)) return refused;
    return { value: ON_FORMS[input] === true };
  },
  encode: (_field, value, wire) => (wire === 'form' ? String(value) : value),
  canonical: (_field, value) => value,
  rules: () => [],
  edges: () => [
    { facet: 'type', value: true, words: 'true' },
    { facet: 'type', value: false, words: 'false, which is a value and not missing' },
  ],
  values: () => [true, false],
  sample: (_field, seed) => seed % 2 === 1,
};
