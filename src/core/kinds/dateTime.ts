import { addSecondsToDateTime, canonicalDateTime } from './calendar.js';
import type { Kind } from './kind.js';
import { usualWithin } from './limits.js';
import { fractionOf, momentKind } from './moments.js';

/** A day and a time of day without a zone, as a clock on the wall shows them. */
export const dateTime: Kind = {
  ...momentKind(
    'local',
    canonicalDateTime,
    addSecondsToDateTime,
    ['0001-01-01T00:00:00', '9999-12-31T23:59:59'],
    [
      ['1969-12-31T23:59:59', 'the second before the count of seconds begins'],
      ['2038-01-19T03:14:08', 'the first second that 32 bits do not count'],
      ['2024-02-29T23:59:59', 'the last second of a leap day'],
    ],
  ),
  domain: 'local',
  facets: { min: 'ISO local', max: 'ISO local', fraction: 'fraction digits' },
  grammar: {
    form: '`YYYY-MM-DDTHH:MM` or with `:SS`, then a point and at most `fraction` digits',
    json: 'a JSON string `YYYY-MM-DDTHH:MM:SS`, then a point and at most `fraction` digits',
    row: 'a string `YYYY-MM-DDTHH:MM:SS`, then a point and exactly `fraction` digits',
  },
  sample(field, seed) {
    const { max } = field.facets;
    const base = usualWithin(field, '2026-03-02T09:00:00');
    const value = addSecondsToDateTime(base, seed * 60) ?? base;
    return canonicalDateTime(typeof max === 'string' && value > max ? max : value, fractionOf(field), false) ?? base;
  },
};
