import type { Field } from '../model/index.js';
import type { Kind } from './kind.js';
import { refused } from './kind.js';

/** The codes of a choice, in display order. */
export function codesOf(field: Field): readonly string[] {
  return choicesOf(field).map(([code]) => code);
}

/** Code and label of each choice, in display order; none where the field is no choice. */
export function choicesOf(field: Field): readonly (readonly [string, string])[] {
  return (field.facets.choices ?? []) as unknown as readonly (readonly [string, string])[];
}

export const choice: Kind = {
  domain: 'code',
  facets: { choices: 'choices' },
  expects: 'the code of a choice',
  grammar: {
    form: 'the code, exact case (a code that is not declared is refused by `enumeration`)',
    json: 'a JSON string that is not empty: the code, exact case',
    row: 'the code as a string that is not empty',
  },
  blankIsAbsent: false,
  lastEntryCounts: false,
  whenMissingFromForm: () => null,
  decode: (_field, input) => (typeof input === 'string' && input !== '' ? { value: input } : refused),
  encode: (_field, value) => value,
  canonical: (_field, value) => value,
  rules: (field) => [
    {
      facet: 'enumeration',
      stage: 'form',
      predicate: { op: 'member', of: { field: field.path }, among: codesOf(field) },
      limit: choicesOf(field)
        .map(([, label]) => label)
        .join(', '),
    },
  ],
  edges: (field) => [
    ...choicesOf(field).map(([code, label]) => ({ facet: 'enumeration', value: code, words: `the choice ${label}` })),
    ...strangers(field),
  ],
  values: codesOf,
  sample: (field, seed) => codesOf(field)[seed % codesOf(field).length] ?? '',
};

/** Near misses: what a careless page or server sends instead of a code. */
function strangers(field: Field) {
  const [first] = choicesOf(field);
  if (first === undefined) return [];
  const [code, label] = first;
  const codes = new Set(codesOf(field));
  return [
    { value: `${code}x`, words: 'a code that is not declared' },
    { value: label, words: 'the label instead of the code' },
    { value: code.toUpperCase(), words: 'the code in capitals' },
    { value: '0', words: 'the position instead of the code' },
  ]
    .filter((stranger) => !codes.has(stranger.value))
    .map((stranger) => ({ facet: 'enumeration', ...stranger }));
}
