import { addSeconds, canonicalTime } from './calendar.js';
import type { Kind } from './kind.js';
import { usualWithin } from './limits.js';
import { fractionOf, momentKind } from './moments.js';

/** A time of day, with seconds. */
export const time: Kind = {
  ...momentKind('time', canonicalTime, addSeconds, ['00:00:00', '23:59:59'], [['12:00:00', 'noon']]),
  domain: 'time',
  facets: { min: 'ISO time', max: 'ISO time', fraction: 'fraction digits' },
  grammar: {
    form: '`HH:MM` or `HH:MM:SS`, then a point and at most `fraction` digits; no `24:00`, no 60th second',
    json: 'a JSON string `HH:MM:SS`, then a point and at most `fraction` digits',
    row: 'a string `HH:MM:SS`, then a point and exactly `fraction` digits',
  },
  sample(field, seed) {
    const base = usualWithin(field, '09:00:00');
    const value = addSeconds(base, seed * 60) ?? base;
    const { max } = field.facets;
    return canonicalTime(typeof max === 'string' && value > max ? max : value, fractionOf(field), false) ?? base;
  },
};
