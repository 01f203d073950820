import type { Pattern, Predicate } from '../model/index.js';
import type { Edge, FacetRule, Kind } from './kind.js';
import { refused } from './kind.js';

/** What no layer can carry: U+0000, lone surrogates, and U+FFFD, which encoders leave where text was damaged. */
const DAMAGED = /[\u0000\ufffd\p{Surrogate}]/u;
/** Line feed and carriage return: what a one-line control drops. */
export const oneLine: Pattern = { source: '[^\\n\\r]*', flags: 'u' };

const WORDS = ['ember', 'ash', 'clay', 'kiln', 'rim', 'foot', 'slip', 'cone', 'wheel', 'shard'];

export const text: Kind = {
  domain: 'text',
  facets: { minLength: 'count', maxLength: 'count', pattern: 'pattern', lines: 'one or many' },
  expects: 'text, without null or damaged characters',
  grammar: {
    form: 'any Unicode scalar values but U+0000 and U+FFFD',
    json: 'a JSON string of the same characters',
    row: 'a string of the same characters',
  },
  blankIsAbsent: true,
  lastEntryCounts: false,
  whenMissingFromForm: () => null,
  decode: (_field, input) => (typeof input !== 'string' || DAMAGED.test(input) ? refused : { value: input }),
  encode: (_field, value) => value,
  canonical(field, value) {
    const lines = field.facets.lines === 'many' ? String(value).replace(/\r\n?/g, '\n') : String(value);
    const trimmed = lines.trim();
    return trimmed === '' ? null : trimmed;
  },
  rules(field) {
    const of = { field: field.path };
    const form = (facet: string, predicate: Predicate, limit?: number): FacetRule => ({
      facet,
      stage: 'form',
      predicate,
      ...(limit === undefined ? {} : { limit }),
    });
    const length = (by: '<=' | '>=', literal: number): Predicate => ({
      op: 'compare',
      left: { lengthOf: of },
      by,
      right: { literal, domain: 'number' },
      domain: 'number',
    });
    const { minLength, maxLength, pattern, lines } = field.facets;
    const rules: FacetRule[] = [form('canonical', { op: 'canonical', of: field.path })];
    if (lines !== 'many') rules.push(form('lines', { op: 'matches', of, pattern: oneLine }));
    if (typeof minLength === 'number') {
      rules.push(form('minLength', length('>=', minLength), minLength));
    }
    if (typeof maxLength === 'number') {
      rules.push(form('maxLength', length('<=', maxLength), maxLength));
    }
    if (pattern != null) rules.push(form('pattern', { op: 'matches', of, pattern: pattern as Pattern }));
    return rules;
  },
  edges(field) {
    const edges: Edge[] = [];
    const { minLength, maxLength } = field.facets;
    const add = (facet: string, length: number, words: string, letter = 'a') => {
      if (length > 0) edges.push({ facet, value: letter.repeat(length), words });
    };
    if (typeof minLength === 'number') {
      add('minLength', minLength - 1, 'one character below the least length');
      add('minLength', minLength, 'exactly the least length');
      add('minLength', minLength - 1, 'one below the least length, in characters of two UTF-16 units', '🏺');
    }
    if (typeof maxLength === 'number') {
      add('maxLength', maxLength, 'exactly the greatest length');
      add('maxLength', maxLength + 1, 'one character above the greatest length');
      add('maxLength', maxLength, 'exactly the greatest length, in characters of two UTF-16 units', '🏺');
      add('maxLength', maxLength, 'exactly the greatest length, in characters of two bytes', 'é');
    }
    return edges;
  },
  values: () => null,
  sample(field, seed) {
    const least = typeof field.facets.minLength === 'number' ? field.facets.minLength : 1;
    const most = typeof field.facets.maxLength === 'number' ? field.facets.maxLength : 40;
    return sampleText(seed, least, most);
  },
};

/** Words of the trade and the seed's digits, cut and filled to the wanted length. */
function sampleText(seed: number, least: number, most: number): string {
  const word = WORDS[seed % WORDS.length] ?? 'clay';
  const round = Math.floor(seed / WORDS.length);
  const wanted = round === 0 ? word : `${word}${round}`;
  const cut = wanted.length > most ? String(seed).padStart(most, '0').slice(-Math.max(most, 1)) : wanted;
  return cut.padEnd(least, 'a');
}
