import { type Field, fieldTerm } from '../model/index.js';
import type { Kind } from './kind.js';
import { refused } from './kind.js';
import { scalar } from './scalar.js';

export type Code = string | number;
const INTEGER = /^-?(?:0|[1-9][0-9]*)$/;

/** The codes of a choice, in display order. */
export function codesOf(field: Field): readonly Code[] {
  return choicesOf(field).map(([code]) => code);
}

/** Code and label of each choice, in display order; none where the field is no choice. */
export function choicesOf(field: Field): readonly (readonly [Code, string])[] {
  return (field.facets.choices ?? []) as unknown as readonly (readonly [Code, string])[];
}

/** True where the codes are integers. */
export function hasIntegerCodes(field: Field): boolean {
  return typeof codesOf(field)[0] === 'number';
}

/** One of a closed list, by its code. */
export const choice: Kind = {
  ...scalar,
  domain: 'code',
  facets: { choices: 'choices', ordered: 'flag', keptAs: 'kept as enum' },
  grammar: {
    form: 'the code, exact case, integers in plain digits (a code that is not declared is refused by `enumeration`)',
    json: 'a JSON string that is not empty, or a whole number where the codes are integers',
    row: 'the code as a string that is not empty, or as a whole number',
  },
  decode(field, input, wire) {
    if (!hasIntegerCodes(field)) return typeof input === 'string' && input !== '' ? { value: input } : refused;
    if (wire === 'form' && (typeof input !== 'string' || !INTEGER.test(input))) return refused;
    const code = wire === 'form' ? Number(input) : input;
    return typeof code === 'number' && Number.isSafeInteger(code) ? { value: code + 0 } : refused;
  },
  encode: (_field, value, wire) => (wire === 'form' ? String(value) : value),
  rules: (field) => [
    {
      facet: 'enumeration',
      stage: 'form',
      predicate: { op: 'member', of: fieldTerm(field.path), among: codesOf(field) },
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
  const near: readonly { readonly value: Code; readonly words: string }[] =
    typeof code === 'number'
      ? [
          { value: Math.max(...codesOf(field).map(Number)) + 1, words: 'a code that is not declared' },
          { value: 0, words: 'the position instead of the code' },
        ]
      : [
          { value: `${code}x`, words: 'a code that is not declared' },
          { value: label, words: 'the label instead of the code' },
          { value: code.toUpperCase(), words: 'the code in capitals' },
          { value: '0', words: 'the position instead of the code' },
          { value: '1', words: 'the position counted from one' },
          { value: `${code} `, words: 'a space behind the code' },
          { value: code.slice(0, -1), words: 'the code without its last letter' },
        ];
  return near
    .filter(({ value }) => value !== '' && !codes.has(value))
    .map((stranger) => ({ facet: 'enumeration', ...stranger }));
}
