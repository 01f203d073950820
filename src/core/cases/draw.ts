import {
  addDays,
  addSeconds,
  addSecondsToDateTime,
  canonicalDateTime,
  canonicalInstant,
  canonicalTime,
  canonicalValue,
  codesOf,
  decodeValue,
  type KnownField,
  type PerKind,
  type Seconds,
  sampleOf,
  scaleOf,
  secondsOf,
  steppedTime,
  valueField,
} from '../kinds/index.js';
import { exactText, type Pattern, type Random, type Value } from '../model/index.js';
import { drawWord } from '../reason/index.js';
import type { Grammars } from './grammars.js';

type Draw = (field: KnownField, random: Random, grammars: Grammars) => Value;

/** A name or a code that nobody reads twice is about so long. */
const USUAL_LENGTH = 8;
/** Days are drawn around this one, half of them before it; so many that thousands of cases find one of their own. */
const MIDDLE = '2026-03-02';
const MOST_DAYS = 4_000;

const text: Draw = (field, random, grammars) => {
  const { pattern, minLength, maxLength } = field.facets;
  const least = typeof minLength === 'number' ? minLength : 1;
  const most = typeof maxLength === 'number' ? maxLength : 60;
  if (pattern == null) return sampleOf(field, random.below(1_000_000));
  const routes = grammars.routesOf(pattern as Pattern);
  if (routes === null) return sampleOf(field, random.below(1_000));
  return drawWord(routes, { least: Math.max(least, 1), most, usual: Math.max(least, USUAL_LENGTH) }, random);
};

/** A number of the field's step between its limits, or among the first thousand where it has none. */
const number: Draw = (field, random) => {
  const { min, max, step } = field.facets;
  const unit = Number(step ?? 10 ** -scaleOf(field));
  const digits = field.facets.precision === undefined ? 15 : Number(field.facets.precision) - scaleOf(field);
  const beyond = 10 ** digits - unit;
  const low = Math.ceil(Number(min ?? Math.min(0, Number(max ?? 0) - 1_000)) / unit);
  const high = Math.floor(Math.min(Number(max ?? Math.max(0, low * unit) + 1_000), beyond) / unit);
  const count = BigInt(low) + BigInt(random.below(Math.max(high - low + 1, 1)));
  return spelled(field, count, step);
};

/** So many steps, in the field's own form. */
function spelled(field: KnownField, count: bigint, step: Value | undefined): Value {
  const scale = step === undefined ? scaleOf(field) : 0;
  const written = step === undefined ? exactText({ digits: count, scale }) : String(Number(step) * Number(count));
  const decoded = decodeValue(field, written, 'form');
  return 'value' in decoded ? canonicalValue(field, decoded.value) : null;
}

const moment =
  (
    first: string,
    later: (moment: string, seconds: number) => string | null,
    canonical: (text: string, seconds: Seconds, needsSeconds: boolean) => string | null,
    most: number,
  ): Draw =>
  (field, random) => {
    const { min, max } = field.facets;
    const seconds = secondsOf(field);
    const usual = seconds === 'none' ? first.slice(0, 5) : first;
    const base = typeof min === 'string' ? min : typeof max === 'string' ? max : usual;
    const sign = typeof min === 'string' || typeof max !== 'string' ? 1 : -1;
    return canonical(later(base, sign * 60 * random.below(most)) ?? base, seconds, false);
  };

const times = moment('08:00:00', addSeconds, canonicalTime, 720);

const FIRST_DAY = addDays(MIDDLE, -MOST_DAYS);
const LAST_DAY = addDays(MIDDLE, MOST_DAYS);

const date: Draw = ({ facets: { min, max } }, random) => {
  const [low, high] = [String(min ?? FIRST_DAY), String(max ?? LAST_DAY)];
  const from = low > MIDDLE || high < MIDDLE ? low : MIDDLE;
  const days = random.below(2 * MOST_DAYS) - (from === low ? 0 : MOST_DAYS);
  const day = addDays(from, days);
  return day === null || day < low || day > high ? addDays(from, random.below(28)) : day;
};

const hex = (count: number, random: Random) =>
  Array.from({ length: count }, () => random.below(16).toString(16)).join('');

const draws: PerKind<Draw> = {
  text,
  email: (_field, random) => `person${random.below(1_000_000)}@mail.example`,
  url: (field, random) => `${String(sampleOf(field, 0)).replace(/[?#].*$/, '')}${random.below(1_000_000)}`,
  uuid: (_field, random) => {
    const variant = '89ab'.charAt(random.below(4));
    return `${hex(8, random)}-${hex(4, random)}-4${hex(3, random)}-${variant}${hex(3, random)}-${hex(12, random)}`;
  },
  ip: (field, random) => sampleOf(field, random.below(200)),
  integer: number,
  decimal: number,
  boolean: (_field, random) => random.below(2) === 0,
  date,
  time: (field, random, grammars) => {
    const time = times(field, random, grammars);
    return typeof time === 'string' ? steppedTime(field, time) : time;
  },
  timestamp: moment('2026-01-01T08:00:00Z', addSecondsToDateTime, canonicalInstant, 525_600),
  dateTime: moment('2026-01-01T08:00:00', addSecondsToDateTime, canonicalDateTime, 525_600),
  choice: (field, random) => random.pick(codesOf(field)),
  record: () => null,
  list: () => [],
  reference: () => null,
};

/** A plausible value at random, of those that a field's own rules allow as far as that is known; null where none was found. */
export function drawnValue(field: KnownField, random: Random, grammars: Grammars): Value {
  const inner = valueField(field);
  return draws[inner.kind](inner, random, grammars);
}
