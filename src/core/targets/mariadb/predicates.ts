import { type KnownField, whiteSpace } from '../../kinds/index.js';
import type { Domain, Value } from '../../model/index.js';
import { binary, call, plainLiteral, type Sql } from '../sql/index.js';
import { escaped } from './patterns.js';

export {
  compareTyped as compareMoments,
  countBySum as countGiven,
  withoutNormalForms as notCanonical,
} from '../sql/index.js';
export { matches } from './patterns.js';

/** The engine reads moments without `T` and without a zone; its columns hold UTC. */
export function literal(value: Value, domain: Domain): Sql {
  if (domain !== 'instant' && domain !== 'local') return plainLiteral(value, domain);
  return { text: String(value).replace('T', ' ').replace('Z', '') };
}

export function itemsIn(column: Sql): Sql {
  return call('json_length', column);
}

export function lengthOf(text: Sql): Sql {
  return call('char_length', text);
}

const spaces = `[${whiteSpace.map(escaped).join('')}]`;
const otherSpaces = `[${whiteSpace
  .filter((point) => point !== 0x20)
  .map(escaped)
  .join('')}]`;

function free(of: Sql, pattern: string): Sql {
  return binary(of, 'NOT REGEXP', { text: pattern });
}

/** Without outer white space, and not empty; in one letter case where asked. */
export function canonical(of: Sql, { facets }: KnownField): Sql {
  const parts: Sql[] = [
    ...(facets.trim === false ? [] : [free(of, `^${spaces}|${spaces}\\z`)]),
    binary(of, '<>', { text: '' }),
  ];
  if (facets.lines === 'many') parts.push(free(of, '\\x{d}'));
  if (facets.case === 'lower') parts.push(free(of, '(?-i)[A-Z]'));
  if (facets.case === 'upper') parts.push(free(of, '(?-i)[a-z]'));
  if (facets.collapse === true) parts.push(free(of, `${otherSpaces}|\\x{20}\\x{20}`));
  return { all: parts };
}

export function includes(text: Sql, part: Sql, where: 'anywhere' | 'start' | 'end'): Sql {
  if (where === 'anywhere') return binary(call('locate', part, text), '>', { number: 0 });
  return binary(call(where === 'start' ? 'left' : 'right', text, call('char_length', part)), '=', part);
}

/** Digits of the widest exact type: before the point and, of a sum, behind it. */
const WIDE = 'DECIMAL(45,15)';
const MOST_FRACTION = 15;

/** In a wide exact type: integers would overflow without a constraint's name. A product has the digits of both. */
export function arithmetic(
  by: '+' | '-' | '*',
  left: Sql,
  right: Sql,
  [a, b]: readonly [left: number, right: number],
): Sql | null {
  if (by !== '*') {
    if (a > MOST_FRACTION || b > MOST_FRACTION) return null;
    return binary({ cast: left, to: WIDE }, by, { cast: right, to: WIDE });
  }
  if (a + b > MOST_FRACTION) return null;
  return binary({ cast: left, to: `DECIMAL(32,${a})` }, by, { cast: right, to: `DECIMAL(32,${b})` });
}

export function multiple(value: Sql, step: string | number): Sql {
  // Of a negative number the engine may give a zero that is not equal to zero.
  return binary(binary(call('abs', value), '%', { number: step }), '=', { number: 0 });
}

export function daysBetween(from: Sql, to: Sql): Sql {
  return call('datediff', to, from);
}

export function yearOf(date: Sql): Sql {
  return call('year', date);
}

export function secondsOf(time: Sql): Sql {
  return call('time_to_sec', time);
}
