import type { Field } from '../model/index.js';
import { addDays, isRealDate } from './calendar.js';
import type { Edge, Kind } from './kind.js';
import { refused } from './kind.js';
import { limitEdges, limitRules, usualWithin } from './limits.js';
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
    ...within(field, [
      ['2024-02-29', 'a leap day'],
      ['2000-02-29', 'the leap day of a century'],
      ['2026-02-28', 'the last day of February'],
      ['2026-04-30', 'the last day of a month of 30 days'],
      ['2026-12-31', 'the last day of a year'],
      ['2027-01-01', 'the first day of a year'],
    ]),
  ],
  sample(field, seed) {
    const { min, max } = field.facets;
    const base = usualWithin(field, '2026-03-02');
    const value = addDays(base, seed) ?? base;
    if (typeof max !== 'string' || value <= max) return value;
    const earlier = addDays(base, -seed) ?? base;
    return typeof min === 'string' && earlier < min ? max : earlier;
  },
};

/** Days that a layer may read otherwise, as far as the field allows them. */
function within({ facets: { min, max } }: Field, days: readonly (readonly [day: string, words: string])[]) {
  return days
    .filter(([day]) => !(typeof min === 'string' && day < min) && !(typeof max === 'string' && day > max))
    .map(([value, words]): Edge => ({ facet: 'type', value, words }));
}
