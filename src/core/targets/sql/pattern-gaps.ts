import type { Fidelity, Predicate } from '../../model/index.js';
import { patternsIn } from '../../reason/index.js';
import type { Context } from './predicates.js';
import { column } from './tree.js';

/** What the engine does otherwise with one of the patterns that a rule is made of; null where it does nothing otherwise. */
export function patternGap(predicate: Predicate, { dialect, table }: Context): Fidelity | null {
  for (const pattern of patternsIn(predicate)) {
    const held = dialect.matches(column(''), pattern, { table: table.name, column: '', name: '' });
    if ('check' in held && held.gap !== undefined) return { ...held.gap, is: 'other' };
  }
  return null;
}
