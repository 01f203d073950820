import { fieldTerm, literalTerm } from '../model/index.js';
import type { Kind } from './kind.js';
import { refused } from './kind.js';
import { scalar } from './scalar.js';

const ON_FORMS: { readonly [text: string]: boolean } = { true: true, on: true, false: false };

/** True or false. */
export const boolean: Kind = {
  ...scalar,
  domain: 'boolean',
  facets: { must: 'true' },
  grammar: {
    form: '`true`, `false` or `on`; of several entries the last one counts; a missing one is false if required',
    json: '`true` or `false`',
    row: 'true or false, as the engine spells them',
  },
  // A hidden `false` stands before each box, so that an unticked one sends something.
  lastEntryCounts: true,
  whenMissingFromForm: (field) => (field.optional ? null : false),
  decode(_field, input, wire) {
    if (wire !== 'form') return typeof input === 'boolean' ? { value: input } : refused;
    if (typeof input !== 'string' || !Object.hasOwn(ON_FORMS, input)) return refused;
    return { value: ON_FORMS[input] === true };
  },
  encode: (_field, value, wire) => (wire === 'form' ? String(value) : value),
  rules: ({ facets, path }) =>
    facets.must !== true
      ? []
      : [
          {
            facet: 'must',
            stage: 'comparison',
            predicate: {
              op: 'compare',
              left: fieldTerm(path),
              by: '=',
              right: literalTerm(true, 'boolean'),
              domain: 'boolean',
            },
          },
        ],
  edges: ({ facets }) => [
    { facet: facets.must === true ? 'must' : 'type', value: true, words: 'true' },
    { facet: facets.must === true ? 'must' : 'type', value: false, words: 'false, which is a value and not missing' },
  ],
  values: () => [true, false],
  sample: ({ facets }, seed) => facets.must === true || seed % 2 === 1,
};
