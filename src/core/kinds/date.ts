import type { Predicate } from '../model/index.js';
import { addDays, isRealDate } from './calendar.js';
import type { Edge, FacetRule, Kind } from './kind.js';
import { refused } from './kind.js';

export const firstDate = '0001-01-01';
export const lastDate = '9999-12-31';

export const date: Kind = {
  domain: 'date',
  facets: { min: 'ISO date', max: 'ISO date' },
  expects: 'a real day, written YYYY-MM-DD',
  grammar: {
    form: '`YYYY-MM-DD` (ISO 8601), a real day of the years 0001 to 9999',
    json: 'a JSON string, written the same way',
    row: 'a string, written the same way',
  },
  blankIsAbsent: false,
  lastEntryCounts: false,
  whenMissingFromForm: () => null,
  decode: (_field, input) => (typeof input === 'string' && isRealDate(input) ? { value: input } : refused),
  encode: (_field, value) => value,
  canonical: (_field, value) => value,
  rules(field) {
    const of = { field: field.path };
    const rules: FacetRule[] = [];
    const add = (facet: string, limit: string, predicate: Predicate) =>
      rules.push({ facet, stage: 'comparison', limit, predicate });
    const { min, max } = field.facets;
    const compare = { op: 'compare', left: of, domain: 'date' } as const;
    if (typeof min === 'string') add('min', min, { ...compare, by: '>=', right: { literal: min, domain: 'date' } });
    if (typeof max === 'string') add('max', max, { ...compare, by: '<=', right: { literal: max, domain: 'date' } });
    return rules;
  },
  edges(field) {
    const edges: Edge[] = [];
    const add = (facet: string, value: string | null, words: string) => {
      if (value !== null) edges.push({ facet, value, words });
    };
    const { min, max } = field.facets;
    if (typeof min === 'string') {
      add('min', min, 'exactly the first day allowed');
      add('min', addDays(min, -1), 'a day before the first one allowed');
    } else add('type', firstDate, 'the first day of the calendar');
    if (typeof max === 'string') {
      add('max', max, 'exactly the last day allowed');
      add('max', addDays(max, 1), 'a day after the last one allowed');
    } else add('type', lastDate, 'the last day of the calendar');
    add('type', '2024-02-29', 'a leap day');
    return edges;
  },
  values: () => null,
  sample(field, seed) {
    const base = typeof field.facets.min === 'string' ? field.facets.min : '2026-03-02';
    const value = addDays(base, seed) ?? base;
    return typeof field.facets.max === 'string' && value > field.facets.max ? field.facets.max : value;
  },
};
