import { type KnownField, whiteSpace } from '../../kinds/index.js';
import { binary, call, plainLiteral, type Sql } from '../sql/index.js';

export { compareTyped as compareMoments } from '../sql/index.js';
export { matches } from './patterns.js';
export const literal = plainLiteral;

export function lengthOf(text: Sql): Sql {
  return call('char_length', text);
}

/** Equal to itself without outer white space, and not empty; in one letter case and one normal form where asked. */
export function canonical(of: Sql, { facets }: KnownField): Sql {
  const trimmed = call('btrim', of, { text: String.fromCodePoint(...whiteSpace) });
  const parts: Sql[] = [...(facets.trim === false ? [] : [binary(of, '=', trimmed)]), binary(of, '<>', { text: '' })];
  if (facets.lines === 'many') parts.push(binary(call('strpos', of, { text: '\r' }), '=', { number: 0 }));
  if (facets.case === 'lower') parts.push(binary(of, '=', call('lower', of)));
  if (facets.case === 'upper') parts.push(binary(of, '=', call('upper', of)));
  // Where text is put into the form first, marks in a wrong order take a time that grows with the square of their number.
  if (facets.unicode === 'NFC') parts.push(call('is_normalized', of, { text: 'NFC' }));
  if (facets.collapse === true) {
    const spaces = whiteSpace.filter((point) => point !== 0x20).map(escaped);
    parts.push(binary(of, '!~', { text: `[${spaces.join('')}]|\\u0020\\u0020` }));
  }
  return { all: parts };
}

export function notCanonical(): string | null {
  return null;
}

export function itemsIn(column: Sql): Sql {
  return call('jsonb_array_length', column);
}

export function countGiven(columns: readonly Sql[]): Sql {
  return call('num_nonnulls', ...columns);
}

export function includes(text: Sql, part: Sql, where: 'anywhere' | 'start' | 'end'): Sql {
  if (where === 'anywhere') return binary(call('strpos', text, part), '>', { number: 0 });
  if (where === 'start') return call('starts_with', text, part);
  return binary(call('right', text, call('char_length', part)), '=', part);
}

/** In the widest exact type, so that nothing overflows or is rounded. */
export function arithmetic(by: '+' | '-' | '*', left: Sql, right: Sql): Sql {
  return binary({ cast: left, to: 'numeric' }, by, { cast: right, to: 'numeric' });
}

export function multiple(value: Sql, step: string | number): Sql {
  return binary(binary({ cast: value, to: 'numeric' }, '%', { number: step }), '=', { number: 0 });
}

export function daysBetween(from: Sql, to: Sql): Sql {
  return binary(to, '-', from);
}

export function yearOf(date: Sql): Sql {
  return { extract: 'year', from: date };
}

/** A literal has to be cast: the engine would take it for an interval. */
export function secondsOf(time: Sql): Sql {
  return { extract: 'epoch', from: 'text' in time ? { cast: time, to: 'time' } : time };
}

function escaped(point: number): string {
  return `\\u${point.toString(16).padStart(4, '0')}`;
}
