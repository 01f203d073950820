import type { Predicate } from '../model/index.js';
import type { Edge, FacetRule, Kind } from './kind.js';
import { refused } from './kind.js';

/** One spelling for each number: no plus sign, no leading zero, no exponent, no fraction. */
export const integerGrammar = '-?(?:0|[1-9][0-9]*)';
const SPELLING = new RegExp(`^${integerGrammar}$`);

export const integer: Kind = {
  domain: 'number',
  facets: { min: 'whole number', max: 'whole number' },
  expects: 'a whole number in plain digits',
  grammar: {
    form: '`-?(0|[1-9][0-9]*)`, within the safe integers',
    json: 'a JSON number without a fraction, within the safe integers',
    row: 'a whole number within the safe integers',
  },
  blankIsAbsent: false,
  lastEntryCounts: false,
  whenMissingFromForm: () => null,
  decode(_field, input, wire) {
    if (wire === 'form' && (typeof input !== 'string' || !SPELLING.test(input))) return refused;
    const value = wire === 'form' ? Number(input) : input;
    // Adding 0 turns -0 into 0, its one spelling.
    return typeof value === 'number' && Number.isSafeInteger(value) ? { value: value + 0 } : refused;
  },
  encode: (_field, value, wire) => (wire === 'form' ? String(value) : value),
  canonical: (_field, value) => value,
  rules(field) {
    const of = { field: field.path };
    const rules: FacetRule[] = [];
    const add = (facet: string, limit: number, predicate: Predicate) =>
      rules.push({ facet, stage: 'comparison', limit, predicate });
    const { min, max } = field.facets;
    const compare = { op: 'compare', left: of, domain: 'number' } as const;
    if (typeof min === 'number') add('min', min, { ...compare, by: '>=', right: { literal: min, domain: 'number' } });
    if (typeof max === 'number') add('max', max, { ...compare, by: '<=', right: { literal: max, domain: 'number' } });
    return rules;
  },
  edges(field) {
    const edges: Edge[] = [];
    const add = (facet: string, value: number, words: string) => edges.push({ facet, value, words });
    const { min, max } = field.facets;
    if (typeof min === 'number') {
      add('min', min, 'exactly the least value');
      add('min', min - 1, 'one below the least value');
    }
    if (typeof max === 'number') {
      add('max', max, 'exactly the greatest value');
      add('max', max + 1, 'one above the greatest value');
    }
    if (typeof min !== 'number') add('type', Number.MIN_SAFE_INTEGER, 'the least safe integer');
    if (typeof max !== 'number') add('type', Number.MAX_SAFE_INTEGER, 'the greatest safe integer');
    return edges;
  },
  values: () => null,
  sample(field, seed) {
    const { min, max } = field.facets;
    const least = typeof min === 'number' ? min : typeof max === 'number' && max < 0 ? max - 1000 : 0;
    const most = typeof max === 'number' ? max : Math.max(least, 0) + 1000;
    const span = Math.max(most - least + 1, 1);
    return least + ((Math.floor(span / 3) + seed) % span);
  },
};
