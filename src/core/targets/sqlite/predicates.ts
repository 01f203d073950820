import { type KnownField, type Seconds, whiteSpace } from '../../kinds/index.js';
import { type Domain, exactOf } from '../../model/index.js';
import { binary, call, plainLiteral, type Sql } from '../sql/index.js';

export { countBySum as countGiven, withoutNormalForms as notCanonical } from '../sql/index.js';
export { matches } from './patterns.js';
export const literal = plainLiteral;

export function itemsIn(column: Sql): Sql {
  return call('json_array_length', column);
}

export function lengthOf(text: Sql): Sql {
  return call('length', text);
}

/** Equal to itself without outer white space, and not empty; in one letter case where asked. */
export function canonical(of: Sql, { facets }: KnownField): Sql {
  const spaces = call('char', ...whiteSpace.map((number) => ({ number })));
  const parts: Sql[] = [
    ...(facets.trim === false ? [] : [binary(of, '=', call('trim', of, spaces))]),
    binary(of, '<>', { text: '' }),
  ];
  if (facets.lines === 'many') parts.push(binary(call('instr', of, call('char', { number: 13 })), '=', { number: 0 }));
  if (facets.case === 'lower') parts.push(binary(of, 'NOT GLOB', { text: '*[A-Z]*' }));
  if (facets.case === 'upper') parts.push(binary(of, 'NOT GLOB', { text: '*[a-z]*' }));
  if (facets.collapse === true) {
    const others = whiteSpace.filter((point) => point !== 0x20).map((number) => ({ number }));
    const anywhere: Sql = { joined: [{ text: '*[' }, call('char', ...others), { text: ']*' }] };
    parts.push(binary(of, 'NOT GLOB', { text: '*  *' }), binary(of, 'NOT GLOB', anywhere));
  }
  return { all: parts };
}

export function includes(text: Sql, part: Sql, where: 'anywhere' | 'start' | 'end'): Sql {
  if (where === 'anywhere') return binary(call('instr', text, part), '>', { number: 0 });
  const length = lengthOf(part);
  if (where === 'start') return binary(call('substr', text, { number: 1 }, length), '=', part);
  const from = binary(binary(lengthOf(text), '-', length), '+', { number: 1 });
  return { all: [binary(lengthOf(text), '>=', length), binary(call('substr', text, from), '=', part)] };
}

/** Sums of whole numbers only: anything else becomes a floating-point number, and a product can overflow to one. */
export function arithmetic(
  by: '+' | '-' | '*',
  left: Sql,
  right: Sql,
  [a, b]: readonly [left: number, right: number],
): Sql | null {
  return a > 0 || b > 0 || by === '*' ? null : binary(left, by, right);
}

/** A scale by rounding to it; other steps of whole numbers only. */
export function multiple(value: Sql, step: string | number, isWhole: boolean): Sql | null {
  const unit = exactOf(step);
  if (isWhole) return binary(binary(value, '%', { number: step }), '=', { number: 0 });
  return unit?.digits === 1n ? binary(value, '=', call('round', value, { number: unit.scale })) : null;
}

export function daysBetween(from: Sql, to: Sql): Sql {
  const day = (of: Sql) => call('julianday', of, { text: '+0 days' });
  return binary(day(to), '-', day(from));
}

/** The digits of a text from one place on (from 1), as a whole number. */
function digits(text: Sql, from: number, count: number): Sql {
  return { cast: call('substr', text, { number: from }, { number: count }), to: 'INTEGER' };
}

export function yearOf(date: Sql): Sql {
  return digits(date, 1, 4);
}

/** Whole seconds only: with a fraction they would be floating-point numbers. */
export function secondsOf(time: Sql, seconds: Seconds): Sql | null {
  if (seconds !== 'none' && seconds > 0) return null;
  const hours = binary(digits(time, 1, 2), '*', { number: 3600 });
  const minutes = binary(digits(time, 4, 2), '*', { number: 60 });
  const whole = binary(hours, '+', minutes);
  return seconds === 'none' ? whole : binary(whole, '+', digits(time, 7, 2));
}

/** Moments are text here: both are written as finely as the finer one is, and instants without the `Z` at their end. */
export function compareMoments(
  [left, right]: readonly [left: Sql, right: Sql],
  by: string,
  [a = null, b = null]: readonly (Seconds | null)[],
  domain: Domain,
): Sql | null {
  if (a === null || b === null) return null;
  const plain = domain === 'instant' ? withoutZone : (moment: Sql) => moment;
  const most = Math.max(digitsOf(a), digitsOf(b));
  return binary(padded(plain(left), a, most), by, padded(plain(right), b, most));
}

function withoutZone(instant: Sql): Sql {
  return 'text' in instant
    ? { text: instant.text.replace('Z', '') }
    : call('replace', instant, { text: 'Z' }, { text: '' });
}

function digitsOf(seconds: Seconds): number {
  return seconds === 'none' ? 0 : seconds;
}

/** A moment as fine as that, with so many digits of a second's fraction. */
function padded(moment: Sql, seconds: Seconds, most: number): Sql {
  const own = digitsOf(seconds);
  const point = own === 0 && most > 0 ? '.' : '';
  const end = `${seconds === 'none' ? ':00' : ''}${point}${'0'.repeat(most - own)}`;
  return end === '' ? moment : { joined: [moment, { text: end }] };
}
