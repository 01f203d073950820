import { type KnownField, whiteSpace } from '../../kinds/index.js';
import { exactOf, type Pattern } from '../../model/index.js';
import { automatonOf, NotRegular, type PatternTree, readPattern } from '../../reason/index.js';
import { binary, call, type Enforced, type PatternPlace, plainLiteral, type Sql } from '../sql/index.js';
import { fixedForms, globClass, globOf } from './glob.js';
import { walkingTriggers } from './walk.js';

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

export function notCanonical({ facets }: KnownField): string | null {
  return facets.unicode === 'NFC' ? "the engine knows no Unicode normal forms: it is the server's" : null;
}

export function countGiven(columns: readonly Sql[]): Sql {
  return columns.map((of): Sql => ({ isGiven: of })).reduce((left, right) => binary(left, '+', right));
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
export function multiple(value: Sql, step: string | number, field: KnownField): Sql | null {
  const unit = exactOf(step);
  if (field.facets.precision === undefined) return binary(binary(value, '%', { number: step }), '=', { number: 0 });
  return unit?.digits === 1n ? binary(value, '=', call('round', value, { number: unit.scale })) : null;
}

export function daysBetween(from: Sql, to: Sql): Sql {
  const day = (of: Sql) => call('julianday', of, { text: '+0 days' });
  return binary(day(to), '-', day(from));
}

/**
 * A pattern without any extension: one class by its forbidden complement, a few fixed forms by GLOB (which covers the
 * whole value and tells case apart), anything else by triggers that walk the automaton.
 */
export function matches(of: Sql, pattern: Pattern, place: PatternPlace): Enforced {
  try {
    const tree = readPattern(pattern);
    const check = oneClass(tree, of) ?? union(tree, of);
    if (check !== null) return { check };
    return { statements: walkingTriggers(automatonOf(tree), place) };
  } catch (error) {
    if (error instanceof NotRegular) return { untranslated: `the pattern has ${error.construct}` };
    throw error;
  }
}

/** `[a-z]{2,}`: no character outside the class, and the length. */
function oneClass(tree: PatternTree, of: Sql): Sql | null {
  const inner = 'sequence' in tree && tree.sequence.length === 1 ? tree.sequence[0] : tree;
  if (inner === undefined || !('repeat' in inner) || !('one' in inner.repeat)) return null;
  const parts: Sql[] = [binary(of, 'NOT GLOB', { text: `*${globClass(inner.repeat.one, true)}*` })];
  if (inner.from > 0) parts.push(binary(lengthOf(of), '>=', { number: inner.from }));
  if (inner.to < Number.POSITIVE_INFINITY) parts.push(binary(lengthOf(of), '<=', { number: inner.to }));
  return parts.length === 1 && parts[0] !== undefined ? parts[0] : { all: parts };
}

function union(tree: PatternTree, of: Sql): Sql | null {
  const globs = fixedForms(tree)?.map((form) => binary(of, 'GLOB', { text: globOf(form) }));
  if (globs === undefined || globs.length === 0) return null;
  return globs.length === 1 && globs[0] !== undefined ? globs[0] : { any: globs };
}
