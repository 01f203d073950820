import { addDays, isRealDate } from './calendar.js';
import type { Kind } from './kind.js';
import { refused } from './kind.js';
import { limitEdges, limitRules } from './limits.js';
import { scalar } from './scalar.js';

export const firstDate = '0001-01-01';
export const lastDate = '9999-12-31';

/** A day of the proleptic Gregorian calendar. */
export const date: Kind = {
  ...scalar,
  domain: 'date',
  facets: { min: 'ISO date', max: 'ISO date' },
  grammar: {
    form: '`YYYY-MM-DD` (ISO 8601), a real day of the years 0001 to 9999',
    json: 'a JSON string, written the same way',
    row: 'a string, written the same way',
  },
  decode: (_field, input) => (typeof input === 'string' && isRealDate(input) ? { value: input } : refused),
  rules: (field) => limitRules(field, 'date'),
  edges: (field) => [
    ...limitEdges(field, (value, to) => addDays(String(value), to), [
      { facet: 'type', value: firstDate, words: 'the first day of the calendar' },
      { facet: 'type', value: lastDate, words: 'the last day of the calendar' },
    ]),
    { facet: 'type', value: '2024-02-29', words: 'a leap day' },
  ],
  sample(field, seed) {
    const { min, max } = field.facets;
    const base = typeof min === 'string' ? min : typeof max === 'string' ? (addDays(max, -1000) ?? max) : '2026-03-02';
    const value = addDays(base, seed) ?? base;
    return typeof max === 'string' && value > max ? max : value;
  },
};
