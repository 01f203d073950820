import { addSeconds, canonicalTime } from './calendar.js';
import type { Kind } from './kind.js';
import { usualWithin } from './limits.js';
import { momentKind, secondsOf } from './moments.js';

/** A time of day, with seconds unless it says otherwise. */
export const time: Kind = {
  ...momentKind('time', canonicalTime, addSeconds, ['00:00:00', '23:59:59'], [['12:00:00', 'noon']]),
  domain: 'time',
  facets: { min: 'ISO time', max: 'ISO time', fraction: 'fraction digits', seconds: 'no seconds' },
  grammar: {
    form: "`HH:MM` or `HH:MM:SS`, then a point and at most `fraction` digits; no `24:00`, no 60th second; `HH:MM` alone where `seconds: 'none'`",
    json: "a JSON string `HH:MM:SS`, then a point and at most `fraction` digits; `HH:MM` where `seconds: 'none'`",
    row: "a string `HH:MM:SS`, then a point and exactly `fraction` digits; `HH:MM` where `seconds: 'none'`",
  },
  sample(field, seed) {
    const base = usualWithin(field, secondsOf(field) === 'none' ? '09:00' : '09:00:00');
    const value = addSeconds(base, seed * 60) ?? base;
    const { max } = field.facets;
    return canonicalTime(typeof max === 'string' && value > max ? max : value, secondsOf(field), false) ?? base;
  },
};
