import { addSecondsToDateTime, canonicalInstant } from './calendar.js';
import type { Kind } from './kind.js';
import { usualWithin } from './limits.js';
import { fractionOf, momentKind } from './moments.js';

/** A moment of the world's time; its canonical form is in UTC. */
export const timestamp: Kind = {
  ...momentKind(
    'instant',
    canonicalInstant,
    addSecondsToDateTime,
    ['0001-01-01T00:00:00Z', '9999-12-31T23:59:59Z'],
    [
      ['1969-12-31T23:59:59Z', 'the second before the count of seconds begins'],
      ['2038-01-19T03:14:08Z', 'the first second that 32 bits do not count'],
      ['2024-02-29T23:59:59Z', 'the last second of a leap day'],
    ],
  ),
  domain: 'instant',
  facets: { min: 'ISO instant', max: 'ISO instant', fraction: 'fraction digits' },
  grammar: {
    form: '`YYYY-MM-DDTHH:MM` or with `:SS` and a fraction, then `Z` or `±hh:mm` (RFC 3339); the year is that in UTC',
    json: 'a JSON string, the same with seconds',
    row: 'a string `YYYY-MM-DDTHH:MM:SS`, exactly `fraction` digits, and `Z`',
  },
  sample(field, seed) {
    const { max } = field.facets;
    const base = usualWithin(field, '2026-03-02T09:00:00Z');
    const value = addSecondsToDateTime(base, seed * 60) ?? base;
    return canonicalInstant(typeof max === 'string' && value > max ? max : value, fractionOf(field), false) ?? base;
  },
};
