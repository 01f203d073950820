import { whiteSpace } from '../../kinds/index.js';
import type { Pattern } from '../../model/index.js';
import { automatonOf, NotRegular, type PatternTree, readPattern } from '../../reason/index.js';
import { binary, call, column, type Enforced, type Sql } from '../sql/index.js';
import { fixedForms, globClass, globOf } from './glob.js';
import { walkingTriggers } from './walk.js';

export function lengthOf(text: Sql): Sql {
  return call('length', text);
}

/** Equal to itself without outer white space, and not empty; where there are many lines, without carriage returns. */
export function canonical(of: Sql, lines: 'one' | 'many'): Sql {
  const spaces = call('char', ...whiteSpace.map((number) => ({ number })));
  const parts = [binary(of, '=', call('trim', of, spaces)), binary(of, '<>', { text: '' })];
  const noReturn = binary(call('instr', of, call('char', { number: 13 })), '=', { number: 0 });
  return { all: lines === 'many' ? [...parts, noReturn] : parts };
}

/**
 * A pattern without any extension: one class by its forbidden complement, a few fixed forms by GLOB (which covers the
 * whole value and tells case apart), anything else by triggers that walk the automaton.
 */
export function matches(
  name: string,
  pattern: Pattern,
  place: { readonly table: string; readonly name: string },
): Enforced {
  try {
    const tree = readPattern(pattern);
    const check = oneClass(tree, column(name)) ?? union(tree, column(name));
    if (check !== null) return { check };
    return { statements: walkingTriggers(automatonOf(tree), { ...place, column: name }) };
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
